import type { EntityManager } from '@mikro-orm/postgresql';
import { hashOf, newCode, plainCode } from '../adults/tokens';
import { SetUpCode } from '../db/entities';
import { anySchool, isDemo } from '../db/demoSchool';
import { RequestProblem } from '../problems/problem';

/** Long enough that nobody who is merely in the same network guesses it. */
const LETTERS = 10;

/** Whether this Vane waits for its first school, or has a demo in its place. */
export const waitsForSetUp = async (em: EntityManager): Promise<boolean> => !(await anySchool(em)) || isDemo(em);

async function keep(em: EntityManager, code: string, now: Date): Promise<void> {
  await em.upsert(SetUpCode, { id: 1, hash: hashOf(plainCode(code)), madeAt: now });
}

/** Makes the code anew; the one before is good no more. */
export async function newSetUpCode(em: EntityManager, now: Date): Promise<string> {
  const code = newCode(LETTERS);
  await keep(em, code, now);
  return code;
}

/**
 * The code for a Vane that waits for its first school.
 * @param given by whoever starts it
 * @param alone this is the only server, with a window of its own: what an earlier start showed may be gone from it
 * @returns what is to be shown; null where nobody needs one, or another server has shown it
 */
export async function setUpCodeAtStart(
  em: EntityManager,
  now: Date,
  { given, alone }: { readonly given: string | undefined; readonly alone: boolean },
): Promise<string | null> {
  if (!(await waitsForSetUp(em))) return null;
  if (given === undefined) return alone || (await em.count(SetUpCode)) === 0 ? newSetUpCode(em, now) : null;
  await keep(em, given, now);
  return given;
}

/** @throws RequestProblem that this is not the code that the terminal shows */
export async function demandSetUpCode(em: EntityManager, code: string): Promise<void> {
  if ((await em.count(SetUpCode, { hash: hashOf(plainCode(code)) })) === 0)
    throw new RequestProblem('wrong-set-up-code');
}
