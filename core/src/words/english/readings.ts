import type { SessionSum } from '../../reading/lastSession';
import type { Moved } from '../../reading/moved';
import { toldAs, type Reading, type ReadingWord, type ToldWord } from '../../reading/reading';
import { fact } from './facts';
import { formOf, inLetters, listed } from './numbers';

/** Readings by their code. */
export const readings: Record<ReadingWord, string> = {
  knows: 'knows',
  'works out': 'works out',
  'in between': 'in between',
  counts: 'counts',
  'not yet': 'not yet',
  'too few answers': 'too few answers',
};

/** Readings as they are told. */
export const told: Record<ToldWord, string> = {
  ...readings,
  'probably known': 'probably known',
  'ask the child': 'ask the child',
};
/** A reading in words; where time cannot tell, what to do instead of "in between". */
export const reading = (one: Reading): string => told[toldAs(one)];

/** How sure, in words. */
export function sureness({ responses, certainty }: Reading): string {
  if (responses === 0) return 'not asked yet';
  if (certainty >= 0.75) return 'quite sure';
  if (certainty >= 0.45) return 'fairly sure';
  return certainty >= 0.2 ? 'probably' : 'not sure';
}

/** What it means that a session changed no reading. */
export function nothingMoved({ judged, wrong, helped }: SessionSum): string {
  if (judged === 0)
    return helped > 0
      ? 'No readings changed: every answer was given with help, and those are not judged.'
      : 'No readings changed: none of its answers was judged.';
  const all = judged === 1 ? 'the one answer' : `all ${inLetters(judged)} answers`;
  if (wrong === 0)
    return `No readings changed: ${all} ${judged === 1 ? 'was' : 'were'} right and fit what was read before, or are too few to change it.`;
  const some =
    wrong === judged
      ? `though ${all} ${judged === 1 ? 'was' : 'were'} wrong`
      : `though ${inLetters(wrong)} of ${inLetters(judged)} answers ${formOf(wrong, 'was', 'were')} wrong`;
  return `No readings changed, ${some}: one wrong answer moves little where many speak for a fact. More of them on another day would.`;
}

/** What a child's last session changed. */
export function moved(changes: readonly Moved[], askHow: readonly string[], answered: SessionSum): string {
  const shown = changes
    .slice(0, 3)
    .map(({ fact: text, before, after }) =>
      before === null
        ? `${fact(text)} now reads “${reading(after)}”`
        : `${fact(text)} moved from “${reading(before)}” to “${reading(after)}”`,
    );
  const more = changes.length > 3 ? [`${changes.length - 3} more`] : [];
  const said = shown.length > 0 ? `${listed([...shown, ...more])}.` : nothingMoved(answered);
  if (askHow.length === 0) return said;
  return `${said} Ask “did you count or did you see it?” for ${listed(askHow.map(fact))}.`;
}
