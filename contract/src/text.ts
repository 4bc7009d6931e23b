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
