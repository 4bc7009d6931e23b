import type { AnswerMode } from '../record/response';

/** What is measured of a child by itself: copying a numeral gives the hand time of an answer mode, counting a set gives the pace. */
export const WARM_UP_KINDS = ['copies', 'counts', 'none'] as const;
export type WarmUp = (typeof WARM_UP_KINDS)[number];

/** How many of each a child has given lately. */
export interface MeasuresLately {
  readonly copies: Readonly<Partial<Record<AnswerMode, number>>>;
  readonly counts: number;
}

/** Measures older than this say little of a child that grows: days. */
export const MEASURES_LAST_DAYS = 21;
/** Four shows at a time: with fewer than three the hand time is not believed, and a fourth covers one that goes wrong. */
export const WARM_UPS = 4;

/** The warm-up that would tell most, or none when both are known well enough. One measure a sitting: the hand first, without it nothing can be judged. */
export function warmUpNeeded(lately: MeasuresLately, mode: AnswerMode): WarmUp {
  if ((lately.copies[mode] ?? 0) < WARM_UPS) return 'copies';
  return lately.counts < WARM_UPS ? 'counts' : 'none';
}
