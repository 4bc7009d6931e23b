import type { RecordRow } from '@vane/contract';
import { observedText, parseObserved, type Explanation, type Help, type Sign } from '@vane/core';

export const FINER_SIGNS = ['fingers', 'lips'] as const;
export type FinerSign = (typeof FINER_SIGNS)[number];

/** What an adult adds to an answer, as the record has it: what was seen, how the child said they did it, what helped, and what came then. */
export type Marks = Pick<RecordRow, 'observed' | 'explanation' | 'help' | 'second_answer'>;
export const NO_MARKS: Marks = { observed: '', explanation: '', help: [], second_answer: '' };

/** As a row has them. */
export const marksOf = ({ observed, explanation, help, second_answer }: Marks): Marks => ({
  observed,
  explanation,
  help,
  second_answer,
});

/** What was seen. */
export const observedOf = ({ observed }: Marks) => parseObserved(observed) ?? { sign: null, finerSigns: [] };

const seen = (marks: Marks, sign: Sign | null, finerSigns: readonly string[]): Marks => ({
  ...marks,
  observed: observedText({ sign, finerSigns }),
});

/** A sign, or the same again: it was a slip. */
export function withSign(marks: Marks, sign: Sign): Marks {
  const now = observedOf(marks);
  return seen(marks, now.sign === sign ? null : sign, now.finerSigns);
}

export function withFiner(marks: Marks, sign: string): Marks {
  const now = observedOf(marks);
  const has = now.finerSigns.includes(sign);
  return seen(marks, now.sign, has ? now.finerSigns.filter((s) => s !== sign) : [...now.finerSigns, sign]);
}

export const withExplanation = (marks: Marks, explanation: Explanation): Marks => ({
  ...marks,
  explanation: marks.explanation === explanation ? '' : explanation,
});

export const withHelp = (marks: Marks, help: Help): Marks =>
  marks.help.includes(help) ? marks : { ...marks, help: [...marks.help, help] };

/** What was seen stays; what belonged to the answer goes with it: how counters lay, how it was explained, what helped. */
export function answerTakenBack(marks: Marks, slip: string | null): Marks {
  const { sign, finerSigns } = observedOf(marks);
  return seen(
    NO_MARKS,
    sign,
    finerSigns.filter((one) => one !== slip),
  );
}
