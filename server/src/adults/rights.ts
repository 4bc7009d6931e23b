import type { EntityManager } from '@mikro-orm/postgresql';
import { ClassAdult } from '../db/entities';
import type { ClassKey } from '../db/keys';
import type { Env } from '../request/context';

/** Whether an adult works with a class: a teacher with those given to it, a lead with every class of the school. The view `class_right` says so, to everything that asks. */
export async function mayEnter(
  em: EntityManager,
  { schoolId, id }: Pick<Env['Variables']['adult'], 'schoolId' | 'id'>,
  classId: string,
): Promise<boolean> {
  const found: unknown[] = await em.execute(
    'select 1 from class_right where school_id = ? and class_id = ? and adult_id = ?',
    [schoolId, classId, id],
  );
  return found.length > 0;
}

/** Gives a class to an adult. */
export async function giveClass(em: EntityManager, key: ClassKey, adultId: string): Promise<void> {
  await em.insert(ClassAdult, { ...key, adultId });
}
