import { factText } from '../facts/fact';
import { shuffled } from '../random/random';
import { pairs, second, sum } from './draws';
import { countersOf, put, type Ask, type Routine, type RoutineWish } from './routine';
import type { Picture } from './picture';
import type { Pair } from './ways';
import { CARDS } from './tens';

/** A frame in two kinds. */
export const twoParts = (wish: RoutineWish, [first, second]: Pair): Picture => ({
  show: 'two-part',
  first,
  second,
  direction: wish.options.direction,
  counters: countersOf(wish),
});

/** The frame in two kinds that stands below a sentence when a picture helps: the parts of a sum, or what stays and what goes. */
export function helped(wish: RoutineWish, fact: string, pair: Pair, aid: 'picture' | 'none' | 'objects'): Ask {
  const over = aid === 'picture' ? { over: twoParts(wish, pair) } : {};
  return put(fact, { show: 'sentence', fact, ...over }, { say: 'sentence', fact }, { aid });
}

/** A fact as the wish has it: in symbols, over a picture, or with objects in hand. */
const asWished = (wish: RoutineWish, fact: string, pair: Pair): Ask =>
  helped(wish, fact, pair, wish.options.help === 'symbols' ? 'none' : wish.options.help);

const FACT_CHOICES = ['wholes', 'help', 'length', 'order', 'zero'] as const;

const sums: Routine = {
  id: 'sums',
  group: 'facts',
  choices: FACT_CHOICES,
  asks: (random, wish) => pairs(random, wish, sum).map(([a, b]) => asWished(wish, `${a}+${b}`, [a, b])),
};

const doubles: Routine = {
  id: 'doubles',
  group: 'facts',
  choices: FACT_CHOICES,
  asks: (random, wish) =>
    pairs(random, wish, sum, ([a, b]) => a === b).map(([a, b]) => asWished(wish, `${a}+${b}`, [a, b])),
};

const takeAway: Routine = {
  id: 'take-away',
  group: 'facts',
  choices: FACT_CHOICES,
  asks: (random, wish) =>
    pairs(random, wish, second).map(([a, b]) => asWished(wish, factText('subtract', a + b, a), [b, a])),
};

/** Where the gap can stand: the last part first, then anywhere, with the total on either side. */
const gapTexts = ([a, b]: Pair): string[] => [
  `${a}+?=${a + b}`,
  `?+${a}=${a + b}`,
  `${a + b}=${a}+?`,
  `${a + b}=?+${a}`,
  `${a + b}-?=${a}`,
  `?-${a}=${b}`,
];

const missingPart: Routine = {
  id: 'missing-part',
  group: 'facts',
  choices: [...FACT_CHOICES, 'gap'],
  asks: (random, wish) =>
    pairs(random, wish, second).map((pair, i) =>
      asWished(wish, gapTexts(pair)[wish.options.gap === 'last' ? 0 : i % 6]!, pair),
    ),
};

/** a + b, b + a, c − a, c − b: asked together, recorded separately. */
const family: Routine = {
  id: 'family',
  group: 'facts',
  choices: ['wholes', 'help', 'length', 'order'],
  asks: (random, wish) =>
    pairs(random, { ...wish, zeroToo: false, shows: Math.ceil(wish.shows / 4) }, sum).flatMap(([a, b]) => {
      const texts = [`${a}+${b}`, `${b}+${a}`, factText('subtract', a + b, a), factText('subtract', a + b, b)];
      return [...new Set(texts)].map((fact) => asWished(wish, fact, [a, b]));
    }),
};

/** The same facts twice: first with the picture over them, then the numbers alone, mixed anew. */
const cards: Routine = {
  id: 'cards',
  group: 'facts',
  choices: ['wholes', 'counters', 'length', 'zero'],
  asks: (random, wish) => {
    const drawn = pairs(random, { ...wish, shows: Math.ceil(wish.shows / 2) }, sum);
    const again = shuffled(random, drawn).map(([a, b]) => helped(wish, `${a}+${b}`, [a, b], 'none'));
    const pictured = drawn.map(([a, b], i): Ask => {
      const ask = helped(wish, `${a}+${b}`, [a, b], 'picture');
      return i === drawn.length - 1 ? { ...ask, after: { say: 'remember-card' } } : ask;
    });
    return [...pictured, ...again];
  },
};

/** Start full; some go: crossed off, moved out, or a whole row at once. */
const goingAway: Routine = {
  id: 'crossed-off',
  group: 'facts',
  choices: ['wholes', 'away', 'direction', 'counters', 'length', 'order'],
  asks: (random, wish) => {
    const { away, direction } = wish.options;
    const row = away === 'row';
    const drawn = row
      ? pairs(random, { ...wish, wholeFrom: 6, wholeTo: 10, zeroToo: false }, second, ([gone]) => gone === 5)
      : pairs(random, { ...wish, zeroToo: false }, second);
    return drawn.map(([gone, left]) => {
      const show = away === 'moved' ? ('moved-out' as const) : ('crossed-off' as const);
      const picture = {
        show,
        count: gone + left,
        gone,
        direction,
        counters: countersOf(wish),
        ...(row ? { firstRow: true } : {}),
      };
      return put(factText('subtract', gone + left, gone), picture, { say: 'left' }, { aid: 'picture' });
    });
  },
};

/** Some here, some there → two kinds on the frame → the sentence: told first with the picture of the class's own things, then asked in symbols. */
const story: Routine = {
  id: 'story',
  group: 'facts',
  choices: ['wholes', 'direction', 'length', 'order'],
  asks: (random, wish) =>
    pairs(random, { ...wish, zeroToo: false, shows: Math.ceil(wish.shows / 2) }, sum).flatMap(([a, b]): Ask[] => [
      put(
        `${a}+${b}`,
        { show: 'two-part', first: a, second: b, direction: wish.options.direction, counters: wish.things },
        { say: 'story', first: a, second: b },
        { aid: 'picture', after: { say: 'thanks' } },
      ),
      helped(wish, `${a}+${b}`, [a, b], 'none'),
    ]),
};

export const FACT_ROUTINES: readonly Routine[] = [
  ...CARDS,
  story,
  cards,
  sums,
  doubles,
  goingAway,
  takeAway,
  missingPart,
  family,
];
