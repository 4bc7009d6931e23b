import type { LayoutName } from '../facts/fact';
import type { Direction } from '../layouts/frame';
import { WARM_UPS, type WarmUp } from '../plan/measures';
import { drawNumbers } from '../plan/draw';
import type { Random } from '../random/random';
import type { Aid } from '../record/response';
import type { Picture } from './picture';
import type { Prompt } from './prompts';

/** One question put to a child: what stands on the stage, what is said, and the fact that the answer is recorded under. */
export interface Ask {
  readonly fact: string;
  readonly picture: Picture;
  /** Shown for the time that was set, then covered; else it stays until the answer. */
  readonly flash: boolean;
  /** `picture` when the answer can be counted from what stays in view. */
  readonly aid: Extract<Aid, 'none' | 'picture'>;
  readonly prompt: Prompt;
  /** To be said once the answer stands. */
  readonly after: Prompt;
  readonly warmUp: boolean;
}

/** Layouts in which a quantity can be shown to be seen. */
export const SEEN_LAYOUTS = [
  'five',
  'frame-fives',
  'frame-pairs',
  'dice',
  'domino',
  'mirror',
  'beads',
  'fingers',
  'line',
  'scatter',
] as const satisfies readonly LayoutName[];
export type SeenLayout = (typeof SEEN_LAYOUTS)[number];

/** What a routine is given to draw its questions from. */
export interface RoutineWish {
  readonly layout: SeenLayout;
  readonly direction: Direction;
  /** How many questions of the routine's own, about; without the warm-up. */
  readonly shows: number;
  readonly zeroToo: boolean;
  /** Wholes of the number facts asked. */
  readonly wholeFrom: number;
  readonly wholeTo: number;
  readonly warmUp: WarmUp;
}

export type Choice = 'layout' | 'direction' | 'exposure' | 'zero' | 'wholes';
export type RoutineGroup = 'seeing' | 'the frame and ten' | 'pairs' | 'facts';

/** A routine of the carpet: what it is called, what can be set, and the questions it puts, in the order in which practitioners put them. */
export interface Routine {
  readonly id: string;
  readonly title: string;
  readonly group: RoutineGroup;
  /** In a sentence: what happens. */
  readonly about: string;
  readonly choices: readonly Choice[];
  readonly asks: (random: Random, wish: RoutineWish) => Ask[];
}

/** Sets worth counting: fewer than four are seen at a glance. */
const SETS = [4, 5, 6, 7, 8, 9];

/** Numerals to copy, or sets to count: they measure the child's hand or pace before the routine. */
export function warmUpAsks(random: Random, warmUp: WarmUp): Ask[] {
  const common = { flash: false, aid: 'none', after: { say: 'thanks' }, warmUp: true } as const;
  if (warmUp === 'copies') {
    return drawNumbers(random, [1, 2, 3, 4, 5, 6, 7, 8, 9, 10], WARM_UPS).map((n) => ({
      ...common,
      fact: `match:${n}`,
      picture: { show: 'numeral', n },
      prompt: { say: 'copy' },
    }));
  }
  if (warmUp === 'none') return [];
  return drawNumbers(random, SETS, WARM_UPS).map((count, i) => ({
    ...common,
    fact: `count:${count}:scatter`,
    picture: { show: 'scatter', count, seed: Math.floor(random() * 1e6) + i },
    prompt: { say: 'count' },
  }));
}
