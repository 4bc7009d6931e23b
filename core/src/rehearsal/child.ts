import { isNumberFact, type Fact, type NumberFact } from '../facts/fact';
import { gamma, normal, type Random } from '../random/random';

/** Conditions under which a class can be simulated. `mixed` has a little of most: the demo's and Rehearse's. */
export const CONDITIONS = [
  'mixed',
  'plain',
  'heavy-tailed',
  'spoken',
  'no warm-ups',
  'few answers',
  'restless',
  'growing',
  'holiday',
  'stops at a number',
  'grows, then stops',
  'one by one',
  'islands',
  'swaying',
  'several ways',
  'odd children',
  'two adults',
  'slower half way',
  'hands that change',
  'very slow hands',
  'counting all, no warm-ups',
  'growing in share',
  'tiring',
] as const;
export type Condition = (typeof CONDITIONS)[number];

/**
 * A simulated child with known truth. Made on purpose of other distributions than the judgement assumes: times are sums of shifted gamma and Weibull parts,
 * lapses are flat, knowledge stops at a number or fades beyond it, with islands and quirks. Nothing in the judgement is tuned to it.
 */
export interface SimulatedChild {
  readonly name: string;
  /** Seconds: shortest hand time, and mean of its exponential tail. */
  readonly handSeconds: number;
  readonly handTail: number;
  /** Seconds to fetch a known fact: Weibull scale. */
  readonly fetchSeconds: number;
  readonly paceSeconds: number;
  /** Share of counted answers that count all. */
  readonly countsAll: number;
  readonly lapseRate: number;
  /** Chance that a time is drawn out to a multiple of itself, as nothing in the judgement expects. */
  readonly drawnOut: number;
  /** Seconds by which the adult marks a spoken answer late, on average. */
  readonly adultLag: number;
  /** Wholes below this are known, in adding, at the end. May be a fraction: the working number is partly known. */
  readonly workingNumber: number;
  /** Largest number seen at a glance on a frame by fives, at the end. */
  readonly sees: number;
  /** Over how many wholes knowing fades into not knowing: small = it stops at a number. */
  readonly fade: number;
  /** By how much workingNumber and sees grew over the weeks. */
  readonly growth: number;
  /** By how much they fell over a holiday, half of which came back within a week. */
  readonly forgets: number;
  /** How far take-away and missing part lag behind adding, in wholes. */
  readonly undoingLag: number;
  /** A fixed deviation for each fact, so that children differ in which pairs they happen to know. */
  readonly quirk: (factText: string) => number;
  /** Share of the growth that still lies ahead at a moment (`back`, see Moment): 1 = all of it. */
  readonly ahead: (back: number) => number;
  /** The `back` at which a fact was learned of a sudden; 1 = before the weeks began. */
  readonly learned: (factText: string) => number;
  /** Wholes by which a family of facts stands out of what the child knows (an island) or is missing in it. */
  readonly island: (family: string) => number;
  /** Share retrieved of a fact that lies deep inside what is known. */
  readonly surest: number;
  /** Chance that what is not retrieved is guessed at once. */
  readonly guesses: number;
  /** Spread of the child's tempo from sitting to sitting, in log units. */
  readonly sway: number;
  /** By how much slower the last answer of a sitting is than the first, as a share. */
  readonly tires: number;
  /** Hand time at a moment (`back`) as a multiple of what it was. */
  readonly hand: (back: number) => number;
  /** Share retrieved of a known fact at a moment (`back`) as a share of what it is at the end. */
  readonly sharedThen: (back: number) => number;
  /** The share retrieved of a fact at the end, where it does not follow from the numbers above. */
  readonly shareOf: ((fact: NumberFact) => number) | null;
  readonly adult: SimulatedAdult;
}

/** Whoever sits with the child. */
export interface SimulatedAdult {
  /** How often a sign is marked, and how often it is the true one. */
  readonly signs: number;
  readonly rightly: number;
  /** How often another number than the one said is marked. */
  readonly slips: number;
}

const STEEP = 1.2;

function growthOf(condition: Condition, random: Random): number {
  if (condition === 'growing') return 0.5 + 2 * random();
  return condition === 'mixed' && random() < 0.5 ? 2 * random() : 0;
}

/** A value a key, drawn when it is first asked for. */
function drawn(draw: () => number): (key: string) => number {
  const values = new Map<string, number>();
  return (key) => {
    let own = values.get(key);
    if (own === undefined) values.set(key, (own = draw()));
    return own;
  };
}

/** What sets the children of some conditions apart from the usual. */
const UNLIKE: Partial<Record<Condition, (random: Random, usual: SimulatedChild) => Partial<SimulatedChild>>> = {
  // Most is learned in the first half of the weeks, then nothing for as long.
  'grows, then stops': (random) => ({
    growth: 1 + 2 * random(),
    ahead: (back) => Math.max(0, Math.min(1, 2 * back - 1)),
    surest: 0.88 + 0.1 * random(),
  }),
  // Two facts in five are learned during the weeks, each in one day, whatever its number.
  'one by one': (random) => ({
    learned: drawn(() => (random() < 0.4 ? random() : 1)),
    surest: 0.86 + 0.12 * random(),
  }),
  islands: (random) => ({ island: islands(random, 0.2), surest: 0.86 + 0.12 * random() }),
  swaying: (random) => ({ island: islands(random, 0.1), sway: 0.25, surest: 0.9 }),
  'several ways': (random) => ({
    adult: { signs: 0.4, rightly: 0.6, slips: 0.03 },
    adultLag: 0.4 + 0.8 * random(),
  }),
  'odd children': odd,
  // A new tablet that nobody named: the same way of answering takes everybody longer.
  'slower half way': (random, { workingNumber }) => ({
    hand: (back) => (back > 0.5 ? 1 : 1.7),
    shareOf: byRank(random, workingNumber),
  }),
  'hands that change': (random, { workingNumber }) => ({
    hand: changingHand(random),
    shareOf: byRank(random, workingNumber),
  }),
  // One child in four has a hand three times as slow, and fetches as quickly as others.
  'very slow hands': (random, { workingNumber }) => ({
    hand: (
      (slow) => () =>
        slow ? 3 : 1
    )(random() < 0.25),
    shareOf: byRank(random, workingNumber),
  }),
  'counting all, no warm-ups': (random, { workingNumber }) => ({
    ...(random() < 0.4 ? { countsAll: 0.95, paceSeconds: 0.3 + 0.25 * random() } : {}),
    shareOf: byRank(random, workingNumber),
  }),
  'growing in share': (random) => ({ sharedThen: risingShare(random), surest: 0.9 + 0.09 * random() }),
  tiring: (random, { workingNumber }) => ({
    sway: 0.15,
    tires: 0.2 + 0.3 * random(),
    shareOf: byRank(random, workingNumber),
  }),
};

/**
 * Knowledge by rank and chance: facts have a difficulty, each with luck of its own; well within a child's reach the share retrieved is anywhere near one, well beyond it near nought, and in a narrow fringe anything at all.
 */
function byRank(random: Random, workingNumber: number): (fact: NumberFact) => number {
  const reach = workingNumber + 0.7 * normal(random);
  const lag = 2 * random();
  const luck = drawn(() => normal(random));
  const chance = drawn(random);
  return (fact) => {
    const smaller = Math.min(...fact.parts);
    const easier = smaller === 0 ? 2.5 : fact.parts[0] === fact.parts[1] ? 1.5 : smaller === 1 ? 1 : 0;
    const within = reach - fact.whole + easier - (fact.kind === 'add' ? 0 : lag) + 0.9 * luck(fact.text);
    const u = chance(fact.text);
    if (Math.abs(within) < 0.6) return u;
    return within > 0 ? 1 - 0.22 * u ** 2 : 0.45 * u ** 2;
  };
}

/** Of three children one has a hand that changes on some day, one a hand that drifts, and one an even one. */
function changingHand(random: Random): (back: number) => number {
  const kind = Math.floor(3 * random());
  const at = 0.2 + 0.6 * random();
  const by = (random() < 0.5 ? -1 : 1) * (0.35 + 0.35 * random());
  if (kind === 0) return (back) => (back > at ? 1 : Math.exp(by));
  return kind === 1 ? (back) => Math.exp(by * (1 - back)) : () => 1;
}

/** What is known comes more and more often, along a curve that ends when two thirds of the weeks are over. */
function risingShare(random: Random): (back: number) => number {
  const less = 0.2 + 0.7 * random();
  return (back) => {
    const x = Math.max(0, (back - 1 / 3) / (2 / 3));
    return 1 - less * x * x * (3 - 2 * x);
  };
}

/** Families known though their number is not, and as many missing in what is known. */
const islands = (random: Random, each: number) =>
  drawn(() => {
    const u = random();
    return u < each ? 4 : u < 2 * each ? -4 : 0;
  });

/** One in three is like the others; one counts all, as fast as others speak; one says something at once; one is slow at everything but knows it. */
function odd(random: Random): Partial<SimulatedChild> {
  const kind = Math.floor(4 * random());
  if (kind === 1) return { paceSeconds: 0.22, countsAll: 0.95, workingNumber: 2 };
  if (kind === 2) return { guesses: 0.7, handSeconds: 0.55 };
  if (kind === 3) return { handSeconds: 2.4, handTail: 0.9, fetchSeconds: 1.3, paceSeconds: 1.1, surest: 0.92 };
  return {};
}

/** A child from their name and a source of chance. */
export function makeChild(name: string, condition: Condition, random: Random): SimulatedChild {
  const stops = condition === 'stops at a number' || condition === 'swaying' || condition === 'mixed' || random() < 0.3;
  const usual: SimulatedChild = {
    name,
    handSeconds: 0.65 + 0.9 * random() ** 1.5,
    handTail: 0.12 + 0.2 * random(),
    fetchSeconds: 0.35 + 0.45 * random(),
    paceSeconds: 0.4 + gamma(random, 6, 0.06),
    countsAll: random() < 0.25 ? 0.8 : 0.15,
    lapseRate: condition === 'restless' ? 0.15 + 0.2 * random() : 0.02 + 0.06 * random(),
    drawnOut: condition === 'heavy-tailed' ? 0.2 : 0,
    adultLag: 0.25 + 0.3 * random(),
    workingNumber: 2.5 + 7 * random(),
    sees: 3 + 8 * Math.sqrt(random()),
    fade: stops ? STEEP : 2.5 + 3 * random(),
    growth: growthOf(condition, random),
    forgets: condition === 'holiday' ? 0.5 + 1.5 * random() : 0,
    undoingLag: 1 + 2 * random(),
    quirk: drawn(() => normal(random)),
    ahead: (back) => back,
    learned: () => 1,
    island: () => 0,
    surest: 0.97,
    guesses: 0.08,
    sway: 0,
    tires: 0,
    hand: () => 1,
    sharedThen: () => 1,
    shareOf: null,
    adult: { signs: 0.12, rightly: 0.88, slips: 0 },
  };
  return { ...usual, ...UNLIKE[condition]?.(random, usual) };
}

/** Where in its weeks a child stands: `back` 0 = today, 1 = at their start; `sinceHoliday` in days, null = before it, or there is none; `tempo` as a multiple of the usual time. */
export interface Moment {
  readonly back: number;
  readonly sinceHoliday: number | null;
  readonly tempo: number;
}
export const TODAY: Moment = { back: 0, sinceHoliday: null, tempo: 1 };

const ISLAND = 2.2;

/** How far inside what the child knows a fact lies, in wholes: positive = known. */
function depth(child: SimulatedChild, fact: Fact, { back, sinceHoliday }: Moment): number {
  const lost = sinceHoliday === null ? 0 : child.forgets * (sinceHoliday < 7 ? 1 - sinceHoliday / 14 : 0.5);
  const less = child.ahead(back) * child.growth + lost;
  if (!isNumberFact(fact)) {
    const seen = fact.layout === 'frame-fives' || fact.layout === 'five' ? child.sees : child.sees - 2;
    const anchor = fact.answer <= 3 || fact.answer === 5 || fact.answer === 10 ? ISLAND : 0;
    return seen - less - fact.answer + anchor;
  }
  const smaller = Math.min(...fact.parts);
  const island = smaller === 0 || fact.parts[0] === fact.parts[1] ? ISLAND : smaller === 1 ? 1.2 : 0;
  const lag = fact.kind === 'add' || fact.kind === 'bond' ? 0 : child.undoingLag;
  const family = `${smaller}+${fact.whole - smaller}`;
  return child.workingNumber - less - lag - fact.whole + island + child.island(family);
}

/** The true share of answers that a child retrieves at a moment. */
export function retrieveShare(child: SimulatedChild, fact: Fact, moment: Moment): number {
  return child.sharedThen(moment.back) * shareAtEnd(child, fact, moment);
}

function shareAtEnd(child: SimulatedChild, fact: Fact, moment: Moment): number {
  if (child.shareOf !== null && isNumberFact(fact)) return child.shareOf(fact);
  const d = (depth(child, fact, moment) + 0.5 * child.quirk(fact.text) + 0.1) / (child.fade / STEEP);
  if (d <= -0.6 || moment.back > child.learned(fact.text)) return LEAST;
  return d >= 0.6 ? child.surest : LEAST + ((child.surest - LEAST) * (d + 0.6)) / 1.2;
}

/** Share retrieved of a fact that lies far beyond what is known. */
const LEAST = 0.04;

/** The true shares of the ways in which a child answers, in the order of STRATEGIES. */
export function strategyShares(child: SimulatedChild, fact: Fact, moment: Moment): [number, number, number, number] {
  const retrieve = retrieveShare(child, fact, moment);
  const hard = isNumberFact(fact) && fact.whole > child.workingNumber + 3;
  const guess = Math.max(child.guesses, hard ? 0.3 : 0);
  const derive = Math.max(0, 0.28 - guess);
  const rest = 1 - retrieve;
  return [retrieve, rest * derive, rest * (1 - guess - derive), rest * guess];
}
