import { isNumberFact, parseFact } from '../facts/fact';
import type { RoutineId } from '../routines/routineIds';
import type { WeekWords } from '../reading/overTime';
import { lastWeekBefore } from '../reading/overTime';
import type { Reading, ReadingWord } from '../reading/reading';
import { routinesFor, type Need } from './need';
import { workingNumber } from './workingNumber';

/** A child whose working number has not moved, and the facts of it that were asked and are not known. */
export interface Stuck {
  readonly number: number;
  readonly facts: readonly string[];
}

/** Three weeks: shorter, and a child who was away for one of them would be called stuck. */
export const STUCK_DAYS = 21;
/** Fewest weeks with answers since then: who was hardly heard is not stuck. */
const LEAST_WEEKS = 2;
const MOST_FACTS = 2;

/** Towards knowing; what settles nothing is no step either way. */
const RANK: Readonly<Record<ReadingWord, number>> = {
  'too few answers': 0,
  'not yet': 1,
  counts: 2,
  'in between': 2,
  'works out': 3,
  knows: 4,
};

/**
 * Whether one child is stuck: on the same number as three weeks ago, asked in at least two of the weeks since, and no fact of that number read better than then.
 * @param weeks of the child, as they ended
 * @param readings of the child, now
 * @param today days since 1970
 */
export function stuckOn(
  weeks: readonly (WeekWords & { readonly workingNumber: number | null })[],
  readings: readonly Reading[],
  today: number,
): Stuck | null {
  const { number } = workingNumber(readings);
  const then = lastWeekBefore(weeks, today - STUCK_DAYS);
  if (number === null || then?.workingNumber !== number) return null;
  if (weeks.filter(({ week }) => week > then.week).length < LEAST_WEEKS) return null;
  const own = readings.filter((r) => {
    const fact = parseFact(r.fact);
    return r.responses > 0 && isNumberFact(fact) && fact.whole === number && Math.min(...fact.parts) > 0;
  });
  if (own.some((r) => RANK[r.reading] > RANK[then.words[r.fact] ?? 'too few answers'] && r.fact in then.words))
    return null;
  const open = own.filter((r) => r.reading !== 'knows' && r.reading !== 'too few answers');
  if (open.length === 0) return null;
  const most = [...open].sort((a, b) => b.responses - a.responses || (a.fact < b.fact ? -1 : 1));
  return { number, facts: most.slice(0, MOST_FACTS).map(({ fact }) => fact) };
}

/** Another routine that suits what a child needs and was not used with them lately; null = all were. A planned session counts as the first of them: it asks the same. */
export const anotherWay = (need: Need, used: readonly string[]): RoutineId | null =>
  routinesFor(need)
    .slice(1)
    .find((routine) => !used.includes(routine)) ?? null;
