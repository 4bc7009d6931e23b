import type { FrameLayout } from '../layouts/frame';
import type { Random } from '../random/random';
import { drawNumbers, usualNumbers } from './draw';
import { WARM_UPS, type WarmUp } from './measures';

export interface FlashWish {
  readonly layout: FrameLayout;
  /** How many shows, without the warm-up. */
  readonly shows: number;
  readonly zeroToo: boolean;
  readonly warmUp: WarmUp;
}

const NUMERALS = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10];
/** Sets worth counting: fewer than four are seen at a glance. */
const SETS = [4, 5, 6, 7, 8, 9];

const warmUps = (random: Random, warmUp: WarmUp): string[] => {
  if (warmUp === 'copies') return drawNumbers(random, NUMERALS, WARM_UPS).map((n) => `match:${n}`);
  return warmUp === 'counts' ? drawNumbers(random, SETS, WARM_UPS).map((n) => `count:${n}:scatter`) : [];
};

/** The facts of a flash sitting in order: numerals to copy or sets to count first, which measure the child's hand or pace, then the shows. */
export function flashSitting(random: Random, wish: FlashWish): string[] {
  const numbers = [...(wish.zeroToo ? [0] : []), ...usualNumbers(wish.layout)];
  return [...warmUps(random, wish.warmUp), ...drawNumbers(random, numbers, wish.shows).map((n) => `show:${n}:${wish.layout}`)];
}
