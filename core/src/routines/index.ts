import { drawNumbers } from './drawNumbers';
import { WARM_UPS } from './warmUp';
import type { Random } from '../random/random';
import { BEYOND } from './beyond';
import { CHECKS } from './check';
import { FACT_ROUTINES } from './facts';
import { FRAME_ROUTINES } from './frame';
import { PAIR_ROUTINES } from './pairs';
import { planned } from './planned';
import { makeAsk, type Ask, type Routine, type RoutineWish } from './routine';
import { SEEING } from './seeing';
import { TENS } from './tens';

/** Every routine, in the order in which children usually meet them. */
export const ROUTINES: readonly Routine[] = [
  ...FRAME_ROUTINES,
  ...SEEING,
  ...TENS,
  ...PAIR_ROUTINES,
  ...FACT_ROUTINES,
  ...BEYOND,
  planned,
  ...CHECKS,
];

/** @throws RangeError for an id that is none */
export function routineOf(id: string): Routine {
  const found = ROUTINES.find((routine) => routine.id === id);
  if (!found) throw new RangeError(`there is no routine "${id}"`);
  return found;
}

/** The questions with which a sitting begins, in order: the routine's own, with the warm-up between them; a child is asked something real first. */
export function sittingAsks(random: Random, routine: Routine, wish: RoutineWish): Ask[] {
  const own = routine.asks(random, wish);
  if (routine.untimed) return own;
  const warm = warmUpAsks(random, wish);
  return [
    ...own.flatMap((ask, i) => {
      // Between two questions, not within one that goes on.
      const ends = own[i + 1]?.goesOn !== true;
      return ends && warm.length > 0 ? [ask, warm.shift()!] : [ask];
    }),
    ...warm,
  ];
}

/** A child who is new names two numerals, within five. */
const FIRST_NUMERALS = [1, 2, 3, 4, 5];
const FIRST_WARM_UPS = 2;

/** Sets worth counting: fewer than four are seen at a glance. */
const SETS = [4, 5, 6, 7, 8, 9];

/** Numerals to copy, or sets to count: they measure the child's hand or pace. */
function warmUpAsks(random: Random, { warmUp, times }: RoutineWish): Ask[] {
  const more = { after: { say: 'thanks' }, note: { say: 'warm-up' }, warmUp: true } as const;
  if (warmUp === 'none') return [];
  const numerals = times === null ? FIRST_NUMERALS : [...FIRST_NUMERALS, 6, 7, 8, 9, 10];
  if (warmUp === 'copies')
    return drawNumbers(random, numerals, times === null ? FIRST_WARM_UPS : WARM_UPS).map((n) =>
      makeAsk(`match:${n}`, { show: 'numeral', n }, { say: 'copy' }, more),
    );
  return drawNumbers(random, SETS, WARM_UPS).map((count, i) =>
    makeAsk(
      `count:${count}:scatter`,
      { show: 'scatter', count, seed: Math.floor(random() * 1e6) + i },
      { say: 'count' },
      more,
    ),
  );
}
