import type { RecordRow } from '@vane/contract';
import { parseObserved } from '@vane/core';
import { words } from '../language/words';

/** What was answered. */
export function givenWords({ outcome, given }: RecordRow): string {
  if (outcome === 'none') return $localize`no answer`;
  if (outcome === 'correct') return given;
  // What was only heard was not right, and nobody wrote down what it was.
  return given === '' ? $localize`wrong` : $localize`${given} (wrong)`;
}

/** What the adult saw or heard, how the child said they did it, what helped, and what came then. */
export function seenWords({ observed, explanation, help, second_answer }: RecordRow): string {
  const { sign, finerSigns } = parseObserved(observed) ?? { sign: null, finerSigns: [observed] };
  return [
    ...(sign === null ? [] : [words.record.signs[sign]]),
    ...finerSigns.map((one) => words.record.finerSigns[one] ?? one.replaceAll('-', ' ')),
    ...(explanation === '' ? [] : [words.record.explanations[explanation]]),
    ...(help.length === 0 ? [] : [$localize`then ${words.listed(help.map((one) => words.record.helps[one]))}`]),
    ...(second_answer === '' ? [] : [$localize`and answered ${second_answer}`]),
  ].join(', ');
}

/** Help, what makes it void, and what is doubtful about its time. */
export const whyNot = (row: RecordRow): string[] =>
  [words.record.aids[row.aid], row.void, ...row.flags.map((flag) => words.record.flags[flag])].filter(
    (one) => one !== '',
  );
