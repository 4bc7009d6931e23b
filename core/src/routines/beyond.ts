import { pick, shuffled, type Random } from '../random/random';
import type { Picture } from './picture';
import { chain, makeAsk, type Ask, type Routine, type RoutineWish, type Want } from './routine';
import type { Pair } from './ways';

const number = (answer: number): Want => ({ by: 'number', to: answer > 10 ? 20 : 10 });

/** Three parts of which two make ten, in any places. */
function withTen(random: Random): number[] {
  const one = pick(random, [1, 2, 3, 4, 6, 7, 8, 9]);
  const rest = pick(
    random,
    [1, 2, 3, 4, 5, 6].filter((n) => n !== one && n !== 10 - one),
  );
  return shuffled(random, [one, 10 - one, rest]);
}

/** Three parts within ten, for adding from left to right. */
function withinTen(random: Random): number[] {
  const a = pick(random, [1, 2, 3, 4, 5]);
  const b = pick(random, [1, 2, 3]);
  return [
    a,
    b,
    pick(
      random,
      [1, 2].filter((n) => a + b + n <= 10),
    ),
  ];
}

/** Three small parts from left to right first; then, of three, the two that make ten. Every third time one is missing. */
const threeParts: Routine = {
  id: 'three-parts',
  usualCards: 5,
  group: 'three parts and past ten',
  choices: ['three', 'length'],
  asks: (random, wish) =>
    Array.from({ length: wish.shows }, (_, i): Ask[] => {
      const byTen = wish.options.three === 'ten' && i >= SMALL_FIRST;
      const parts = byTen ? withTen(random) : withinTen(random);
      const [a = 1, b = 1, c = 1] = parts;
      if (i % 3 === 2) return [missingOfThree(a, b, c)];
      const fact = `${a}+${b}+${c}`;
      const total = makeAsk(
        fact,
        { show: 'sentence', fact },
        { say: 'three-parts', parts },
        { want: number(a + b + c), after: { say: 'how-known' } },
      );
      return byTen ? chain([whichTwo({ show: 'sentence', fact }, parts, 'find-ten'), total]) : [total];
    }).flat(),
};
/** Small sums before any that hides a ten. */
const SMALL_FIRST = 2;

/** Which two of three make ten, and so where the ten is. */
function whichTwo(picture: Picture, parts: readonly number[], say: 'find-ten' | 'where-ten'): Ask {
  const [a = 1, b = 1, c = 1] = parts;
  return makeAsk(
    `ten:${a}+${b}+${c}`,
    picture,
    { say },
    { want: { by: 'choice', among: [`${a}+${b}`, `${a}+${c}`, `${b}+${c}`] }, after: { say: 'thanks' } },
  );
}

/** The known two are put together first, then what is missing to the whole. */
function missingOfThree(a: number, b: number, c: number): Ask {
  const whole = a + b + c;
  const fact = `${a}+?+${c}=${whole}`;
  return makeAsk(fact, { show: 'sentence', fact }, { say: 'three-missing', known: [a, c], whole });
}

/** Two numbers below ten that go past it, mixed; both orders come up. */
function pastTen(random: Random, { shows }: RoutineWish): Pair[] {
  const all: Pair[] = [];
  for (let a = 2; a <= 9; a++) for (let b = 2; b <= 9; b++) if (a + b > 10 && a !== b) all.push([a, b]);
  return shuffled(random, all).slice(0, Math.max(1, shows));
}

/** One picture throughout, the greater first, its counters and those of the other told apart → which is nearer ten → its gap → split the other → move just enough → ten and the rest → the sentences, both turned. */
const pastTenRoutine: Routine = {
  id: 'past-ten',
  usualCards: 2,
  shelf: { show: 'two-frames', first: 8, second: 5, outside: false },
  group: 'three parts and past ten',
  choices: ['past', 'length'],
  asks: (random, wish) =>
    pastTen(random, wish).flatMap(([a, b]): Ask[] => {
      const [near, far] = [Math.max(a, b), Math.min(a, b)];
      const gap = 10 - near;
      const rest = far - gap;
      const outside = wish.options.past === 'one';
      const under = (fact: string, over: Picture): Picture => ({ show: 'sentence', fact, over });
      const before = under(`${a}+${b}`, { show: 'two-frames', first: near, second: far, outside });
      const moved = { show: 'two-frames', first: 10, second: rest, moved: gap, outside } as const;
      const seen = { aid: 'picture', after: { say: 'thanks' } } as const;
      const sentence = (fact: string): Ask =>
        makeAsk(fact, under(fact, moved), { say: 'sentence', fact }, { ...seen, want: number(10 + rest) });
      return chain([
        makeAsk(
          `more:${a}:${b}`,
          before,
          { say: 'nearer-ten' },
          {
            want: { by: 'choice', among: [String(a), String(b)] },
            accepts: [String(near)],
            aid: 'picture',
            after: { say: 'thanks' },
          },
        ),
        makeAsk(`${near}+?=10`, before, { say: 'to-ten' }, seen),
        makeAsk(`bond:${far}:${gap}`, before, { say: 'split', of: far, to: gap }, seen),
        makeAsk(
          `${near}+${far}:move`,
          before,
          { say: 'move-enough' },
          {
            aid: 'picture',
            want: {
              by: 'board',
              plan: { layout: 'frame-fives', frames: 2, start: [near, far], moves: true, byRule: false },
            },
            after: { say: 'thanks' },
          },
        ),
        makeAsk(`left:${far}-${gap}`, under(`${a}+${b}`, moved), { say: 'left-over' }, seen),
        ...[`10+${rest}`, `${near}+${far}`, `${far}+${near}`].map(sentence),
        sentence(`${rest}+10`),
      ]);
    }),
};

/** One of three sentences goes past ten, or has two parts that make it → and where is the ten? */
const hidesTen: Routine = {
  id: 'hides-ten',
  usualCards: 4,
  untimed: true,
  group: 'three parts and past ten',
  choices: ['length'],
  asks: (random, wish) =>
    Array.from({ length: wish.shows }, (_, i): Ask[] => {
      const three = i % 2 === 0 ? withTen(random) : null;
      const two = pick(random, PAST_TEN);
      const hiding = three ? three.join('+') : two.join('+');
      const others = three ? ['2+4+3', '1+6+2', '5+1+3', '4+4+1'] : ['4+5', '3+6', '2+7', '6+2'];
      const lines = shuffled(random, [hiding, ...shuffled(random, others).slice(0, 2)]);
      const [near, far] = [Math.max(...two), Math.min(...two)];
      return chain([
        makeAsk(
          `hides:${lines.join(':')}`,
          { show: 'sentences', lines },
          { say: 'hides-ten' },
          { want: { by: 'choice', among: lines }, after: { say: 'thanks' } },
        ),
        three
          ? whichTwo({ show: 'sentences', lines: [hiding] }, three, 'where-ten')
          : makeAsk(
              `${near}+${far}:move`,
              { show: 'sentences', lines: [hiding] },
              { say: 'where-move', of: far, to: near },
              { after: { say: 'how-known' } },
            ),
      ]);
    }).flat(),
};
const PAST_TEN: readonly Pair[] = [[8, 5], [7, 6], [9, 4], [6, 8], [5, 7], [9, 6]]; // prettier-ignore

export const BEYOND: readonly Routine[] = [threeParts, pastTenRoutine, hidesTen];
