import type { Reading } from './reading';

/** Standard deviation of the share retrieved, from the certainty that is told of it. */
const uncertainty = ({ certainty, responses }: Reading): number =>
  (1 - (certainty * (responses + 1)) / Math.max(1, responses)) / 2;

/**
 * A child's readings after the class was learned again, with no new answer of the child's own: a word stays, and its whole reading with it, unless the probability moved by more than its own uncertainty.
 * @param before as they were kept, of the same answers
 * @returns in the order of `after`
 */
export function heldReadings(before: readonly Reading[], after: readonly Reading[]): Reading[] {
  const kept = new Map(before.map((r) => [r.fact, r]));
  return after.map((reading) => {
    const was = kept.get(reading.fact);
    if (was?.responses !== reading.responses || was.reading === reading.reading) return reading;
    return Math.abs(was.pAutomatic - reading.pAutomatic) > uncertainty(was) ? reading : was;
  });
}
