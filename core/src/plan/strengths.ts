import { isNumberFact, parseFact } from '../facts/fact';
import { isFirm, standingOf } from './standing';
import { workingNumber } from './workingNumber';
import type { Reading } from '../reading/reading';

/** What a child does without counting. */
export interface Strengths {
  /** Numbers all of whose pairs are known, every one of them asked. */
  readonly wholes: readonly number[];
  /** Known sums of other numbers. */
  readonly facts: readonly string[];
  /** As far as amounts are seen at a glance without a gap; null = none yet. */
  readonly seen: number | null;
}

/** The end of the run of numbers from the least of them on. */
function runOf(amounts: readonly number[]): number | null {
  if (amounts.length === 0) return null;
  let end = Math.min(...amounts);
  while (amounts.includes(end + 1)) end++;
  return end;
}

/**
 * What is told to parents and the next teacher as known: what was right more than once, on different days.
 * @param of readings of one child
 */
export function strengths(of: readonly Reading[]): Strengths {
  const readings = of.map((one) => (isFirm(one) ? one : { ...one, reading: 'too few answers' as const }));
  const known = readings.filter((one) => standingOf(one) === 'known');
  const wholes = [...workingNumber(readings).pairs].flatMap(([whole, pairs]) =>
    pairs.every(({ standing }) => standing === 'known') ? [whole] : [],
  );
  const facts = known.flatMap(({ fact: text }) => {
    const fact = parseFact(text);
    const own = isNumberFact(fact) && fact.kind === 'add' && Math.min(...fact.parts) > 0;
    return own && !wholes.includes(fact.whole) ? [text] : [];
  });
  return {
    wholes,
    facts,
    seen: runOf(known.flatMap(({ fact: text }) => (text.startsWith('show:') ? [parseFact(text).answer] : []))),
  };
}
