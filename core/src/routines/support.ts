import { answersByHand, type AnswerMode } from '../record/response';

/**
 * Adjustments for a child, never why: more time to answer, everything larger, nothing flashed, answers by pointing, an adult who says what the child shows.
 */
export const SUPPORTS = ['more-time', 'larger', 'no-flash', 'pointing', 'adult-speaks'] as const;
export type Support = (typeof SUPPORTS)[number];

/** How one child's questions are put. */
export interface Putting<Mode extends AnswerMode> {
  readonly answerMode: Mode;
  /** Milliseconds a show is to be seen; null = it stays. */
  readonly exposureMs: number | null;
  /** The ready before a show, milliseconds; null = by hand. */
  readonly readyMs: number | null;
}

/** Twice the usual: trial and error, with nobody measured yet. */
const MORE_TIME = 2;

/** The same questions for a child with this support. Who points or is spoken for shows an answer that an adult enters, where others speak or write: with a hand time of its own. */
export function applySupport<Mode extends AnswerMode>(
  usual: Putting<Mode>,
  support: readonly Support[],
): Putting<Mode | 'show'> {
  const shows = support.includes('pointing') || support.includes('adult-speaks');
  return {
    answerMode: shows && !answersByHand(usual.answerMode) ? 'show' : usual.answerMode,
    exposureMs: support.includes('no-flash') ? null : usual.exposureMs,
    readyMs: usual.readyMs !== null && support.includes('more-time') ? MORE_TIME * usual.readyMs : usual.readyMs,
  };
}
