import { isNumberFact, parseFact } from '../facts/fact';
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

/** @param readings of one child */
export function strengths(readings: readonly Reading[]): Strengths {
  const known = readings.filter((r) => r.reading === 'knows');
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
