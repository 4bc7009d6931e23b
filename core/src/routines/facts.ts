import { factText } from '../facts/fact';
import { shuffled, type Random } from '../random/random';
import type { Ask, Routine, RoutineWish } from './routine';

type Pair = readonly [first: number, second: number];

/** Pairs of the wholes asked for, mixed: every pair as often as any other, never the same answer twice running where that can be helped. */
function pairs(
  random: Random,
  { wholeFrom, wholeTo, zeroToo, shows }: RoutineWish,
  answer: (pair: Pair) => number,
  fits: (pair: Pair) => boolean = () => true,
): Pair[] {
  const all: Pair[] = [];
  for (let whole = wholeFrom; whole <= wholeTo; whole++) {
    for (let first = zeroToo ? 0 : 1; first <= whole - (zeroToo ? 0 : 1); first++) if (fits([first, whole - first])) all.push([first, whole - first]);
  }
  if (all.length === 0) all.push([1, 1]);
  const drawn: Pair[] = [];
  while (drawn.length < shows) {
    const left = shuffled(random, all);
    while (left.length > 0) {
      const last = drawn[drawn.length - 1];
      const next = left.findIndex((pair) => last === undefined || answer(pair) !== answer(last));
      drawn.push(...left.splice(Math.max(0, next), 1));
    }
  }
  return drawn.slice(0, shows);
}

/** A fact in symbols: nothing to count but in the head. */
const inSymbols = (fact: string): Ask => ({
  fact,
  picture: { show: 'sentence', fact },
  flash: false,
  aid: 'none',
  prompt: { say: 'sentence', fact },
  after: { say: 'how-known' },
  warmUp: false,
});

const sum = ([a, b]: Pair): number => a + b;
const first = ([a]: Pair): number => a;
const second = ([, b]: Pair): number => b;

const sums: Routine = {
  id: 'sums',
  title: 'Sums',
  group: 'facts',
  about: 'Addition in symbols, mixed.',
  choices: ['wholes', 'zero'],
  asks: (random, wish) => pairs(random, wish, sum).map(([a, b]) => inSymbols(`${a}+${b}`)),
};

const doubles: Routine = {
  id: 'doubles',
  title: 'Doubles',
  group: 'facts',
  about: 'The same number twice.',
  choices: ['wholes', 'zero'],
  asks: (random, wish) => pairs(random, wish, sum, ([a, b]) => a === b).map(([a, b]) => inSymbols(`${a}+${b}`)),
};

const takeAway: Routine = {
  id: 'take-away',
  title: 'Take away',
  group: 'facts',
  about: 'Take-away in symbols, mixed. Best once the sums are safe.',
  choices: ['wholes', 'zero'],
  asks: (random, wish) => pairs(random, wish, second).map(([a, b]) => inSymbols(factText('subtract', a + b, a))),
};

const missingPart: Routine = {
  id: 'missing-part',
  title: 'Missing part',
  group: 'facts',
  about: 'The gap anywhere in the sentence, the total on either side.',
  choices: ['wholes', 'zero'],
  asks: (random, wish) => pairs(random, wish, second).map(([a, b], i) => inSymbols([`${a}+?=${a + b}`, `?+${a}=${a + b}`, `${a + b}=${a}+?`][i % 3]!)),
};

/** a + b, b + a, c − a, c − b: asked together, recorded separately. */
const family: Routine = {
  id: 'family',
  title: 'One family',
  group: 'facts',
  about: 'The four sentences of one pair, one after the other; each answer is recorded for itself.',
  choices: ['wholes'],
  asks: (random, wish) =>
    pairs(random, { ...wish, zeroToo: false, shows: Math.ceil(wish.shows / 4) }, sum).flatMap(([a, b]) => {
      const texts = [`${a}+${b}`, `${b}+${a}`, factText('subtract', a + b, a), factText('subtract', a + b, b)];
      return [...new Set(texts)].map(inSymbols);
    }),
};

const partWhole: Routine = {
  id: 'part-whole',
  title: 'Part and whole',
  group: 'pairs',
  about: 'The part-whole picture: the whole or either part is missing, in turn.',
  choices: ['wholes', 'zero'],
  asks: (random, wish) =>
    pairs(random, wish, first).map(([a, b], i): Ask => {
      const whole = a + b;
      const common = { flash: false, aid: 'none', after: { say: 'how-known' }, warmUp: false } as const;
      if (i % 3 === 0)
        return { ...common, fact: `${a}+${b}`, picture: { show: 'part-whole', whole: null, first: a, second: b }, prompt: { say: 'find-whole' } };
      const picture = i % 3 === 1 ? { whole, first: b, second: null } : { whole, first: null, second: b };
      return { ...common, fact: `bond:${whole}:${b}`, picture: { show: 'part-whole', ...picture }, prompt: { say: 'find-part' } };
    }),
};

/** Start full; crossed off means gone. */
const crossedOff: Routine = {
  id: 'crossed-off',
  title: 'Crossed off',
  group: 'pairs',
  about: 'Some counters on the frame are crossed off; how many are left? The picture stays in view, so this is practice, not proof.',
  choices: ['wholes', 'direction'],
  asks: (random, wish) =>
    pairs(random, { ...wish, zeroToo: false }, second).map(([gone, left]): Ask => ({
      fact: factText('subtract', gone + left, gone),
      picture: { show: 'crossed-off', count: gone + left, gone, direction: wish.direction },
      flash: false,
      aid: 'picture',
      prompt: { say: 'left' },
      after: { say: 'how-known' },
      warmUp: false,
    })),
};

/** Some here, some there → two kinds on the frame → the sentence: told first with the picture, then asked in symbols. */
const story: Routine = {
  id: 'story',
  title: 'Story, frame, sentence',
  group: 'pairs',
  about: 'Some here, some more come: told with the frame in view, then read as a sentence.',
  choices: ['wholes', 'direction'],
  asks: (random, wish) =>
    pairs(random, { ...wish, zeroToo: false, shows: Math.ceil(wish.shows / 2) }, sum).flatMap(([a, b]): Ask[] => [
      {
        fact: `${a}+${b}`,
        picture: { show: 'two-part', first: a, second: b, direction: wish.direction },
        flash: false,
        aid: 'picture',
        prompt: { say: 'story', first: a, second: b },
        after: { say: 'how-known' },
        warmUp: false,
      },
      inSymbols(`${a}+${b}`),
    ]),
};

export const FACT_ROUTINES: readonly Routine[] = [partWhole, crossedOff, story, sums, doubles, takeAway, missingPart, family];
