import { drawNumbers } from './drawNumbers';
import { WARM_UPS, type WarmUp } from './warmUp';
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

/** The questions with which a sitting begins, in order: the warm-up, then the routine's own. */
export const sittingAsks = (random: Random, routine: Routine, wish: RoutineWish): Ask[] => [
  ...(routine.untimed ? [] : warmUpAsks(random, wish.warmUp)),
  ...routine.asks(random, wish),
];

/** Sets worth counting: fewer than four are seen at a glance. */
const SETS = [4, 5, 6, 7, 8, 9];

/** Numerals to copy, or sets to count: they measure the child's hand or pace before the routine. */
function warmUpAsks(random: Random, warmUp: WarmUp): Ask[] {
  const more = { after: { say: 'thanks' }, warmUp: true } as const;
  if (warmUp === 'none') return [];
  if (warmUp === 'copies')
    return drawNumbers(random, [1, 2, 3, 4, 5, 6, 7, 8, 9, 10], WARM_UPS).map((n) =>
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
