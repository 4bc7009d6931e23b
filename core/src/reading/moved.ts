import { isOpen, type Reading } from './reading';

/** A reading that new answers changed. */
export interface Moved {
  readonly fact: string;
  readonly before: Reading | null;
  readonly after: Reading;
}

/** From here on a change of the probability is worth telling. */
const MOVED_BY = 0.2;

/** Of one child: readings whose word changed, or whose probability moved by a fifth or more, where there are new answers; a first word counts, one that settles nothing does not. */
export function movedReadings(before: readonly Reading[], after: readonly Reading[]): Moved[] {
  const earlier = new Map(before.map((r) => [r.fact, r]));
  return after.flatMap((reading): Moved[] => {
    const was = earlier.get(reading.fact) ?? null;
    if (was?.responses === reading.responses) return [];
    if (isOpen(reading.reading) && (was === null || isOpen(was.reading))) return [];
    const moved = was?.reading !== reading.reading || Math.abs(was.pAutomatic - reading.pAutomatic) >= MOVED_BY;
    return moved ? [{ fact: reading.fact, before: was, after: reading }] : [];
  });
}
