import { createHash, randomBytes, randomInt } from 'node:crypto';

const RANDOM_BYTES = 32;
/** A school's id in a token. */
const SCHOOL_LENGTH = 22;
const RANDOM_LENGTH = 43;

/** Random token for a cookie. */
export const newToken = (): string => randomBytes(RANDOM_BYTES).toString('base64url');

/** The same for cookies and links that lead to a school: it begins with the school's id, so that it is looked for where the school lives. */
export const newSchoolToken = (schoolId: string): string =>
  Buffer.from(schoolId.replace(/-/g, ''), 'hex').toString('base64url') + newToken();

/** The school of a token; null where it names none, as those of earlier versions. */
export function schoolOfToken(token: string): string | null {
  if (token.length !== SCHOOL_LENGTH + RANDOM_LENGTH) return null;
  const hex = Buffer.from(token.slice(0, SCHOOL_LENGTH), 'base64url').toString('hex');
  return hex.length === 32 ? hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, '$1-$2-$3-$4-') : null;
}

/** Of tokens only the hash is kept. */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** Letters and digits that are not easily confused. */
const LETTERS = 'ABCDEFGHJKMNPQRSTUVWXYZ23456789';
const CODE_LENGTH = 6;

/** A code that is read aloud and typed in: no letters that look alike. */
export const newCode = (): string =>
  Array.from({ length: CODE_LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('');
