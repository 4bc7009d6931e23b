import type { FrameLayout } from '../layouts/frame';
import type { Random } from '../random/random';
import { drawNumbers, usualNumbers } from './draw';

export interface FlashWish {
  readonly layout: FrameLayout;
  /** How many shows, without the warm-up. */
  readonly shows: number;
  readonly zeroToo: boolean;
  readonly warmUp: boolean;
}

/** Copies of a numeral that begin a sitting: with fewer than three the hand time is not believed; a fourth covers one that goes wrong. */
export const WARM_UPS = 4;

/** The facts of a flash sitting in order: numerals to copy first, which measure the hand in the mode in use, then the shows. */
export function flashSitting(random: Random, wish: FlashWish): string[] {
  const copies = wish.warmUp ? drawNumbers(random, [1, 2, 3, 4, 5, 6, 7, 8, 9, 10], WARM_UPS).map((n) => `match:${n}`) : [];
  const numbers = [...(wish.zeroToo ? [0] : []), ...usualNumbers(wish.layout)];
  return [...copies, ...drawNumbers(random, numbers, wish.shows).map((n) => `show:${n}:${wish.layout}`)];
}
