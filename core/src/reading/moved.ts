import type { AnswerMode } from '../record/response';
import { ANOTHER_HAND } from './hands';
import { isOpen, type ChildEstimate, type Reading } from './reading';

/** What moved a reading: answers of its own, answers to similar facts, or that the child's hand was found to have changed. */
export const MOVED_BY = ['answers', 'similar', 'hand'] as const;
export type MovedBy = (typeof MOVED_BY)[number];

/** A reading that a session changed. */
export interface Moved {
  readonly fact: string;
  readonly before: Reading | null;
  readonly after: Reading;
  readonly by: MovedBy;
}

/** From here on a change of the probability is worth telling. */
const WORTH_TELLING = 0.2;
type Judged = { readonly estimate: Pick<ChildEstimate, 'hands'>; readonly readings: readonly Reading[] } | null;

/** Whether the hand of a session is seen otherwise than before, or a session has a hand that none had. */
function isHandChanged(before: Judged, after: Judged): boolean {
  return Object.entries(after?.estimate.hands ?? {}).some(([mode, is]) => {
    const was = before?.estimate.hands[mode as AnswerMode] ?? {};
    const isLike = (offset: number) => (other: number) => Math.abs(offset - other) < ANOTHER_HAND;
    const seenOtherwise = Object.entries(was).some(([sitting, offset]) => !isLike(offset)(is[sitting] ?? 0));
    const known = [0, ...Object.values(was)];
    return seenOtherwise || Object.values(is).some((offset) => !known.some(isLike(offset)));
  });
}

/**
 * Of one child: readings whose word changed, with what changed them; with answers of their own also those whose probability moved by a fifth or more. A first word counts, one that settles nothing does not.
 * Those with answers of their own come first.
 */
export function movedReadings(before: Judged, after: Judged): Moved[] {
  const earlier = new Map(before?.readings.map((r) => [r.fact, r]));
  const otherwise: MovedBy = isHandChanged(before, after) ? 'hand' : 'similar';
  const moved = (after?.readings ?? []).flatMap((reading): Moved[] => {
    const was = earlier.get(reading.fact) ?? null;
    if (isOpen(reading.reading) && (was === null || isOpen(was.reading))) return [];
    const by = was?.responses === reading.responses ? otherwise : 'answers';
    const isMoved =
      was?.reading !== reading.reading ||
      (by === 'answers' && Math.abs(was.pAutomatic - reading.pAutomatic) >= WORTH_TELLING);
    return isMoved ? [{ fact: reading.fact, before: was, after: reading, by }] : [];
  });
  return moved.sort((a, b) => Number(b.by === 'answers') - Number(a.by === 'answers'));
}
