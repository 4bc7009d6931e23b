import { hash, verify } from '@node-rs/argon2';
import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';
import { randomBytes } from 'node:crypto';
import PQueue from 'p-queue';
import { RequestProblem } from '../problems/problem';

/** argon2id with the package's defaults (19 MiB, 2 passes), as OWASP advises. */
export const passwordHash = (password: string): Promise<string> => hash(password);

/** Checked against when no such adult exists, so that the answer takes as long as for one who does. */
let decoy: Promise<string> | null = null;

/** Checking one takes a core some tens of milliseconds: two at once leave room for everybody who is teaching. */
const queue = new PQueue({ concurrency: 2 });
/** One address cannot have more than these wait at once; others wait behind them for half a second at most. */
const MOST_WAITING_OF_ONE = 12;
const waiting = new Map<string, number>();

/** Origin of a password check: address, and whether the device is known. */
interface Asker {
  readonly address: string;
  readonly known: boolean;
}

/** Is this the password? In turn: a known device first, and of one unknown address only a few. @throws RequestProblem try-later */
export async function isPassword(stored: string | undefined, password: string, asker: Asker): Promise<boolean> {
  const { address, known } = asker;
  const own = waiting.get(address) ?? 0;
  if (!known && own >= MOST_WAITING_OF_ONE) throw new RequestProblem('try-later', { detail: 'in a few seconds' });
  waiting.set(address, own + 1);
  try {
    const against = stored ?? (await (decoy ??= passwordHash(randomBytes(16).toString('hex'))));
    return await queue.add(() => verify(against, password), { priority: known ? 1 : 0 });
  } finally {
    const left = (waiting.get(address) ?? 1) - 1;
    if (left > 0) waiting.set(address, left);
    else waiting.delete(address);
  }
}

/** Of the package's scale from 0 to 4: safe from somebody who tries a few hundred a day for years. */
const LEAST_SCORE = 3;
/** The estimate's cost grows with the square of the length; longer passwords are not guessable. */
const LOOKED_AT = 64;
let estimator: ZxcvbnFactory | null = null;

/**
 * Refuses a password that is easy to guess: a common one, a row of keys, or one made of the names around it.
 * @param about names that others know: the adult's, their address, the school's
 * @throws RequestProblem weak-password
 */
export function demandGoodPassword(password: string, about: readonly string[]): void {
  estimator ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  const names = about.flatMap((name) => [name, ...name.split(/[\s@.,_-]+/)]).filter((word) => word.length >= 3);
  const { score } = estimator.check(password.slice(0, LOOKED_AT), [...names, 'vane']);
  if (score < LEAST_SCORE) throw new RequestProblem('weak-password');
}
