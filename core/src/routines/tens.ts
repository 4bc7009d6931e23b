import { numbersTo } from './draws';
import { chain, countersOf, makeAsk, talk, type Ask, type Routine, type RoutineWish } from './routine';
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
      makeAsk(`${n}+?=5`, framePicture(wish, 'five', n), { say: 'how-many-more', to: 5 }, { flash: true }),
    ),
};

/** See the card and say its rule → the card goes → picture it in the head → the missing part → the card comes back to check. */
const hideAndPicture: Routine = {
  id: 'hide-and-picture',
  usualCards: 5,
  group: 'the frame and ten',
  choices: ['direction', 'counters', 'exposure', 'length', 'order', 'zero'],
  asks: (random, wish) =>
    numbersTo(random, 10, wish).flatMap((n): Ask[] => {
      const picture = framePicture(wish, 'frame-fives', n);
      return chain([
        talk(picture, { say: 'say-rule', n }),
        makeAsk(
          `${n}+?=10`,
          picture,
          { say: 'picture-it', first: n, whole: 10 },
          { flash: true, after: { say: 'how-known' } },
        ),
        talk(picture, { say: 'card-back', fact: `${n}+?=10` }),
      ]);
    }),
};

/** Look → say n → for small numbers through five → empties → n + e = whole → whole − e = n. */
function cardOf(whole: 5 | 10): (n: number, picture: Picture) => Ask[] {
  const layout = whole === 5 ? 'five' : 'frame-fives';
  return (n, picture) => {
    const [sum, left] = [`${n}+${whole - n}`, `${whole}-${whole - n}`];
    const seen = { aid: 'picture', after: { say: 'thanks' } } as const;
    const throughFive: Ask[] = [
      makeAsk(`${n}+?=5`, picture, { say: 'how-many-more', to: 5 }, seen),
      makeAsk('5+?=10', picture, { say: 'five-to-ten' }, seen),
    ];
    return chain([
      makeAsk(`show:${n}:${layout}`, picture, { say: 'how-many' }, { after: { say: 'how-seen' } }),
      ...(whole === 10 && n > 0 && n < 5 ? throughFive : []),
      makeAsk(`${n}+?=${whole}`, picture, { say: 'empty-boxes' }, seen),
      makeAsk(sum, picture, { say: 'sentence', fact: sum }, seen),
      makeAsk(left, picture, { say: 'sentence', fact: left }, seen),
    ]);
  };
}

const tenCard: Routine = {
  id: 'ten-card',
  usualCards: 2,
  group: 'facts',
  choices: ['direction', 'counters', 'length', 'order', 'zero'],
  asks: (random, wish) =>
    numbersTo(random, 10, wish).flatMap((n) => cardOf(10)(n, framePicture(wish, 'frame-fives', n))),
};

const fiveCard: Routine = {
  ...tenCard,
  id: 'five-card',
  asks: (random, wish) => numbersTo(random, 5, wish).flatMap((n) => cardOf(5)(n, framePicture(wish, 'five', n))),
};

/** Ten out → hide → show some; the folded ones are the other part → the hands are turned and looked at. */
export const foldedFingers: Routine = {
  id: 'folded-fingers',
  group: 'pairs',
  choices: ['exposure', 'length', 'order', 'zero'],
  asks: (random, wish) =>
    numbersTo(random, 10, wish).flatMap((n, i): Ask[] => {
      const picture = { show: 'spots', layout: 'fingers', count: n } as const;
      return chain([
        ...(i === 0 ? [talk({ ...picture, count: 10 }, { say: 'ten-out' })] : []),
        makeAsk(`${n}+?=10`, picture, { say: 'folded' }, { flash: true, after: { say: 'how-known' } }),
        talk(picture, { say: 'turn-hand' }),
      ]);
    }),
};

export const TENS: readonly Routine[] = [toFive, hideAndPicture];
export const CARDS: readonly Routine[] = [fiveCard, tenCard];
