import { isNumberFact, parseFact, type NumberFact } from '../facts/fact';
import type { Reading } from '../reading/reading';
import { nearer, standingOf, type Standing } from './standing';

/** One pair of a whole, and how it stands: as the way of asking for it that is nearest to knowing. */
export interface PairSoFar {
  readonly first: number;
  readonly second: number;
  readonly standing: Standing;
  /** In which ways it was asked. */
  readonly asked: readonly NumberFact['kind'][];
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
  const seen = new Map<string, { standing: Standing; p: number; asked: readonly NumberFact['kind'][] }>();
  for (const reading of readings) {
    const fact = parseFact(reading.fact);
    if (!isNumberFact(fact) || Math.min(...fact.parts) === 0) continue;
    const name = `${fact.whole}:${Math.min(...fact.parts)}`;
    const so = seen.get(name) ?? UNSEEN;
    seen.set(name, {
      standing: nearer(so.standing, standingOf(reading)),
      p: reading.responses > 0 ? Math.max(so.p, reading.pAutomatic) : so.p,
      asked: reading.responses > 0 && !so.asked.includes(fact.kind) ? [...so.asked, fact.kind] : so.asked,
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
      own.map(({ first, second, standing, asked }) => ({ first, second, standing, asked })),
    );
    const asked = own.filter(({ standing }) => standing !== 'not asked');
    if (asked.length > 0) scores.push({ whole, over: asked.reduce((sum, p) => sum + p.p, 0) / asked.length - EVEN });
  }
  if (scores.length === 0) return { number: null, allKnown: false, pairs };
  const fit = (step: number): number => scores.reduce((sum, { whole, over }) => sum + (whole < step ? over : -over), 0);
  const steps = [...scores.map(({ whole }) => whole), 11];
  const step = steps.reduce((best, one) => (fit(one) > fit(best) ? one : best));
  const number = step > 10 || step > Math.max(...scores.map(({ whole }) => whole)) ? nextAfter(scores) : step;
  return { number: number > 10 ? null : number, allKnown: number > 10, pairs };
}

const UNSEEN: Omit<PairSoFar, 'first' | 'second'> & { readonly p: number } = { standing: 'not asked', p: 0, asked: [] };

/** All that was asked is known: the next whole is the one to fix. */
const nextAfter = (scores: readonly { whole: number }[]): number => Math.max(...scores.map(({ whole }) => whole)) + 1;
