import type { Reading, Reason } from '@vane/core';

export { factWords } from '@vane/core/routines/classWords';

/** Words for what `core` gives as data. */
const NUMBERS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
export const inLetters = (n: number): string => NUMBERS[n] ?? String(n);
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
/** "Ivo", "Ivo and Cleo", "Ivo, Cleo and Odo". */
export const listed = (items: readonly string[]): string =>
  items.length <= 1 ? (items[0] ?? '') : `${items.slice(0, -1).join(', ')} and ${items[items.length - 1] ?? ''}`;
export const some = (n: number, one: string, many = `${one}s`): string => `${inLetters(n)} ${n === 1 ? one : many}`;

/** Whether one of these names has what is being looked for; everything has nothing. */
export const named = (names: readonly string[], wanted: string): boolean =>
  names.some((name) => name.toLocaleLowerCase().includes(wanted.trim().toLocaleLowerCase()));

/** The filled lines of a text. */
export const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((one) => one.trim())
    .filter((one) => one !== '');

export const seconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;

/** A reading's word; with answers enough, what keeps it open instead of "too few answers". */
export function readingWords({ reading, reason }: Reading): string {
  if (reading !== 'too few answers') return reading;
  if (reason.code === 'time-cannot-tell') return 'time cannot tell';
  return reason.code === 'in-between' ? 'in between' : reading;
}

/** How sure, in words: certainty 0 … 1. */
export function sureness(reading: Reading): string {
  if (reading.responses === 0) return 'not asked yet';
  if (reading.certainty >= 0.75) return 'quite sure';
  if (reading.certainty >= 0.45) return 'fairly sure';
  return reading.certainty >= 0.2 ? 'probably' : 'not sure';
}

/** What would settle or change a reading. */
export function whatWouldChange(reason: Reason, tooShort: boolean): string {
  const ask =
    ' Counting this takes hardly longer than knowing it: only asking “did you count or did you see it?” can tell.';
  switch (reason.code) {
    case 'needs-answers':
      return `${capital(some(reason.more, 'more answer'))} without help would begin to settle it.${tooShort ? ask : ''}`;
    case 'needs-another-day':
      return 'Quick and right so far, but all on one day: a quick answer on another day would make it known.';
    case 'in-between':
      return 'The answers so far fit knowing and counting alike. Two or three more on another day would settle it.';
    case 'time-cannot-tell':
      return `Probably known.${ask}`;
    case 'quick-on-days':
      return 'It was quick and right on several days. Several slow answers would put it in doubt.';
    case 'mostly-wrong':
      return 'More than half were wrong. Right answers, however slow, would change this.';
    case 'leads':
      return reason.strategy === 'guess'
        ? 'The answers look like guesses. It may be too early to ask for this.'
        : 'Two quick answers on another day would begin to change this.';
  }
}
