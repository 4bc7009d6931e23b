import { factsWithinTen, isNumberFact, parseFact, type Fact, type NumberFact, type Operation } from '../facts/fact';
import { DAY_MS, isWeekend } from '../time/schoolDay';
import { normal, pick, seeded, shuffled, type Random } from '../random/random';
import { NOTHING_ADDED, type AnswerMode, type Response } from '../record/response';
import { answerFact } from './answer';
import { makeChild, retrieveShare, TODAY, type Condition, type Moment, type SimulatedChild } from './child';

export interface ClassPlan {
  readonly seed: number;
  readonly names: readonly string[];
  readonly weeks: number;
  /** `mixed` when not given. */
  readonly condition?: Condition;
  /** The moment up to which the class has been asked, milliseconds since 1970. The last sitting lies on the weekday before. */
  readonly until: number;
  /** Makes the id of a sitting or response from its time: ids are the caller's business. */
  readonly makeId: (atMs: number) => string;
}

export interface SimulatedSitting {
  readonly id: string;
  readonly child: string;
  readonly startedAt: number;
  readonly answerMode: AnswerMode;
  /** How the child was then. */
  readonly moment: Moment;
  /** The child's answers there: through that adult, on that device. */
  readonly as: SimulatedChild;
  /** Who marks, and on what; empty where all sittings are alike. */
  readonly markedBy: string;
  readonly device: string;
}

/** A simulated class: what Vane would have recorded, and what is true. */
export interface SimulatedClass {
  readonly sittings: readonly SimulatedSitting[];
  readonly responses: readonly Response[];
  readonly truth: readonly { readonly child: string; readonly fact: string; readonly retrieveShare: number }[];
  readonly children: readonly SimulatedChild[];
}

/** Sittings begin at nine in the morning UTC. */
const NINE_MS = 9 * 3_600_000;
/** A flash's length, milliseconds, and one display frame. */
const FLASH_MS = 750;
const FRAME_MS = 1000 / 60;

/** Weekdays in the weeks before `until`, oldest first, as midnights UTC. */
function schoolDays(until: number, weeks: number): number[] {
  const today = Math.floor(until / DAY_MS) * DAY_MS;
  return Array.from({ length: weeks * 7 }, (_, i) => today - (weeks * 7 - i) * DAY_MS).filter(
    (day) => !isWeekend(day / DAY_MS),
  );
}

/** Around the working number, some below and a few beyond. */
function isNear(child: SimulatedChild, fact: NumberFact): boolean {
  const lag = fact.kind === 'add' ? 0 : child.undoingLag;
  return fact.whole >= 2 && Math.abs(fact.whole - (child.workingNumber - lag)) <= 2.6;
}
/** Numbers from which on a child is asked more than to add. */
const UNDOES_FROM = 4;

/** Whether a teacher would ask this child a fact. */
export const mayBeAsked = (child: SimulatedChild, fact: Fact): boolean =>
  !isNumberFact(fact) || (isNear(child, fact) && (fact.kind === 'add' || child.workingNumber > UNDOES_FROM));

function numberFacts(child: SimulatedChild, random: Random): string[] {
  const some = (operation: Operation, most: number): string[] =>
    shuffled(
      random,
      factsWithinTen(operation).filter((text) => isNear(child, parseFact(text) as NumberFact)),
    ).slice(0, most);
  const [adding, taking, missing] = [some('add', 7), some('subtract', 3), some('missing', 2)];
  return [...adding, ...(child.workingNumber > UNDOES_FROM ? [...taking, ...missing] : [])];
}

function showTexts(random: Random): string[] {
  const layout = pick(random, ['frame-fives', 'frame-fives', 'frame-fives', 'five', 'frame-pairs']);
  const most = layout === 'five' ? 5 : 10;
  return shuffled(
    random,
    Array.from({ length: most }, (_, i) => `show:${i + 1}:${layout}`),
  ).slice(0, 8);
}

function questions(child: SimulatedChild, number: number, warmUps: boolean, random: Random): string[] {
  const copies =
    warmUps && number % 2 === 0
      ? shuffled(random, [1, 2, 3, 4, 5, 6, 7, 8, 9, 10])
          .slice(0, 4)
          .map((n) => `match:${n}`)
      : [];
  const counts =
    warmUps && number % 4 === 1
      ? [`count:${3 + Math.floor(3 * random())}:scatter`, `count:${6 + Math.floor(4 * random())}:scatter`]
      : [];
  return [...copies, ...counts, ...showTexts(random), ...numberFacts(child, random)];
}

function toResponse(fact: Fact, sitting: SimulatedSitting, shownAt: number, plan: ClassPlan, random: Random): Response {
  const answer = answerFact(sitting.as, fact, sitting.answerMode, sitting.moment, random);
  const frames = Math.round(FLASH_MS / FRAME_MS);
  return {
    ...NOTHING_ADDED,
    id: plan.makeId(shownAt),
    child: sitting.child,
    sitting: sitting.id,
    markedBy: sitting.markedBy,
    device: sitting.device,
    shownAt,
    kind: fact.kind,
    fact: fact.text,
    answerMode: sitting.answerMode,
    exposureMs: fact.kind === 'show' ? Math.round(frames * FRAME_MS * 10) / 10 : null,
    responseMs: Math.round(answer.responseMs * 10) / 10,
    given: String(answer.given),
    outcome: answer.given === fact.answer ? 'correct' : 'wrong',
    sign: answer.sign,
    void: random() < 0.01 ? 'spoiled' : '',
    flags: random() < (plan.condition === 'restless' ? 0.06 : 0.01) ? ['blurred'] : [],
  };
}

/** Length of the holiday and days from its end to the end of the run; where the condition has one. */
const HOLIDAY = { days: 17, endedDaysAgo: 8 };
/** How a child stands at the end. */
export const endOf = (condition: Condition): Moment =>
  condition === 'holiday' ? { ...TODAY, sinceHoliday: HOLIDAY.endedDaysAgo } : TODAY;
/** Ways of answering in turn, where there are several. */
const SEVERAL: readonly AnswerMode[] = ['tap', 'spoken', 'tap', 'write', 'pad'];
/**
 * Two adults and two devices, four sittings each in turn: one adult is quick and sees well, the other stops the clock late, marks another number now and then and is wrong about every other sign; on the board an arm's way is longer than
 * on a tablet.
 */
const IN_TURN = [
  { markedBy: 'first', device: 'tablet', lag: 0.2, reach: 1, adult: { signs: 0.15, rightly: 0.95, slips: 0 } },
  { markedBy: 'second', device: 'board', lag: 0.9, reach: 1.5, adult: { signs: 0.3, rightly: 0.45, slips: 0.05 } },
] as const;

/** The child with a slower hand. */
const slowedBy = (child: SimulatedChild, factor: number): SimulatedChild =>
  factor === 1 ? child : { ...child, handSeconds: factor * child.handSeconds, handTail: factor * child.handTail };

/** How a child answers at a sitting, and how: where all are alike, as ever. */
function asIn(
  condition: Condition,
  child: SimulatedChild,
  number: number,
  mode: AnswerMode,
  back: number,
): Pick<SimulatedSitting, 'as' | 'markedBy' | 'device' | 'answerMode'> {
  if (condition !== 'two adults')
    return { as: slowedBy(child, child.hand(back)), markedBy: '', device: '', answerMode: mode };
  const { lag, reach, adult, ...who } = IN_TURN[Math.floor(number / 4) % 2]!;
  const as = { ...slowedBy(child, reach), adult, adultLag: lag };
  return { ...who, as, answerMode: Math.floor(number / 2) % 2 === 0 ? 'tap' : 'spoken' };
}

const WITHOUT_WARM_UPS: ReadonlySet<Condition> = new Set(['no warm-ups', 'counting all, no warm-ups']);

/** Sittings of a child of whom there are few answers. */
const FEW = 3;

/** Days on which the i-th child is asked: three a week, in a rhythm of their own; every seventh child was away for the last nine days. */
function daysOf(index: number, days: readonly number[], { until, condition }: ClassPlan): number[] {
  const age = (day: number): number => (until - day) / DAY_MS;
  const away = (day: number): boolean =>
    condition === 'holiday'
      ? age(day) > HOLIDAY.endedDaysAgo && age(day) <= HOLIDAY.endedDaysAgo + HOLIDAY.days
      : index % 7 === 6 && age(day) <= 9;
  const sat = days.filter((day) => !away(day)).filter((_, d) => (d * 3 + index) % 5 < 3);
  return condition === 'few answers' ? sat.slice(-FEW) : sat;
}

/** Runs a class through its weeks. The same plan gives the same class. */
export function simulateClass(plan: ClassPlan): SimulatedClass {
  const { condition = 'mixed' } = plan;
  const days = schoolDays(plan.until, plan.weeks);
  const sittings: SimulatedSitting[] = [];
  const responses: Response[] = [];
  const truth: { child: string; fact: string; retrieveShare: number }[] = [];
  const children = plan.names.map((name, index) => {
    const random = seeded(plan.seed * 1009 + index);
    const child = makeChild(name, condition, random);
    const spoken = condition === 'spoken' || (condition === 'mixed' && index % 6 === 5);
    const asked = new Set<string>();
    daysOf(index, days, plan).forEach((day, number, own) => {
      const startedAt = day + NINE_MS + index * 90_000;
      const since = (plan.until - day) / DAY_MS;
      const back = 1 - number / Math.max(1, own.length - 1);
      const sitting: SimulatedSitting = {
        id: plan.makeId(startedAt),
        child: name,
        startedAt,
        ...asIn(
          condition,
          child,
          number,
          condition === 'several ways' ? SEVERAL[(index + number) % SEVERAL.length]! : spoken ? 'spoken' : 'tap',
          back,
        ),
        moment: {
          back,
          sinceHoliday: condition === 'holiday' && since <= HOLIDAY.endedDaysAgo ? HOLIDAY.endedDaysAgo - since : null,
          tempo: child.sway > 0 ? Math.exp(child.sway * normal(random)) : 1,
        },
      };
      sittings.push(sitting);
      questions(child, number, !WITHOUT_WARM_UPS.has(condition), random).forEach((text, i, all) => {
        const fact = parseFact(text);
        if (fact.kind !== 'match' && fact.kind !== 'count') asked.add(text);
        const tired = { ...sitting.moment, tempo: sitting.moment.tempo * (1 + (child.tires * i) / all.length) };
        responses.push(toResponse(fact, { ...sitting, moment: tired }, startedAt + 4_000 + i * 9_000, plan, random));
      });
    });
    const end = endOf(condition);
    for (const fact of asked)
      truth.push({ child: name, fact, retrieveShare: retrieveShare(child, parseFact(fact), end) });
    return child;
  });
  return { sittings, responses, truth, children };
}
