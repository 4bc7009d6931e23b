import type { EntityManager } from '@mikro-orm/postgresql';
import { createHash } from 'node:crypto';
import { SignInAttempt } from '../db/entities';
import { RequestProblem } from '../problem';

/** So many wrong passwords in a row are a slip of the fingers. After them every further one doubles the wait. */
const FREE = 5;
const FIRST_WAIT_MS = 30_000;
const LONGEST_WAIT_MS = 3_600_000;
/** After so long without a try the count begins anew. */
const FORGOTTEN_MS = 24 * 3_600_000;

const keyOf = (email: string): string => createHash('sha256').update(email.trim().toLowerCase()).digest('hex');

export const waitAfter = (failures: number): number =>
  failures < FREE ? 0 : Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (failures - FREE));

/** Refuses an address that has been tried too often, whether anybody has it or not: the answer tells nobody who is here. */
export async function mayTry(em: EntityManager, email: string, now: Date): Promise<void> {
  const found = await em.findOne(SignInAttempt, { emailHash: keyOf(email) });
  if (found === null) return;
  const left = found.lastAt.getTime() + waitAfter(found.failures) - now.getTime();
  if (left > 0)
    throw new RequestProblem('try-later', {
      detail: `in ${left > 90_000 ? `${Math.ceil(left / 60_000)} minutes` : `${Math.ceil(left / 1000)} seconds`}`,
    });
}

export async function failed(em: EntityManager, email: string, now: Date): Promise<void> {
  await em.execute(
    `insert into sign_in_attempt (email_hash, failures, last_at) values (?, 1, ?)
     on conflict (email_hash) do update set last_at = excluded.last_at,
       failures = case when sign_in_attempt.last_at < ? then 1 else sign_in_attempt.failures + 1 end`,
    [keyOf(email), now, new Date(now.getTime() - FORGOTTEN_MS)],
  );
}

export const succeeded = (em: EntityManager, email: string): Promise<number> =>
  em.nativeDelete(SignInAttempt, { emailHash: keyOf(email) });
