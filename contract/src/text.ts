import * as z from 'zod';

/** One line of text without control characters: those have no meaning in a name or a note, and PostgreSQL refuses the null character. */
export const line = (most: number) =>
  z
    .string()
    .max(most)
    // eslint-disable-next-line no-control-regex -- control characters are exactly what is refused here
    .regex(/^[^\u0000-\u001f\u007f]*$/, 'must be one line without control characters');

/** The same, trimmed, and not empty. */
export const filledLine = (most: number) =>
  line(most)
    .transform((s) => s.trim())
    .pipe(z.string().min(1, 'must not be empty'));

const FIRST_YEAR = 1970;
const LAST_YEAR = 2199;
/** Whether any clock may show this: a moment as text, or as milliseconds since 1970. */
export const inOurTime = (at: string | number): boolean => {
  const year = new Date(at).getUTCFullYear();
  return year >= FIRST_YEAR && year <= LAST_YEAR;
};

/** A day, YYYY-MM-DD, of a year that any clock may show. */
export const day = z.iso.date().refine(inOurTime, 'is no day of our time');
/** A moment, ISO 8601 with its offset; a device's clock may be wrong, but not by centuries. */
export const moment = z.iso.datetime({ offset: true }).refine(inOurTime, 'is no moment of our time');

/** Deeper than anything Vane sends; PostgreSQL and JSON.stringify give up far below. */
const DEEPEST = 40;

/** Whether a value holds nothing that PostgreSQL cannot store: no null character, and no half of a pair of surrogates, in any text or name of a field, and nothing nested without end. */
export function storable(value: unknown, deep = 0): boolean {
  if (typeof value === 'string') return !/[\0\p{Surrogate}]/u.test(value);
  if (typeof value !== 'object' || value === null) return true;
  if (deep >= DEEPEST) return false;
  return Object.entries(value).every(([name, inner]) => storable(name) && storable(inner, deep + 1));
}

/**
 * What two names have in common when they differ in upper and lower case alone: letter by letter, as PostgreSQL's lower() has it, whatever a letter's neighbours are. (A language's own rules
 * would make two of the Greek sigma at the end of a word and within it.)
 */
export const folded = (name: string): string => Array.from(name, (letter) => letter.toLowerCase()).join('');
