import { isNumberFact, parseFact } from '../facts/fact';
import { isFirm, standingOf } from './standing';
import { workingNumber } from './workingNumber';
import type { Reading } from '../reading/reading';

/** What a child does without counting. */
export interface Strengths {
  /** Numbers all of whose pairs that were asked are known. */
  readonly wholes: readonly number[];
  /** Known sums of other numbers. */
  readonly facts: readonly string[];
  /** The greatest amount that is seen at a glance; null = none yet. */
  readonly seen: number | null;
}

/**
 * What is told to parents and the next teacher as known: what was right more than once, on different days.
 * @param of readings of one child
 */
export function strengths(of: readonly Reading[]): Strengths {
  const readings = of.map((one) => (isFirm(one) ? one : { ...one, reading: 'too few answers' as const }));
  const known = readings.filter((one) => standingOf(one) === 'known');
  const wholes = [...workingNumber(readings).pairs].flatMap(([whole, pairs]) => {
    const asked = pairs.filter(({ standing }) => standing !== 'not asked');
    return asked.length > 0 && asked.every(({ standing }) => standing === 'known') ? [whole] : [];
  });
  const facts = known.flatMap(({ fact: text }) => {
    const fact = parseFact(text);
    const own = isNumberFact(fact) && fact.kind === 'add' && Math.min(...fact.parts) > 0;
    return own && !wholes.includes(fact.whole) ? [text] : [];
  });
  const amounts = known.flatMap(({ fact: text }) => (text.startsWith('show:') ? [parseFact(text).answer] : []));
  return { wholes, facts, seen: amounts.length === 0 ? null : Math.max(...amounts) };
}
