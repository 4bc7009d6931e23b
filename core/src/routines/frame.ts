import { parseQuestion } from '../facts/question';
import { pick, shuffled, type Random } from '../random/random';
import type { BoardPlan } from './board';
import { numbersTo } from './draws';
import { chain, countersOf, makeAsk, talk, type Ask, type Routine, type RoutineWish } from './routine';
import type { Picture } from './picture';

type Framed = 'five' | 'frame-fives';
const framed = ({ layout }: RoutineWish): Framed => (layout === 'five' ? 'five' : 'frame-fives');
const sizeOf = (layout: Framed): 5 | 10 => (layout === 'five' ? 5 : 10);

const NOTHING: Picture = { show: 'nothing' };
export const boardOf = (layout: BoardPlan['layout'], byRule = true): BoardPlan => ({
  layout,
  frames: 1,
  start: [0],
  moves: false,
  byRule,
});

/** A number built on the frame by its rule: the numeral is heard, not seen. */
function build(wish: RoutineWish, n: number): Ask {
  const layout = framed(wish);
  const prompt =
    n === 0
      ? ({ say: 'fill-empty' } as const)
      : n === sizeOf(layout)
        ? ({ say: 'fill-full' } as const)
        : ({ say: 'fill', n } as const);
  return makeAsk(`match:${n}`, NOTHING, prompt, {
    want: { by: 'board', plan: boardOf(layout) },
    after: { say: 'built', n },
    then: { say: 'follow-up', n },
  });
}

const frameOf = (wish: RoutineWish, count: number): Picture => ({
  show: 'frame',
  layout: framed(wish),
  count,
  direction: wish.options.direction,
  counters: countersOf(wish),
});

/** Where three lie when they lie anywhere: apart, so that they cannot be seen at a glance. */
const ANYWHERE = { five: [0, 2, 4], 'frame-fives': [1, 4, 8] } as const;

/** How many boxes, above and below → the start box → the filling rule, said aloud → numbers made → three anywhere beside three by the rule → empty and full. */
const learnFrame: Routine = {
  id: 'learn-frame',
  untimed: true,
  shelf: { show: 'frame', layout: 'frame-fives', count: 1, direction: 'rows' },
  group: 'learn the frame',
  choices: ['layout', 'direction', 'startBox', 'counters'],
  asks: (random, wish) => {
    const layout = framed(wish);
    const size = sizeOf(layout);
    const small = pick(random, [2, 4]);
    const boxes = (say: 'boxes' | 'boxes-top' | 'boxes-below'): Ask =>
      makeAsk(`${say}:${size}`, frameOf(wish, 0), { say }, { aid: 'picture', after: { say: 'thanks' } });
    const look = { direction: wish.options.direction, counters: countersOf(wish) };
    return [
      boxes('boxes'),
      ...(size === 10 ? [boxes('boxes-top'), boxes('boxes-below')] : []),
      makeAsk(
        'start:1',
        NOTHING,
        { say: 'start-box' },
        { want: { by: 'board', plan: boardOf(layout) }, after: { say: 'rule-start' } },
      ),
      talk(frameOf(wish, 0), { say: size === 10 ? 'rule-row' : 'rule-row-five' }),
      ...(size === 5 ? [small] : [small, 5, pick(random, [6, 7, 8])]).map((n) => build(wish, n)),
      ...chain([
        makeAsk(
          'anywhere:3',
          NOTHING,
          { say: 'anywhere', n: 3 },
          { want: { by: 'board', plan: boardOf(layout, false) }, after: { say: 'still', n: 3 } },
        ),
        build(wish, 3),
        talk(
          {
            show: 'sets',
            left: { show: 'frame-anywhere', layout, boxes: ANYWHERE[layout], ...look },
            right: frameOf(wish, 3),
          },
          { say: 'which-easier' },
        ),
      ]),
      build(wish, 0),
      build(wish, size),
    ];
  },
};

/** How far off the adult's deliberately wrong answers are. */
const WRONG_BY = [-2, -1, 1, 2];

/** A number is named → the frame is filled by the rule → to five, to ten → the whole fact. */
function makeOne(wish: RoutineWish, n: number): Ask[] {
  const goal = n < 5 ? 5 : 10;
  const picture = frameOf(wish, n);
  const whole = `${n}+${goal - n}`;
  const seen = { aid: 'picture', after: { say: 'thanks' } } as const;
  return chain([
    build(wish, n),
    makeAsk(`${n}+?=${goal}`, picture, { say: 'how-many-more', to: goal }, seen),
    makeAsk(whole, picture, { say: 'whole-sentence', fact: whole }, seen),
    makeAsk(
      null,
      NOTHING,
      { say: 'child-sets' },
      { want: { by: 'board', plan: boardOf(framed(wish)) }, accepts: EVERY_NUMBER, after: { say: 'thanks' } },
    ),
  ]);
}
const EVERY_NUMBER = Array.from({ length: 11 }, (_, n) => String(n));

/** The child has set a number and asks; the adult answers wrong on purpose, and the child puts it right. */
function putRight(random: Random, wish: RoutineWish, n: number): Ask {
  const goal = n < 5 || framed(wish) === 'five' ? 5 : 10;
  const fact = `${n}+?=${goal}`;
  const claims = WRONG_BY.map((by) => goal - n + by).filter((claim) => claim >= 0 && claim <= 10);
  return makeAsk(
    fact,
    frameOf(wish, n),
    { say: 'wrong-on-purpose', fact, claim: pick(random, claims) },
    { aid: 'picture', after: { say: 'thanks' } },
  );
}

/** A number is named → filled → to five, to ten → the whole fact → the child sets a number and asks → the adult is wrong on purpose → the child puts it right. */
const makeIt: Routine = {
  id: 'make-it',
  usualCards: 2,
  untimed: true,
  group: 'learn the frame',
  choices: ['layout', 'direction', 'startBox', 'counters', 'length', 'order'],
  asks: (random, wish) => makeOne(wish, numbersTo(random, sizeOf(framed(wish)) - 1, { ...wish, zeroToo: false })[0]!),
  follow: (soFar, random, wish) => {
    const last = soFar[soFar.length - 1];
    if (last?.ask.prompt.say === 'child-sets')
      return [{ ...putRight(random, wish, Math.min(sizeOf(framed(wish)), Number(last.given))), goesOn: true }];
    const named = soFar.flatMap(({ ask }) =>
      ask.want.by === 'board' && ask.fact !== null ? [answerOf(ask.fact)] : [],
    );
    if (named.length >= wish.shows) return [];
    const next =
      wish.options.order === 'rising'
        ? [(named[named.length - 1]! % (sizeOf(framed(wish)) - 1)) + 1]
        : shuffled(random, numbersTo(random, sizeOf(framed(wish)) - 1, { ...wish, zeroToo: false, shows: 9 })).filter(
            (n) => !named.includes(n),
          );
    return next.length > 0 ? makeOne(wish, next[0]!) : [];
  },
};
const answerOf = (fact: string): number => Number(parseQuestion(fact).answer);

/** Objects to match a numeral: put out by hand, marked by the adult. */
const objectsToNumeral: Routine = {
  id: 'objects-to-numeral',
  untimed: true,
  group: 'learn the frame',
  choices: ['length', 'order', 'zero'],
  objects: true,
  asks: (random, wish) =>
    numbersTo(random, 10, wish).map((n) =>
      makeAsk(
        `match:${n}`,
        { show: 'numeral', n },
        { say: 'match-objects' },
        { aid: 'objects', after: { say: 'how-known' } },
      ),
    ),
};

export const FRAME_ROUTINES: readonly Routine[] = [learnFrame, makeIt, objectsToNumeral];
