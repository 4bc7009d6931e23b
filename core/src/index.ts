export * from './facts/fact';
export { countingSteps, tooShortToTell, type CountingSteps } from './facts/counting';
export * from './layouts/frame';
export { countMistakes, MISTAKES, mistakesOf, type Mistake, type MistakeCount } from './mistakes/mistake';
export { stepLines, type StepLines } from './reading/stepLines';
export { median, quantile } from './latency/logNormal';
export type { ChildTimes, Strategy } from './latency/times';
export { drawNumbers, NothingToDraw } from './plan/draw';
export { MEASURES_LAST_DAYS, WARM_UP_KINDS, WARM_UPS, warmUpNeeded, type MeasuresLately, type WarmUp } from './plan/measures';
export { away, back, dealTurns, later, type OwnAsks, type Turn } from './plan/turns';
export { TIDE_LINES, whoNext, type ChildSoFar, type Proposal, type TideLine } from './plan/whoNext';
export { pick, seeded, shuffled, type Random } from './random/random';
export { evidenceFor, type Band, type Evidence } from './reading/evidence';
export { CLASS_BEFORE, type ClassValues } from './reading/classValues';
export { isEvidence, isJudged } from './reading/evidenceOf';
export { CLASS_NEWEST } from './reading/classFit';
export { classValues, judgeChild, judgeChildren, judgeClass, unknownEstimate, type ChildJudgement, type JudgeOptions } from './reading/judge';
export {
  DEFAULT_READING_SETTINGS,
  MODEL_VERSION,
  READING_WORDS,
  type ChildEstimate,
  type Reading,
  type ReadingSettings,
  type ReadingWord,
  type Reason,
} from './reading/reading';
export * from './record/response';
export { simulateClass, type ClassPlan, type SimulatedClass, type SimulatedSitting } from './rehearsal/class';
export { answerFact, type SimulatedAnswer } from './rehearsal/answer';
export { CONDITIONS, makeChild, TODAY, type Condition, type SimulatedChild } from './rehearsal/child';
export { HARBOUR_CHILDREN } from './rehearsal/names';
export { InformedJudge, usualRule } from './rehearsal/compare';
export { review, type Checked, type Review } from './rehearsal/review';
export { auc, balancedAccuracy, brier, calibrationError, type Judged01 } from './rehearsal/score';
export { ROUTINES, routineOf, sittingAsks } from './routines/index';
export { drawPicture, type Picture } from './routines/picture';
export { factAloud, say, type Prompt } from './routines/prompts';
export { SEEN_LAYOUTS, type Ask, type Choice, type Routine, type RoutineGroup, type RoutineWish, type SeenLayout } from './routines/routine';
export { USUAL_WORDS, WORD_CHOICES, type Words } from './routines/words';
export * from './trial/machine';
export { measured, type Measured } from './trial/measured';
