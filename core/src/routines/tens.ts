import { drawNumbers } from '../plan/draw';
import type { Random } from '../random/random';
import type { Ask, Routine, RoutineWish } from './routine';

const numbers = (random: Random, most: number, { zeroToo, shows }: RoutineWish, perNumber = 1): number[] =>
  drawNumbers(
    random,
    Array.from({ length: most + (zeroToo ? 1 : 0) }, (_, i) => i + (zeroToo ? 0 : 1)),
    Math.ceil(shows / perNumber),
  );

const toFive: Routine = {
  id: 'to-five',
  title: 'How many more to five',
  group: 'the frame and ten',
  about: 'A five frame is seen for a moment; the child says how many more make five.',
  choices: ['direction', 'exposure', 'zero'],
  asks: (random, wish) =>
    numbers(random, 5, wish).map((n): Ask => ({
      fact: `${n}+?=5`,
      picture: { show: 'frame', layout: 'five', count: n, direction: wish.direction },
      flash: true,
      aid: 'none',
      prompt: { say: 'how-many-more', to: 5 },
      after: { say: 'how-known' },
      warmUp: false,
    })),
};

/** See the card and its rule → the card goes → picture it in the head → the missing part. */
const hideAndPicture: Routine = {
  id: 'hide-and-picture',
  title: 'Hide and picture',
  group: 'the frame and ten',
  about: 'The card is seen, then goes; the child pictures it and says what makes ten.',
  choices: ['direction', 'exposure', 'zero'],
  asks: (random, wish) =>
    numbers(random, 10, wish).map((n): Ask => ({
      fact: `${n}+?=10`,
      picture: { show: 'frame', layout: 'frame-fives', count: n, direction: wish.direction },
      flash: true,
      aid: 'none',
      prompt: { say: 'picture-it', first: n, whole: 10 },
      after: { say: 'how-known' },
      warmUp: false,
    })),
};

/** Look → say n → empties → n + e = 10 → 10 − e = n. */
const tenCard: Routine = {
  id: 'ten-card',
  title: 'Ten facts from a card',
  group: 'the frame and ten',
  about: 'One card, three questions: how many, how many boxes are empty, and what is left when these are taken away from ten.',
  choices: ['direction', 'zero'],
  asks: (random, wish) =>
    numbers(random, 10, wish, 3).flatMap((n): Ask[] => {
      const common = {
        picture: { show: 'frame', layout: 'frame-fives', count: n, direction: wish.direction },
        flash: false,
        warmUp: false,
        after: { say: 'thanks' },
      } as const;
      const fact = `10-${10 - n}`;
      return [
        { ...common, fact: `show:${n}:frame-fives`, aid: 'none', prompt: { say: 'how-many-now' } },
        { ...common, fact: `${n}+?=10`, aid: 'picture', prompt: { say: 'empty-boxes' } },
        { ...common, fact, aid: 'picture', prompt: { say: 'sentence', fact }, after: { say: 'how-known' } },
      ];
    }),
};

/** Ten out → hide → show some; the folded ones are the other part. */
const foldedFingers: Routine = {
  id: 'folded-fingers',
  title: 'Folded fingers',
  group: 'pairs',
  about: 'Ten fingers, some folded: the child says how many are folded.',
  choices: ['exposure', 'zero'],
  asks: (random, wish) =>
    numbers(random, 10, wish).map((n): Ask => ({
      fact: `${n}+?=10`,
      picture: { show: 'spots', layout: 'fingers', count: n },
      flash: true,
      aid: 'none',
      prompt: { say: 'folded' },
      after: { say: 'how-known' },
      warmUp: false,
    })),
};

export const TENS: readonly Routine[] = [toFive, hideAndPicture, tenCard, foldedFingers];
