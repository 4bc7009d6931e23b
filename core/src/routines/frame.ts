import { pick, type Random } from '../random/random';
import type { BoardPlan } from './board';
import { numbersTo } from './draws';
import { countersOf, put, type Ask, type Routine, type RoutineWish } from './routine';
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
  return put(`match:${n}`, NOTHING, prompt, {
    want: { by: 'board', plan: boardOf(layout) },
    after: { say: 'follow-up', n },
  });
}

const frameOf = (wish: RoutineWish, count: number): Picture => ({
  show: 'frame',
  layout: framed(wish),
  count,
  direction: wish.options.direction,
  counters: countersOf(wish),
});

/** Count the boxes → the start box → the filling rule → numbers made → three anywhere, three by the rule → empty and full. */
const learnFrame: Routine = {
  id: 'learn-frame',
  untimed: true,
  group: 'learn the frame',
  choices: ['layout', 'direction', 'startBox', 'counters'],
  asks: (random, wish) => {
    const size = sizeOf(framed(wish));
    const small = pick(random, [2, 4]);
    return [
      put(null, frameOf(wish, 0), { say: 'boxes' }, { accepts: [String(size)], after: { say: 'thanks' } }),
      put(
        null,
        NOTHING,
        { say: 'start-box' },
        { want: { by: 'board', plan: boardOf(framed(wish)) }, accepts: ['1'], after: { say: 'thanks' } },
      ),
      ...(size === 5 ? [small] : [small, 5, pick(random, [6, 7, 8])]).map((n) => build(wish, n)),
      put(
        null,
        NOTHING,
        { say: 'anywhere', n: 3 },
        { want: { by: 'board', plan: boardOf(framed(wish), false) }, accepts: ['3'], after: { say: 'thanks' } },
      ),
      build(wish, 3),
      build(wish, 0),
      build(wish, size),
    ];
  },
};

/** How far off the adult's deliberately wrong answers are. */
const WRONG_BY = [-2, -1, 1, 2];

/** The child asks, the adult answers, in half of the cases wrong; the child judges it. */
function askMe(random: Random, fact: string, answer: number): Ask {
  const wrong = WRONG_BY.map((by) => answer + by).filter((n) => n >= 0 && n <= 10);
  const claim = random() < 0.5 ? answer : pick(random, wrong);
  return put(
    `check:${fact}=${claim}`,
    NOTHING,
    { say: 'ask-me', fact, claim },
    { want: { by: 'choice', among: ['yes', 'no'] } },
  );
}

/** A number is named → the frame is filled by the rule → to five, to ten → the whole fact → the child asks the adult. */
const makeIt: Routine = {
  id: 'make-it',
  untimed: true,
  group: 'learn the frame',
  choices: ['layout', 'direction', 'startBox', 'counters', 'length', 'order'],
  asks: (random, wish) => {
    const layout = framed(wish);
    const size = sizeOf(layout);
    return numbersTo(random, size - 1, { ...wish, zeroToo: false }, 4).flatMap((n): Ask[] => {
      const goal = n < 5 ? 5 : 10;
      const picture = frameOf(wish, n);
      const whole = `${n}+${goal - n}`;
      return [
        build(wish, n),
        put(
          `${n}+?=${goal}`,
          picture,
          { say: 'how-many-more', to: goal },
          { aid: 'picture', after: { say: 'thanks' } },
        ),
        put(whole, picture, { say: 'whole-sentence', fact: whole }, { aid: 'picture', after: { say: 'thanks' } }),
        askMe(random, `${n}+?=${goal}`, goal - n),
      ];
    });
  },
};

/** Objects to match a numeral: put out by hand, marked by the adult. */
const objectsToNumeral: Routine = {
  id: 'objects-to-numeral',
  untimed: true,
  group: 'learn the frame',
  choices: ['length', 'order', 'zero'],
  objects: true,
  asks: (random, wish) =>
    numbersTo(random, 10, wish).map((n) =>
      put(
        `match:${n}`,
        { show: 'numeral', n },
        { say: 'match-objects' },
        { aid: 'objects', after: { say: 'how-known' } },
      ),
    ),
};

export const FRAME_ROUTINES: readonly Routine[] = [learnFrame, makeIt, objectsToNumeral];
