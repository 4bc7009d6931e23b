import { drawNumbers } from './drawNumbers';
import { first, oneWhole, pairs, sum } from './draws';
import { countersOf, put, talk, type Answered, type Ask, type Routine, type RoutineWish } from './routine';
import { foldedFingers } from './tens';
import { outOfReach, pairTexts, parsePair, sortWays, waysOf, type Pair } from './ways';

/** A row: count it → cut it once → the other side → another cut. A cut makes no zero part. */
const oneCut: Routine = {
  id: 'one-cut',
  untimed: true,
  group: 'pairs',
  choices: ['wholes', 'counters', 'length', 'order'],
  asks: (random, wish) => {
    const whole = oneWhole(random, wish);
    return [
      put(
        `show:${whole}:line`,
        { show: 'row', count: whole, cuts: [], counters: countersOf(wish) },
        { say: 'how-many-now' },
        { after: { say: 'thanks' } },
      ),
      cutAsk(wish, whole, []),
    ];
  },
  follow: (soFar, _, wish) => {
    const cutsMade = soFar.filter((a) => a.ask.want.by === 'cut');
    const last = soFar[soFar.length - 1];
    const want = cutsMade[cutsMade.length - 1]?.ask.want;
    if (!last || want?.by !== 'cut') return [];
    const cuts = cutsMade.map((a) => Number(a.given));
    const at = cuts[cuts.length - 1]!;
    if (last.ask.want.by === 'cut') {
      const picture = { show: 'row', count: want.count, cuts: [at], counters: countersOf(wish) } as const;
      return [
        put(
          `bond:${want.count}:${at}`,
          picture,
          { say: 'other-side', first: at },
          { aid: 'picture', after: { say: 'thanks' } },
        ),
      ];
    }
    return cuts.length < Math.min(wish.shows, want.count - 1) ? [cutAsk(wish, want.count, cuts)] : [];
  },
};

const cutAsk = (wish: RoutineWish, count: number, cuts: readonly number[]): Ask =>
  put(
    null,
    { show: 'row', count, cuts: [], counters: countersOf(wish) },
    { say: cuts.length === 0 ? 'where-to-cut' : 'another-cut' },
    { want: { by: 'cut', count, cuts }, after: { say: 'thanks' } },
  );

/** The whole stick in two kinds, then broken behind the back: one part is shown, the other hidden. */
const stick: Routine = {
  id: 'stick',
  group: 'pairs',
  choices: ['wholes', 'length', 'order'],
  objects: true,
  asks: (random, wish) =>
    pairs(random, { ...wish, zeroToo: false, shows: Math.ceil(wish.shows / 2) }, sum).flatMap(([a, b]): Ask[] => [
      put(
        `${a}+${b}`,
        { show: 'stick', first: a, second: b, hidden: false },
        { say: 'in-all' },
        { aid: 'picture', after: { say: 'thanks' } },
      ),
      put(
        `bond:${a + b}:${a}`,
        { show: 'stick', first: a, second: b, hidden: true },
        { say: 'hidden-part', whole: a + b },
      ),
    ]),
};

/** One after another moves from the first tray to the second; the whole stays. */
const movingCounters: Routine = {
  id: 'moving-counters',
  untimed: true,
  group: 'pairs',
  choices: ['wholes', 'counters', 'length'],
  asks: (random, wish) => {
    const whole = oneWhole(random, wish);
    return Array.from({ length: whole + 1 }, (_, second) => {
      const picture = { show: 'trays', first: whole - second, second, counters: countersOf(wish) } as const;
      return put(
        `bond:${whole}:${whole - second}`,
        picture,
        { say: 'moved-one', whole },
        { aid: 'picture', after: { say: 'thanks' } },
      );
    });
  },
};

/** A domino read, turned round and read again; then one half is covered. */
const dominoes: Routine = {
  id: 'dominoes',
  group: 'pairs',
  choices: ['wholes', 'length', 'order', 'zero'],
  objects: true,
  asks: (random, wish) =>
    pairs(random, { ...wish, shows: Math.ceil(wish.shows / 3) }, sum, ([a, b]) => a <= 9 && b <= 9).flatMap(
      ([a, b]): Ask[] => [
        put(
          `${a}+${b}`,
          { show: 'halves', first: a, second: b, covered: false },
          { say: 'in-all' },
          { aid: 'picture', after: { say: 'thanks' } },
        ),
        put(
          `${b}+${a}`,
          { show: 'halves', first: b, second: a, covered: false },
          { say: 'turned' },
          { aid: 'picture', after: { say: 'thanks' } },
        ),
        put(
          `bond:${a + b}:${a}`,
          { show: 'halves', first: a, second: b, covered: true },
          { say: 'hidden-part', whole: a + b },
        ),
      ],
    ),
};

const partWhole: Routine = {
  id: 'part-whole',
  group: 'pairs',
  choices: ['wholes', 'parts', 'length', 'order', 'zero'],
  asks: (random, wish) =>
    pairs(random, wish, first).map(([a, b], i): Ask => {
      const whole = a + b;
      const turn = wish.options.parts === 'whole' ? 0 : wish.options.parts === 'part' ? 1 + (i % 2) : i % 3;
      if (turn === 0)
        return put(`${a}+${b}`, { show: 'part-whole', whole: null, first: a, second: b }, { say: 'find-whole' });
      const picture = turn === 1 ? { whole, first: b, second: null } : { whole, first: null, second: b };
      return put(`bond:${whole}:${b}`, { show: 'part-whole', ...picture }, { say: 'find-part' });
    }),
};

/** A die gives the first part. It is chance, and says which pairs it can never give. */
const chance: Routine = {
  id: 'chance',
  group: 'pairs',
  choices: ['wholes', 'length'],
  objects: true,
  asks: (random, wish) => {
    const whole = oneWhole(random, wish);
    const shut = outOfReach(whole);
    const faces = Array.from({ length: whole + 1 }, (_, n) => n).filter((n) => !shut.includes(n));
    return drawNumbers(random, faces, wish.shows).map((face) =>
      put(
        `bond:${whole}:${face}`,
        { show: 'die', face, whole },
        { say: 'die', whole },
        { note: { say: 'die-shuts-out', whole } },
      ),
    );
  },
};

/** The board of ways: what is found stands, what is told twice is counted, what is left stays open. */
const allTheWays: Routine = {
  id: 'all-the-ways',
  untimed: true,
  group: 'pairs',
  choices: ['wholes', 'rule', 'ways'],
  asks: (random, wish) => {
    const whole = oneWhole(random, wish);
    const all = waysOf(whole, wish.options.rule);
    if (wish.options.ways !== 'withheld') return [wayAsk(wish, whole, [])];
    const held = Math.floor(random() * all.length);
    const ways = all.map((pair, i) => (i === held ? null : pair));
    const accepts = pairTexts([all[held]!], wish.options.rule);
    return [
      put(
        `ways:${whole}`,
        { show: 'ways', whole, ways },
        { say: 'withheld-way', whole },
        { want: { by: 'pair' }, accepts, note: { say: 'ways-totals', whole } },
      ),
    ];
  },
  follow: (soFar, _, wish) => {
    const { ways: how, rule } = wish.options;
    const whole = Number(soFar[0]?.ask.fact?.split(':')[1]);
    const said = (say: Ask['prompt']['say']): boolean => soFar.some((a) => a.ask.prompt.say === say);
    if (how === 'withheld' || said('ways-done')) return [];
    const { found, repeated, left } = sortWays(whole, rule, offeredIn(soFar));
    const all = waysOf(whole, rule);
    // Three times as many offers as there are ways: then enough has been tried.
    if (left.length === 0 || soFar.length >= 3 * all.length)
      return [talk({ show: 'ways', whole, ways: all }, { say: 'ways-done', whole })];
    const next = wayAsk(wish, whole, soFar);
    if (found.length !== Math.ceil(all.length / 2) || said('ways-so-far')) return [next];
    return [
      talk(next.picture, { say: 'ways-so-far', found: found.length, repeated: repeated.length, left: left.length }),
      next,
    ];
  },
};

const offeredIn = (soFar: readonly Answered[]): Pair[] =>
  soFar.map((a) => parsePair(a.given)).filter((pair): pair is Pair => pair !== null);

/** The next way: any that is left, or in order the next one. */
function wayAsk({ options }: RoutineWish, whole: number, soFar: readonly Answered[]): Ask {
  const { found, left } = sortWays(whole, options.rule, offeredIn(soFar));
  const inOrder = options.ways === 'order';
  const open = left.slice(0, inOrder ? 1 : left.length);
  return put(
    `ways:${whole}`,
    { show: 'ways', whole, ways: [...found, ...open.map(() => null)] },
    { say: inOrder && soFar.length > 0 ? 'next-way' : 'a-way', whole },
    {
      want: { by: 'pair' },
      accepts: pairTexts(open, options.rule),
      after: { say: 'thanks' },
      note: { say: 'ways-totals', whole },
    },
  );
}

export const PAIR_ROUTINES: readonly Routine[] = [
  oneCut,
  stick,
  movingCounters,
  dominoes,
  partWhole,
  foldedFingers,
  chance,
  allTheWays,
];
