const LETTERS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
const PLURALS = new Intl.PluralRules('en-GB');
const AND = new Intl.ListFormat('en-GB', { type: 'conjunction' });
const OR = new Intl.ListFormat('en-GB', { type: 'disjunction' });

/** A small number in letters: "four", "no", "11". */
export const inLetters = (n: number): string => LETTERS[n] ?? String(n);
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
/** "Ivo", "Ivo and Cleo", "Ivo, Cleo and Odo". */
export const listed = (items: readonly string[]): string => AND.format(items);
export const eitherOf = (items: readonly string[]): string => OR.format(items);
/** The form that goes with a number. */
export const formOf = (n: number, one: string, other: string): string => (PLURALS.select(n) === 'one' ? one : other);
/** "one answer", "four answers", "no answers". */
export const some = (n: number, one: string, other = `${one}s`): string => `${inLetters(n)} ${formOf(n, one, other)}`;
export const seconds = (ms: number): string => `${(ms / 1000).toFixed(1)} s`;

/** Things that sentences count, by name. */
export const counted = {
  answers: (n: number) => some(n, 'answer'),
  adults: (n: number) => some(n, 'adult', 'adults'),
  children: (n: number) => some(n, 'child', 'children'),
  classes: (n: number) => some(n, 'class', 'classes'),
  failures: (n: number) => some(n, 'piece of work failed', 'pieces of work failed'),
  days: (n: number) => some(n, 'day'),
  facts: (n: number) => some(n, 'fact'),
  minutes: (n: number) => `about ${some(n, 'minute')}`,
  sessions: (n: number) => some(n, 'session'),
  times: (n: number) => (n === 1 ? 'once' : n === 2 ? 'twice' : `${inLetters(n)} times`),
  ways: (n: number) => `${n} ${formOf(n, 'way', 'ways')}`,
  weeks: (n: number) => some(n, 'week'),
};
