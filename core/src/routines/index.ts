import type { Random } from '../random/random';
import { FACT_ROUTINES } from './facts';
import { warmUpAsks, type Ask, type Routine, type RoutineWish } from './routine';
import { SEEING } from './seeing';
import { TENS } from './tens';

/** Every routine, in the order in which children usually meet them. */
export const ROUTINES: readonly Routine[] = [...SEEING, ...TENS, ...FACT_ROUTINES];

/** @throws RangeError for an id that is none */
export function routineOf(id: string): Routine {
  const found = ROUTINES.find((routine) => routine.id === id);
  if (!found) throw new RangeError(`there is no routine "${id}"`);
  return found;
}

/** The questions of a sitting in order: the warm-up, then the routine's own. */
export const sittingAsks = (random: Random, routine: Routine, wish: RoutineWish): Ask[] => [...warmUpAsks(random, wish.warmUp), ...routine.asks(random, wish)];
