import { words } from '../language/words';

export const { inLetters, capital, listed, seconds } = words;
export const factWords = words.fact;
export const readingWords = words.readings.reading;
export const { sureness, whatWouldChange } = words.readings;

/** Whether one of these names has what is being looked for; everything has nothing. */
export const named = (names: readonly string[], wanted: string): boolean =>
  names.some((name) => name.toLocaleLowerCase().includes(wanted.trim().toLocaleLowerCase()));

/** The filled lines of a text. */
export const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((one) => one.trim())
    .filter((one) => one !== '');
