import { isNumberFact, parseFact } from '../facts/fact';
import type { Reading } from '../reading/reading';

/** The fact that tells most about where a child is, and why that one. */
export interface WorthSeeing {
  readonly fact: string;
  /** Of the working number and not settled; not known yet; or, where all are, the one with the most answers. */
  readonly why: 'of-the-number' | 'not-known' | 'most-answers';
}

/**
 * The fact to open first: of the working number, not known and with the most answers; else any that is not known; else the one with the most answers.
 * @param readings of one child, of one kind of question
 * @returns null where none of them was asked
 */
export function notable(readings: readonly Reading[], number: number | null): WorthSeeing | null {
  const asked = readings.filter((r) => r.responses > 0);
  const most = (of: readonly Reading[]): Reading | undefined =>
    [...of].sort((a, b) => b.responses - a.responses || (a.fact < b.fact ? -1 : 1))[0];
  const open = asked.filter((r) => r.reading !== 'knows');
  const own = open.filter((r) => {
    const fact = parseFact(r.fact);
    return isNumberFact(fact) && fact.whole === number && Math.min(...fact.parts) > 0;
  });
  for (const [why, of] of [
    ['of-the-number', own],
    ['not-known', open],
    ['most-answers', asked],
  ] as const) {
    const found = most(of);
    if (found) return { fact: found.fact, why };
  }
  return null;
}
