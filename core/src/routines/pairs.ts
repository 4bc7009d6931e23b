import { drawNumbers } from './drawNumbers';
import { first, oneWhole, pairs, sum } from './draws';
import type { Picture } from './picture';
import type { Prompt } from './prompt';
import { chain, countersOf, makeAsk, talk, type Answered, type Ask, type Routine, type RoutineWish } from './routine';
import { foldedFingers } from './tens';
import { outOfReach, pairTexts, parsePair, sortWays, waysOf, type Pair } from './ways';

const seen = { aid: 'picture', after: { say: 'thanks' } } as const;
/** How many are on this side, which can be counted. */
const sideAsk = (
  picture: Picture,
  say: 'this-side' | 'this-part' | 'this-half' | 'other-half',
  count: number,
  other: number,
): Ask => makeAsk(`side:${count}:${other}`, picture, { say }, seen);
/** The sentence of a pair, and the pair turned round: the same whole? */
const sentencesOf = (picture: Picture, first: number, second: number): Ask[] => {
  const parts = { whole: first + second, first, second };
  return [
    talk(picture, { say: 'parts-sentence', ...parts }),
    ...(first === second ? [] : [talk(picture, { say: 'turned-sentence', ...parts })]),
  ];
};

/** A row: each counted and dotted → write the whole → cut it once → this side, the other side → the sentence, turned round → another cut. A cut makes no zero part. */
const oneCut: Routine = {
  id: 'one-cut',
  usualCards: 3,
  untimed: true,
  shelf: { show: 'row', count: 6, cuts: [2] },
  group: 'pairs',
  choices: ['wholes', 'counters', 'length', 'order'],
  asks: (random, wish) => {
    const whole = oneWhole(random, wish);
    return chain([
      makeAsk(
        `show:${whole}:line`,
        { show: 'row', count: whole, cuts: [], counters: countersOf(wish) },
        { say: 'count-and-dot' },
        { aid: 'picture', after: { say: 'write-whole', whole } },
      ),
      cutAsk(wish, whole, []),
    ]);
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
      const [first, second] = [at, want.count - at];
      return [
        sideAsk({ ...picture, side: 'first' }, 'this-side', first, second),
        makeAsk(`bond:${want.count}:${at}`, { ...picture, side: 'second' }, { say: 'other-side', first }, seen),
        ...sentencesOf(picture, first, second),
      ].map((ask) => ({ ...ask, goesOn: true }));
    }
    return cuts.length < Math.min(wish.shows, want.count - 1) ? [cutAsk(wish, want.count, cuts)] : [];
  },
};

const cutAsk = (wish: RoutineWish, count: number, cuts: readonly number[]): Ask =>
  makeAsk(
    null,
    { show: 'row', count, cuts: [], counters: countersOf(wish) },
    { say: cuts.length === 0 ? 'where-to-cut' : 'another-cut' },
    { want: { by: 'cut', count, cuts }, after: { say: 'two-sides' } },
  );

/** The whole stick, written first → snapped behind the back: one part seen, the other hidden → both together again, the sentence, turned round. */
const stick: Routine = {
  id: 'stick',
  usualCards: 3,
  group: 'pairs',
  choices: ['wholes', 'length', 'order'],
  objects: true,
  asks: (random, wish) =>
    pairs(random, { ...wish, zeroToo: false }, sum).flatMap(([a, b]): Ask[] => {
      const open = { show: 'stick', first: a, second: b, hidden: false } as const;
      const snapped = { ...open, hidden: true };
      return chain([
        makeAsk(`${a}+${b}`, open, { say: 'in-all' }, { ...seen, after: { say: 'write-whole', whole: a + b } }),
        sideAsk(snapped, 'this-part', a, b),
        makeAsk(`bond:${a + b}:${a}`, snapped, { say: 'hidden-part', whole: a + b }),
        ...sentencesOf(open, a, b),
      ]);
    }),
};

/** The whole, written first → one after another moves from the first tray to the second: both parts, the sentence; the whole stays. */
const movingCounters: Routine = {
  id: 'moving-counters',
  untimed: true,
  shelf: { show: 'trays', first: 3, second: 2 },
  group: 'pairs',
  choices: ['wholes', 'counters'],
  asks: (random, wish) => {
    const whole = oneWhole(random, wish);
    const trays = (second: number) =>
      ({ show: 'trays', first: whole - second, second, counters: countersOf(wish) }) as const;
    const moves = Array.from({ length: whole + 1 }, (_, second): Ask[] => {
      const first = whole - second;
      const picture = trays(second);
      const after: Prompt =
        first < second
          ? { say: 'turned-sentence', whole, first, second }
          : { say: 'parts-sentence', whole, first, second };
      return [
        sideAsk(picture, 'this-side', first, second),
        makeAsk(`bond:${whole}:${first}`, picture, { say: 'moved-one', whole }, { aid: 'picture', after }),
      ];
    });
    return [talk(trays(0), { say: 'write-whole', whole }), ...moves.flat()];
  },
};

/** A domino: the whole, written first → this half, the other half → turned round and read again → one half covered → the sentence. */
const dominoes: Routine = {
  id: 'dominoes',
  usualCards: 2,
  group: 'pairs',
  choices: ['wholes', 'length', 'order', 'zero'],
  objects: true,
  asks: (random, wish) =>
    pairs(random, wish, sum, ([a, b]) => a <= 9 && b <= 9).flatMap(([a, b]): Ask[] => {
      const open = { show: 'halves', first: a, second: b, covered: false } as const;
      const whole = { say: 'write-whole', whole: a + b } as const;
      return chain([
        makeAsk(`${a}+${b}`, open, { say: 'in-all' }, { ...seen, after: whole }),
        sideAsk(open, 'this-half', a, b),
        sideAsk(open, 'other-half', b, a),
        makeAsk(`${b}+${a}`, { ...open, first: b, second: a }, { say: 'turned' }, seen),
        makeAsk(`bond:${a + b}:${a}`, { ...open, covered: true }, { say: 'hidden-part', whole: a + b }),
        talk(open, { say: 'parts-sentence', whole: a + b, first: a, second: b }),
      ]);
    }),
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
        return makeAsk(`${a}+${b}`, { show: 'part-whole', whole: null, first: a, second: b }, { say: 'find-whole' });
      const picture = turn === 1 ? { whole, first: b, second: null } : { whole, first: null, second: b };
      return makeAsk(`bond:${whole}:${b}`, { show: 'part-whole', ...picture }, { say: 'find-part' });
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
      makeAsk(
        `bond:${whole}:${face}`,
        { show: 'die', face, whole },
        { say: 'die', whole, face },
        { note: { say: 'die-shuts-out', whole } },
      ),
    );
  },
};

/**
 * One board of ways for everybody: each in turn adds one → half way: have we got them all? → the last one is reasoned out → how do you know. What is told twice, or turned round, lights up; how many
 * are still to come is not given away unless that is wished.
 */
const allTheWays: Routine = {
  id: 'all-the-ways',
  untimed: true,
  shelf: { show: 'ways', whole: 5, ways: [[1, 4], [2, 3], [3, 2], null] },
  shared: true,
  group: 'pairs',
  choices: ['wholes', 'rule', 'ways', 'slots'],
  asks: (random, wish) => {
    const whole = oneWhole(random, wish);
    const all = waysOf(whole, wish.options.rule);
    if (wish.options.ways !== 'withheld') return [wayAsk(wish, whole, [])];
    const held = Math.floor(random() * all.length);
    const ways = all.map((pair, i) => (i === held ? null : pair));
    const accepts = pairTexts([all[held]!], wish.options.rule);
    return [
      makeAsk(
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
    if (found.length !== Math.ceil(all.length / 2) || said('all-yet')) return [next];
    return [
      {
        ...talk(next.picture, { say: 'all-yet' }),
        note: { say: 'ways-so-far', found: found.length, repeated: repeated.length, left: left.length },
      },
      { ...next, goesOn: true },
    ];
  },
};

const offeredIn = (soFar: readonly Answered[]): Pair[] =>
  soFar.map((a) => parsePair(a.given)).filter((pair): pair is Pair => pair !== null);

/** Asks for a way that is missing: any, the next in order, or the last. */
function wayAsk({ options }: RoutineWish, whole: number, soFar: readonly Answered[]): Ask {
  const { found, left } = sortWays(whole, options.rule, offeredIn(soFar));
  const inOrder = options.ways === 'order';
  const open = left.slice(0, inOrder ? 1 : left.length);
  const slots = options.slots === 'shown' ? open.map(() => null) : [];
  const say =
    found.length > 1 && left.length === 1 ? 'withheld-way' : inOrder && soFar.length > 0 ? 'next-way' : 'a-way';
  return makeAsk(
    `ways:${whole}`,
    { show: 'ways', whole, ways: [...found, ...slots] },
    { say, whole },
    {
      want: { by: 'pair' },
      accepts: pairTexts(open, options.rule),
      after: { say: 'new-way' },
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
