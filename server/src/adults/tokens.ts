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
export const newCode = (): string =>
  Array.from({ length: CODE_LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('');
