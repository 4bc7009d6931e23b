import { isNumberFact, parseFact } from '../facts/fact';
import { seeded, type Random } from '../random/random';
import { USUAL_WORDS } from './classWords';
import { pairs, sum } from './draws';
import { helped, twoParts, upTo } from './facts';
import { USUAL_OPTIONS } from './options';
import { optionsFor, makeAsk, type Ask, type PlannedAsk, type Routine, type RoutineWish } from './routine';
import type { Pair } from './ways';
import { seenPicture } from './seeing';
import { framePicture } from './tens';

/**
 * A fact as a plan puts it: a quantity is flashed; how many more to five or ten, with its frame flashed; a pair in its picture; the rest as far along the path as the child is: over its frame, after a look at
 * its frame, or in symbols.
 */
function askFor(random: Random, { fact, form }: PlannedAsk, wish: RoutineWish): Ask {
  const read = parseFact(fact);
  if (!isNumberFact(read))
    return makeAsk(
      fact,
      seenPicture(wish, read.answer, random, read.layout!),
      { say: 'how-many-seen' },
      { flash: true },
    );
  const { whole, parts, answer } = read;
  if (read.kind === 'bond')
    return makeAsk(fact, { show: 'part-whole', whole, first: parts[0], second: null }, { say: 'find-part' });
  const given = whole - answer;
  const frame = framePicture(wish, whole === 5 ? 'five' : 'frame-fives', given);
  if ((whole === 5 || whole === 10) && fact === `${parts[0]}+?=${whole}`)
    return makeAsk(fact, frame, { say: 'how-many-more', to: whole }, { flash: true });
  const sentence = { say: 'sentence', fact } as const;
  if (form === 'symbols') return makeAsk(fact, { show: 'sentence', fact }, sentence);
  // Both parts would show the answer: for a missing part the known part is drawn, with a ring round the total.
  if (read.kind === 'missing')
    return form === 'picture'
      ? makeAsk(fact, { show: 'sentence', fact, over: upTo(wish, given, whole) }, sentence, { aid: 'picture' })
      : makeAsk(fact, frame, sentence, { flash: true });
  // Of a take-away, what stays and what goes.
  const pair: Pair = read.kind === 'subtract' ? [answer, given] : parts;
  return form === 'picture'
    ? helped(wish, fact, pair, 'picture')
    : makeAsk(fact, twoParts(wish, pair), sentence, { flash: true });
}

/** Planned questions as they are put; of the layouts, options and things of the class, the rest does not matter to them. */
export const plannedAsks = (
  random: Random,
  facts: readonly PlannedAsk[],
  { layout, options, things }: Pick<RoutineWish, 'layout' | 'options' | 'things'>,
): Ask[] => {
  const wish: RoutineWish = {
    layout,
    options: optionsFor(planned, options),
    things,
    facts,
    shows: facts.length,
    zeroToo: false,
    wholeFrom: 2,
    wholeTo: 10,
    warmUp: 'none',
    sitters: 1,
    workingNumber: null,
    times: null,
  };
  return facts.map((one) => askFor(random, one, wish));
};

/** Whether a planned question is shown and covered, and whether its picture stays in view: its words and drawings depend on the class, these do not. */
export function howPut(ask: PlannedAsk): Pick<Ask, 'flash' | 'aid'> {
  const usual = { layout: 'frame-fives', options: USUAL_OPTIONS, things: USUAL_WORDS.things } as const;
  const [{ flash, aid }] = plannedAsks(seeded(1), [ask], usual) as [Ask];
  return { flash, aid };
}

/** The questions that a plan proposes for each child, in the plan's order. */
export const planned: Routine = {
  id: 'planned',
  group: 'check and close',
  choices: ['exposure', 'direction', 'wholes', 'length'],
  asks: (random, wish) =>
    (wish.facts.length > 0
      ? wish.facts
      : pairs(random, wish, sum).map(([a, b]): PlannedAsk => ({ fact: `${a}+${b}`, form: 'symbols' }))
    ).map((one) => askFor(random, one, wish)),
};
