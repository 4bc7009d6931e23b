export * from './facts/fact';
export * from './layouts/frame';
export { countMistakes } from './mistakes/mistake';
export { turnAround } from './facts/turnAround';
export { changesOf, countsByWeek, lastWeekBefore, type ReadingChange, type WeekCounts } from './reading/overTime';
export { heldReadings } from './reading/held';
export { MOVED_BY, movedReadings, type Moved } from './reading/moved';
export { stepLines, type StepLines } from './reading/stepLines';
export { grouped } from './statistics/grouped';
export { median } from './statistics/quantile';
export { STRATEGIES, handSeconds, type ChildTimes } from './latency/times';
export { MEASURES_LAST_DAYS, warmUpNeeded, type MeasuresLately, type WarmUp } from './routines/warmUp';
export { removeChild, returnChild, dealTurns, postponeTurn, sparing, type Turn } from './plan/turns';
export { stillCounted } from './plan/classView';
export {
  plannedChildren,
  plannedFor,
  sessionOf,
  weekDaysAsked,
  type ChildNeed,
  type PlannedChild,
  type PlannedSitting,
} from './plan/classPlan';
export { isAt, isShort, nameOf, routinesFor, type Need } from './plan/need';
export { planDay, type PlannedDay } from './plan/day';
export { planWeek, type WeekDay } from './plan/week';
export { expectedGain } from './plan/expectedGain';
export { AIMS, type Aim } from './plan/offer';
export { childSession, findingOut } from './plan/session';
export type { ProposedFact, ProposeWish } from './plan/propose';
export { openerFor } from './plan/opener';
export { HELP_LEVELS, numberToPlan, placeOf, placeOfNeed, type HelpLevel, type Place } from './plan/place';
export { readyFor, type NextStep } from './plan/ready';
export { anotherWay, STUCK_DAYS, stuckOn, type Stuck } from './plan/stuck';
export { whoKnows, type Topic } from './plan/whoKnows';
export { notable } from './plan/notable';
export { isFirm, needleOf, standingOf, STANDINGS, type Standing } from './plan/standing';
export { workingNumber, type PairSoFar, type WorkingNumber } from './plan/workingNumber';
export { pick, seeded, shuffled, type Random } from './random/random';
export { evidenceFor, type Evidence } from './reading/evidence';
export { CLASS_BEFORE, type ClassValues } from './reading/classValues';
export { isEvidence } from './reading/evidenceOf';
export { measuringOf, type HowMeasured } from './reading/measuring';
export { CLASS_NEWEST } from './reading/classFit';
export {
  classValues,
  explainFact,
  judgeChild,
  judgeChildren,
  judgeClass,
  unknownEstimate,
  type ChildJudgement,
  type JudgeOptions,
} from './reading/judgeChild';
export {
  DEFAULT_READING_SETTINGS,
  MODEL_VERSION,
  isOpen,
  READING_WORDS,
  type ChildEstimate,
  type Reading,
  type ReadingSettings,
  type ReadingWord,
  type Reason,
} from './reading/reading';
export * from './record/response';
export { untimedAnswer } from './record/untimed';
export { sequenceOf, type Happening } from './reading/sequence';
export { lastSession, lastSitting, type SessionSum } from './reading/lastSession';
export { helped, saidHow } from './record/saidHow';
export { simulateClass, type SimulatedClass } from './rehearsal/class';
export { answerFact, type SimulatedAnswer } from './rehearsal/answer';
export { CONDITIONS, makeChild, TODAY, type Condition } from './rehearsal/child';
export { HARBOUR_CHILDREN } from './rehearsal/names';
export { InformedJudge, Told, usualRule } from './rehearsal/compare';
export { review, type Review } from './rehearsal/review';
export { answersUntil } from './rehearsal/settle';
export { auc, brier, calibrationError, type Judged01 } from './rehearsal/score';
export { answerTo, isFact, parseQuestion } from './facts/question';
export {
  builtNumber,
  move,
  moveAcross,
  newBoard,
  slipOf,
  toggle,
  type Board,
  type BoardPlan,
  type Slip,
} from './routines/board';
export { ROUTINES, routineOf, sittingAsks } from './routines/index';
export { howPut, plannedAsks } from './routines/planned';
export { OPTION_NAMES, USUAL_OPTIONS, valuesOf, type Options } from './routines/options';
export type { Counters } from './layouts/drawn';
export { drawPicture, type Picture } from './routines/picture';
export {
  boardAfter,
  explanationsFor,
  helpPicture,
  replyTo,
  sayWith,
  sentenceOf,
  tellsAnswer,
  type Reply,
} from './routines/reply';
export type { Prompt } from './routines/prompt';
export { shelfEntry } from './routines/shelf';
export { scriptOf } from './routines/script';
export { ROUTINE_IDS, type RoutineId } from './routines/routineIds';
export { catalogue, languageFor, type Catalogue, type Language } from './words/catalogue';
export { english } from './words/english/index';
export type { CellProblem } from './words/english/imports';
export { scriptInWords } from './words/english/script';
export {
  cautionsOf,
  isRight,
  rightAnswer,
  optionsFor,
  makeAsk,
  talk,
  FORMS,
  ROUTINE_GROUPS,
  SEEN_LAYOUTS,
  type Answered,
  type Ask,
  type Choice,
  type Want,
  type PlannedAsk,
  type Routine,
  type RoutineWish,
} from './routines/routine';
export { applySupport, SUPPORTS, type Support } from './routines/support';
export { USUAL_WORDS, WORD_CHOICES, type Words } from './routines/classWords';
export {
  CARD_SIZE_NAMES,
  cardsOf,
  drawnPages,
  PRINT_NAMES,
  PRINTS,
  type PrintName,
  type Needs,
} from './prints/allPrints';
export { mostOn, svgCard, type Card } from './prints/cards';
export { groupSheet } from './prints/groupSheet';
export { carpetSheet } from './prints/carpetSheet';
export { classHandOver } from './prints/classHandOver';
export { evening } from './prints/evening';
export { handOver } from './prints/handOver';
export { strengths } from './plan/strengths';
export { homeSheet } from './prints/homeSheet';
export { MATS } from './prints/mats';
export { INKS, PAPERS, sheetOf, type PaperName, type PrintPage } from './prints/paper';
export type { Block } from './prints/text';
export * from './trial/machine';
export { OnsetDetector } from './voice/onset';
export { utterance } from './voice/speech';
export { measured, type Measured } from './trial/measured';
export { DAY_MS, dateOfDay, dayOfDate, isTimeZone, mondayOf, schoolDays, startOfDay } from './time/schoolDay';
export { teachingDays, USUAL_WEEKDAYS, type DaysOff } from './time/teachingDays';
