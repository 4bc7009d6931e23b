import { isNumberFact, parseFact } from '../facts/fact';
import type { Random } from '../random/random';
import { pairs, sum } from './draws';
import { put, type Ask, type Routine, type RoutineWish } from './routine';
import { seenPicture } from './seeing';
import { framePicture } from './tens';

/** A fact as a plan puts it: a quantity is flashed; how many more to five or ten, with its frame flashed; a pair in its picture; the rest in symbols. */
function askFor(random: Random, fact: string, wish: RoutineWish): Ask {
  const read = parseFact(fact);
  if (!isNumberFact(read))
    return put(fact, seenPicture(wish, read.answer, random, read.layout!), { say: 'how-many-seen' }, { flash: true });
  if (read.kind === 'bond')
    return put(
      fact,
      { show: 'part-whole', whole: read.whole, first: read.parts[0], second: null },
      { say: 'find-part' },
    );
  const { whole, parts } = read;
  if ((whole === 5 || whole === 10) && fact === `${parts[0]}+?=${whole}`)
    return put(
      fact,
      framePicture(wish, whole === 5 ? 'five' : 'frame-fives', parts[0]),
      { say: 'how-many-more', to: whole },
      { flash: true },
    );
  return put(fact, { show: 'sentence', fact }, { say: 'sentence', fact });
}

/** The questions that a plan proposes for each child, in its order. */
export const planned: Routine = {
  id: 'planned',
  group: 'check and close',
  choices: ['exposure', 'direction', 'wholes', 'length'],
  asks: (random, wish) =>
    (wish.facts.length > 0 ? wish.facts : pairs(random, wish, sum).map(([a, b]) => `${a}+${b}`)).map((fact) =>
      askFor(random, fact, wish),
    ),
};
