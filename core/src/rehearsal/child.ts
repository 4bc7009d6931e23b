import { isNumberFact, type Fact } from '../facts/fact';
import { gamma, normal, type Random } from '../random/random';

/**
 * A simulated child with known truth. Made on purpose of other distributions than the judgement assumes: knowledge stops at a working number and has
 * islands; times are sums of shifted gamma and Weibull parts; lapses are flat. Nothing in the judgement is tuned to it.
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
  /** Wholes below this are known, in adding, at the end. May be a fraction: the working number is partly known. */
  readonly workingNumber: number;
  /** Largest number seen at a glance on a frame by fives, at the end. */
  readonly sees: number;
  /** By how much workingNumber and sees grew over the weeks. */
  readonly growth: number;
  /** How far take-away and missing part lag behind adding, in wholes. */
  readonly undoingLag: number;
  /** A fixed deviation for each fact, so that children differ in which pairs they happen to know. */
  readonly quirk: (factText: string) => number;
}

/** A child from its name and a source of chance. */
export function makeChild(name: string, random: Random): SimulatedChild {
  const quirks = new Map<string, number>();
  const quirkSource = random;
  return {
    name,
    handSeconds: 0.65 + 0.9 * random() ** 1.5,
    handTail: 0.12 + 0.2 * random(),
    fetchSeconds: 0.35 + 0.45 * random(),
    paceSeconds: 0.4 + gamma(random, 6, 0.06),
    countsAll: random() < 0.25 ? 0.8 : 0.15,
    lapseRate: 0.02 + 0.06 * random(),
    workingNumber: 2.5 + 7 * random(),
    sees: 3 + 8 * Math.sqrt(random()),
    growth: random() < 0.5 ? 0 : 2 * random(),
    undoingLag: 1 + 2 * random(),
    quirk: (text) => {
      let own = quirks.get(text);
      if (own === undefined) quirks.set(text, (own = normal(quirkSource)));
      return own;
    },
  };
}

const ISLAND = 2.2;

/** How far inside what the child knows a fact lies, in wholes: positive = known. */
function depth(child: SimulatedChild, fact: Fact, back: number): number {
  const grown = back * child.growth;
  if (!isNumberFact(fact)) {
    const seen = fact.layout === 'frame-fives' || fact.layout === 'five' ? child.sees : child.sees - 2;
    const anchor = fact.answer <= 3 || fact.answer === 5 || fact.answer === 10 ? ISLAND : 0;
    return seen - grown - fact.answer + anchor;
  }
  const smaller = Math.min(...fact.parts);
  const island = smaller === 0 || fact.parts[0] === fact.parts[1] ? ISLAND : smaller === 1 ? 1.2 : 0;
  const lag = fact.kind === 'add' || fact.kind === 'bond' ? 0 : child.undoingLag;
  return child.workingNumber - grown - lag - fact.whole + island;
}

/**
 * The true share of answers that a child retrieves.
 * @param back how far before the end: 0 = today, 1 = at the start of the weeks
 */
export function retrieveShare(child: SimulatedChild, fact: Fact, back: number): number {
  const d = depth(child, fact, back) + 0.5 * child.quirk(fact.text);
  if (d >= 0.5) return 0.97;
  return d <= -0.7 ? 0.04 : 0.04 + (0.93 * (d + 0.7)) / 1.2;
}
