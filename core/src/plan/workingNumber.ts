import { isNumberFact, parseFact } from '../facts/fact';
import type { Reading } from '../reading/reading';

/** One pair of a whole, and how far it is: known when any way of asking for it is read as known. */
export interface PairSoFar {
  readonly first: number;
  readonly second: number;
  readonly asked: boolean;
  readonly known: boolean;
  /** Asked, and more likely known than not, though not read as known yet. */
  readonly leaning: boolean;
}

export interface WorkingNumber {
  /** The number whose pairs are being fixed now; null when no pair has been asked yet, or when all are known. */
  readonly number: number | null;
  readonly allKnown: boolean;
  /** By whole, from 2 to 10: its pairs without zero, the smaller part first. */
  readonly pairs: ReadonlyMap<number, readonly PairSoFar[]>;
}

/** Probability from which on a pair speaks for its whole being fixed, and below which against it. */
const EVEN = 0.5;

/**
 * The working number: the smallest whole whose pairs are not yet secure, by the readings. Children answer unevenly, so no single pair
 * decides: it is the step that fits best, pairs below it known, pairs from it on not. Each whole that was asked weighs the same, by the mean over its pairs of the
 * best probability in any way of asking.
 */
export function workingNumber(readings: readonly Reading[]): WorkingNumber {
  const seen = new Map<string, { asked: boolean; known: boolean; p: number }>();
  for (const { fact: text, reading, responses, pAutomatic } of readings) {
    const fact = parseFact(text);
    if (!isNumberFact(fact) || Math.min(...fact.parts) === 0) continue;
    const name = `${fact.whole}:${Math.min(...fact.parts)}`;
    const so = seen.get(name) ?? { asked: false, known: false, p: 0 };
    seen.set(name, {
      asked: so.asked || responses > 0,
      known: so.known || reading === 'knows',
      p: responses > 0 ? Math.max(so.p, pAutomatic) : so.p,
    });
  }
  const pairs = new Map<number, PairSoFar[]>();
  const scores: { whole: number; over: number }[] = [];
  for (let whole = 2; whole <= 10; whole++) {
    const own = Array.from({ length: Math.floor(whole / 2) }, (_, i) => ({
      first: i + 1,
      second: whole - i - 1,
      ...(seen.get(`${whole}:${i + 1}`) ?? UNSEEN),
    }));
    pairs.set(
      whole,
      own.map(({ first, second, asked, known, p }) => ({ first, second, asked, known, leaning: !known && p >= EVEN })),
    );
    const asked = own.filter((p) => p.asked);
    if (asked.length > 0) scores.push({ whole, over: asked.reduce((sum, p) => sum + p.p, 0) / asked.length - EVEN });
  }
  if (scores.length === 0) return { number: null, allKnown: false, pairs };
  const fit = (step: number): number => scores.reduce((sum, { whole, over }) => sum + (whole < step ? over : -over), 0);
  const steps = [...scores.map(({ whole }) => whole), 11];
  const step = steps.reduce((best, one) => (fit(one) > fit(best) ? one : best));
  const number = step > 10 || step > Math.max(...scores.map(({ whole }) => whole)) ? nextAfter(scores) : step;
  return { number: number > 10 ? null : number, allKnown: number > 10, pairs };
}

const UNSEEN = { asked: false, known: false, p: 0 };

/** All that was asked is known: the next whole is the one to fix. */
const nextAfter = (scores: readonly { whole: number }[]): number => Math.max(...scores.map(({ whole }) => whole)) + 1;
