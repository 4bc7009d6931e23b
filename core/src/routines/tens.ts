import { numbersTo } from './draws';
import { countersOf, put, type Ask, type Routine, type RoutineWish } from './routine';
import type { Picture } from './picture';

export const framePicture = (wish: RoutineWish, layout: 'five' | 'frame-fives', count: number): Picture => ({
  show: 'frame',
  layout,
  count,
  direction: wish.options.direction,
  counters: countersOf(wish),
});

const toFive: Routine = {
  id: 'to-five',
  group: 'the frame and ten',
  choices: ['direction', 'counters', 'exposure', 'length', 'order', 'zero'],
  asks: (random, wish) =>
    numbersTo(random, 5, wish).map((n) =>
      put(`${n}+?=5`, framePicture(wish, 'five', n), { say: 'how-many-more', to: 5 }, { flash: true }),
    ),
};

/** See the card and its rule → the card goes → picture it in the head → the missing part. */
const hideAndPicture: Routine = {
  id: 'hide-and-picture',
  group: 'the frame and ten',
  choices: ['direction', 'counters', 'exposure', 'length', 'order', 'zero'],
  asks: (random, wish) =>
    numbersTo(random, 10, wish).map((n) =>
      put(
        `${n}+?=10`,
        framePicture(wish, 'frame-fives', n),
        { say: 'picture-it', first: n, whole: 10 },
        { flash: true },
      ),
    ),
};

/** Look → say n → empties → n + e = whole → whole − e = n. */
function cardOf(whole: 5 | 10): (n: number, picture: Picture) => Ask[] {
  const layout = whole === 5 ? 'five' : 'frame-fives';
  return (n, picture) => {
    const [sum, left] = [`${n}+${whole - n}`, `${whole}-${whole - n}`];
    const seen = { aid: 'picture', after: { say: 'thanks' } } as const;
    return [
      put(`show:${n}:${layout}`, picture, { say: 'how-many-now' }, { after: { say: 'thanks' } }),
      put(`${n}+?=${whole}`, picture, { say: 'empty-boxes' }, seen),
      put(sum, picture, { say: 'sentence', fact: sum }, seen),
      put(left, picture, { say: 'sentence', fact: left }, { aid: 'picture' }),
    ];
  };
}

const tenCard: Routine = {
  id: 'ten-card',
  group: 'facts',
  choices: ['direction', 'counters', 'length', 'order', 'zero'],
  asks: (random, wish) =>
    numbersTo(random, 10, wish, 4).flatMap((n) => cardOf(10)(n, framePicture(wish, 'frame-fives', n))),
};

const fiveCard: Routine = {
  ...tenCard,
  id: 'five-card',
  asks: (random, wish) => numbersTo(random, 5, wish, 4).flatMap((n) => cardOf(5)(n, framePicture(wish, 'five', n))),
};

/** Ten out → hide → show some; the folded ones are the other part. */
export const foldedFingers: Routine = {
  id: 'folded-fingers',
  group: 'pairs',
  choices: ['exposure', 'length', 'order', 'zero'],
  asks: (random, wish) =>
    numbersTo(random, 10, wish).map((n) =>
      put(`${n}+?=10`, { show: 'spots', layout: 'fingers', count: n }, { say: 'folded' }, { flash: true }),
    ),
};

export const TENS: readonly Routine[] = [toFive, hideAndPicture];
export const CARDS: readonly Routine[] = [fiveCard, tenCard];
