import { isNumberFact, type Fact } from '../facts/fact';
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
}

const STEEP = 1.2;

function growthOf(condition: Condition, random: Random): number {
  if (condition === 'growing') return 0.5 + 2 * random();
  return condition === 'mixed' && random() < 0.5 ? 2 * random() : 0;
}

/** A child from its name and a source of chance. */
export function makeChild(name: string, condition: Condition, random: Random): SimulatedChild {
  const quirks = new Map<string, number>();
  const stops = condition === 'stops at a number' || condition === 'mixed' || random() < 0.3;
  return {
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
    quirk: (text) => {
      let own = quirks.get(text);
      if (own === undefined) quirks.set(text, (own = normal(random)));
      return own;
    },
  };
}

/** Where in its weeks a child stands: `back` 0 = today, 1 = at their start; `sinceHoliday` in days, null = before it, or there is none. */
export interface Moment {
  readonly back: number;
  readonly sinceHoliday: number | null;
}
export const TODAY: Moment = { back: 0, sinceHoliday: null };

const ISLAND = 2.2;

/** How far inside what the child knows a fact lies, in wholes: positive = known. */
function depth(child: SimulatedChild, fact: Fact, { back, sinceHoliday }: Moment): number {
  const lost = sinceHoliday === null ? 0 : child.forgets * (sinceHoliday < 7 ? 1 - sinceHoliday / 14 : 0.5);
  const less = back * child.growth + lost;
  if (!isNumberFact(fact)) {
    const seen = fact.layout === 'frame-fives' || fact.layout === 'five' ? child.sees : child.sees - 2;
    const anchor = fact.answer <= 3 || fact.answer === 5 || fact.answer === 10 ? ISLAND : 0;
    return seen - less - fact.answer + anchor;
  }
  const smaller = Math.min(...fact.parts);
  const island = smaller === 0 || fact.parts[0] === fact.parts[1] ? ISLAND : smaller === 1 ? 1.2 : 0;
  const lag = fact.kind === 'add' || fact.kind === 'bond' ? 0 : child.undoingLag;
  return child.workingNumber - less - lag - fact.whole + island;
}

/** The true share of answers that a child retrieves at a moment. */
export function retrieveShare(child: SimulatedChild, fact: Fact, moment: Moment): number {
  const d = (depth(child, fact, moment) + 0.5 * child.quirk(fact.text) + 0.1) / (child.fade / STEEP);
  if (d >= 0.6) return 0.97;
  return d <= -0.6 ? 0.04 : 0.04 + (0.93 * (d + 0.6)) / 1.2;
}
