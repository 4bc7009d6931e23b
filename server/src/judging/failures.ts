import type { EntityManager } from '@mikro-orm/postgresql';
import { FailedWork } from '../db/entities';
import type { ClassKey } from '../db/keys';

/** Work on a class. */
type ClassWork = 'judge' | 'weeks';

/** Age of a failure after which a reader has it tried again, ms. */
const TRY_AGAIN_MS = 60_000;

/** Whether this work has failed for good, just now. */
export async function failedJustNow(em: EntityManager, key: ClassKey, what: ClassWork, now: Date): Promise<boolean> {
  const failed = await em.findOne(FailedWork, { ...classOnly(key), what }, { disableIdentityMap: true });
  return failed !== null && now.getTime() - failed.failedAt.getTime() < TRY_AGAIN_MS;
}

/** Does work on a class, and keeps in mind when it failed for good. */
export async function remembered(
  em: EntityManager,
  key: ClassKey,
  what: ClassWork,
  last: boolean,
  now: () => Date,
  act: () => Promise<void>,
): Promise<void> {
  try {
    await act();
    await em.nativeDelete(FailedWork, { ...classOnly(key), what });
  } catch (error) {
    if (last) await em.upsert(FailedWork, { ...classOnly(key), what, failedAt: now() });
    throw error;
  }
}

const classOnly = ({ schoolId, classId }: ClassKey): ClassKey => ({ schoolId, classId });
