import { factText } from '../facts/fact';
import type { FrameLayout } from '../layouts/frame';
import { shuffled } from '../random/random';
import { pairs, second, sum } from './draws';
import { chain, countersOf, makeAsk, talk, type Ask, type Routine, type RoutineWish } from './routine';
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

/** What there is, with a ring round the total. */
export const upTo = (wish: RoutineWish, first: number, whole: number): Picture => ({
  show: 'up-to',
  first,
  whole,
  direction: wish.options.direction,
  counters: countersOf(wish),
});

/** The frame in two kinds that stands below a sentence when a picture helps: the parts of a sum, or what stays and what goes. */
export function helped(wish: RoutineWish, fact: string, pair: Pair, aid: 'picture' | 'none' | 'objects'): Ask {
  const over = aid === 'picture' ? { over: twoParts(wish, pair) } : {};
  return makeAsk(fact, { show: 'sentence', fact, ...over }, { say: 'sentence', fact }, { aid });
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
    // A number of a child's own has one double at most: they go through all up to it.
    pairs(
      random,
      { ...wish, wholeFrom: wish.wholeFrom === wish.wholeTo ? 2 : wish.wholeFrom },
      sum,
      ([a, b]) => a === b,
    ).map(([a, b]) => asWished(wish, `${a}+${b}`, [a, b])),
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

/** The missing part in symbols; or what there is, the total ringed, counted on from what there is up to it: how many were added? The last one with the adult silent. */
const missingPart: Routine = {
  id: 'missing-part',
  group: 'facts',
  choices: [...FACT_CHOICES, 'gap'],
  asks: (random, wish) =>
    pairs(random, wish, second).map(([a, b], i, all): Ask => {
      const fact = gapTexts([a, b])[wish.options.gap === 'last' ? 0 : i % 6]!;
      if (wish.options.help !== 'picture') return asWished(wish, fact, [a, b]);
      // Of `?-3=5` not even the whole is there to be shown.
      const shown = !fact.startsWith('?-');
      const silent = i === all.length - 1;
      return makeAsk(
        fact,
        { show: 'sentence', fact, ...(shown ? { over: upTo(wish, a, a + b) } : {}) },
        silent || fact.includes('-') ? { say: 'sentence', fact } : { say: 'count-up', first: a, second: b },
        {
          aid: shown ? 'picture' : 'none',
          note: silent ? { say: 'silent' } : null,
          after: { say: 'thanks' },
        },
      );
    }),
};

/** a + b, b + a, c − a, c − b: asked together, recorded separately. */
const family: Routine = {
  id: 'family',
  usualCards: 3,
  group: 'facts',
  choices: ['wholes', 'help', 'length', 'order'],
  asks: (random, wish) =>
    pairs(random, { ...wish, zeroToo: false }, sum).flatMap(([a, b]) => {
      const texts = [`${a}+${b}`, `${b}+${a}`, factText('subtract', a + b, a), factText('subtract', a + b, b)];
      return chain([...new Set(texts)].map((fact) => asWished(wish, fact, [a, b])));
    }),
};

/** The same facts twice: first with the picture over them, then the numbers alone, mixed anew. */
const cards: Routine = {
  id: 'cards',
  usualCards: 4,
  group: 'facts',
  choices: ['wholes', 'counters', 'length', 'zero'],
  asks: (random, wish) => {
    const drawn = pairs(random, wish, sum);
    const again = shuffled(random, drawn).map(([a, b]) => helped(wish, `${a}+${b}`, [a, b], 'none'));
    const pictured = drawn.map(([a, b], i): Ask => {
      const ask = helped(wish, `${a}+${b}`, [a, b], 'picture');
      return i === drawn.length - 1 ? { ...ask, then: { say: 'remember-card' } } : ask;
    });
    return [...pictured, ...again];
  },
};

/** The frame is full → some go: crossed off, moved out, or a whole row → how many are left → put back: the addition that undoes it. Five always go as the whole row. */
const goingAway: Routine = {
  id: 'crossed-off',
  usualCards: 4,
  shelf: { show: 'crossed-off', count: 10, gone: 3, direction: 'rows' },
  group: 'facts',
  choices: ['layout', 'away', 'direction', 'counters', 'length', 'order'],
  asks: (random, wish) => {
    const { away, direction } = wish.options;
    const layout: FrameLayout = wish.layout === 'five' ? 'five' : 'frame-fives';
    const whole = layout === 'five' ? 5 : 10;
    const { shows } = wish;
    const drawn =
      away === 'row' && whole === 10
        ? Array.from({ length: shows }, (): Pair => [5, 5])
        : pairs(random, { ...wish, wholeFrom: whole, wholeTo: whole, zeroToo: false, shows }, second);
    const look = { direction, counters: countersOf(wish) };
    return [
      talk({ show: 'frame', layout, count: whole, ...look }, { say: 'start-full', n: whole }),
      ...drawn.flatMap(([gone, left]): Ask[] => {
        const row = gone === 5;
        const show = away === 'moved' && !row ? ('moved-out' as const) : ('crossed-off' as const);
        const picture = { show, layout, count: whole, gone, ...look, ...(row ? { firstRow: true } : {}) };
        const undone = `${left}+${gone}`;
        return chain([
          makeAsk(
            factText('subtract', whole, gone),
            picture,
            { say: row ? 'row-goes' : 'left' },
            { aid: 'picture', after: { say: 'thanks' } },
          ),
          makeAsk(undone, picture, { say: 'undo', fact: undone }, { aid: 'picture', after: { say: 'thanks' } }),
        ]);
      }),
    ];
  },
};

/** Some here, some there, told → put on the frame in two kinds → the sentence, read in symbols → at the end a story of the child's own. */
const story: Routine = {
  id: 'story',
  usualCards: 3,
  group: 'facts',
  choices: ['wholes', 'direction', 'length', 'order'],
  asks: (random, wish) => {
    const drawn = pairs(random, { ...wish, zeroToo: false }, sum);
    return drawn.flatMap(([a, b], i): Ask[] => {
      const parts = { first: a, second: b };
      const direction = wish.options.direction;
      const onFrame = { show: 'two-part', ...parts, direction, counters: 'dots' } as const;
      const empty = { show: 'frame', layout: 'frame-fives', count: 0, direction } as const;
      const last = i === drawn.length - 1;
      return chain([
        talk(empty, { say: 'story-told', ...parts }),
        makeAsk(`${a}+${b}`, onFrame, { say: 'story', ...parts }, { aid: 'picture', after: { say: 'thanks' } }),
        {
          ...helped(wish, `${a}+${b}`, [a, b], 'none'),
          ...(last ? { then: { say: 'own-story' } as const } : {}),
        },
      ]);
    });
  },
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
