import { createHash, randomBytes, randomInt } from 'node:crypto';

const RANDOM_BYTES = 32;

/** Random token for a cookie or a link. */
export const newToken = (): string => randomBytes(RANDOM_BYTES).toString('base64url');

/** Of tokens only the hash is kept. */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Letters and digits that are not easily confused. */
const LETTERS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
const CODE_LENGTH = 6;

/** A code that is read aloud and typed in: no letters that look alike. */
export const newCode = (length = CODE_LENGTH): string =>
  Array.from({ length }, () => LETTERS[randomInt(LETTERS.length)]).join('');

/** A code as it was meant, however it was typed. */
export const plainCode = (code: string): string => code.toUpperCase().replace(/[^A-Z0-9]/g, '');
