import { drawNumbers } from '../plan/draw';
import type { Random } from '../random/random';
import type { Picture } from './picture';
import type { Ask, Routine, RoutineWish, SeenLayout } from './routine';

/** The most a layout is flashed with, and whether nothing at all can be shown in it. */
const MOST: Record<SeenLayout, number> = {
  five: 5,
  'frame-fives': 10,
  'frame-pairs': 10,
  dice: 6,
  domino: 10,
  mirror: 10,
  beads: 10,
  fingers: 10,
  line: 10,
  scatter: 8,
};

export function seenPicture({ layout, direction }: Pick<RoutineWish, 'layout' | 'direction'>, count: number, random: Random): Picture {
  if (layout === 'five' || layout === 'frame-fives' || layout === 'frame-pairs') return { show: 'frame', layout, count, direction };
  if (layout === 'scatter') return { show: 'scatter', count, seed: Math.floor(random() * 1e6) };
  return { show: 'spots', layout, count };
}

/** The numbers a layout is usually shown with, mixed: each as often as the others, never the same twice running. */
export function seenNumbers(random: Random, { layout, zeroToo, shows }: RoutineWish): number[] {
  const from = zeroToo ? 0 : 1;
  return drawNumbers(
    random,
    Array.from({ length: MOST[layout] + 1 - from }, (_, i) => i + from),
    shows,
  );
}

const flashAndSay: Routine = {
  id: 'flash-and-say',
  title: 'Flash and say',
  group: 'seeing',
  about: 'A picture is seen for a moment; the child says or taps how many.',
  choices: ['layout', 'direction', 'exposure', 'zero'],
  asks: (random, wish) =>
    seenNumbers(random, wish).map((n): Ask => ({
      fact: `show:${n}:${wish.layout}`,
      picture: seenPicture(wish, n, random),
      flash: true,
      aid: 'none',
      prompt: { say: 'how-many-seen' },
      after: wish.layout.startsWith('frame') || wish.layout === 'five' ? { say: 'follow-up', n } : { say: 'how-known' },
      warmUp: false,
    })),
};

/** 5 → 7 → 10 → 5 → 6 …: each time how many, and how many boxes are empty. */
const changingFrame: Routine = {
  id: 'changing-frame',
  title: 'The frame changes',
  group: 'the frame and ten',
  about: 'The frame is never cleared, only changed: how many now, and how many boxes are empty?',
  choices: ['direction', 'zero'],
  asks: (random, wish) =>
    seenNumbers(random, { ...wish, layout: 'frame-fives', shows: Math.ceil(wish.shows / 2) }).flatMap((n): Ask[] => {
      const picture: Picture = { show: 'frame', layout: 'frame-fives', count: n, direction: wish.direction };
      const common = { picture, flash: false, warmUp: false } as const;
      return [
        { ...common, fact: `show:${n}:frame-fives`, aid: 'none', prompt: { say: 'how-many-now' }, after: { say: 'thanks' } },
        { ...common, fact: `${n}+?=10`, aid: 'picture', prompt: { say: 'empty-boxes' }, after: { say: 'follow-up', n } },
      ];
    }),
};

export const SEEING: readonly Routine[] = [flashAndSay, changingFrame];
