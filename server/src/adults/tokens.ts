import { createHash, randomBytes } from 'node:crypto';

/** A token that nobody guesses, fit for a cookie and a link. */
export const newToken = (): string => randomBytes(32).toString('base64url');

/** Of tokens only the hash is kept. */
export const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
