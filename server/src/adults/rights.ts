import type { EntityManager } from '@mikro-orm/postgresql';
import type { MiddlewareHandler } from 'hono';
import { ClassAdult } from '../db/entities';
import type { ClassKey } from '../db/keys';
import { RequestProblem } from '../problems/problem';
import type { Env } from '../request/context';
import { uuidOr404 } from '../request/ids';

/** Whether an adult works with a class: a teacher with those given to it, a lead with every class of the school. */
export async function mayEnter(
  em: EntityManager,
  { schoolId, id, role }: Env['Variables']['adult'],
  classId: string,
): Promise<boolean> {
  // Asked before every answer: plainly.
  const found: unknown[] =
    role === 'lead'
      ? await em.execute('select 1 from class where school_id = ? and id = ?', [schoolId, classId])
      : await em.execute('select 1 from class_adult where school_id = ? and class_id = ? and adult_id = ?', [
          schoolId,
          classId,
          id,
        ]);
  return found.length > 0;
}

/** Gives a class to an adult. */
export async function giveClass(em: EntityManager, key: ClassKey, adultId: string): Promise<void> {
  await em.insert(ClassAdult, { ...key, adultId });
}

/** Lets an adult through to its classes, and to no other: another's class is as if it were not there. */
export const ownClass: MiddlewareHandler<Env> = async (c, next) => {
  const classId = uuidOr404(c.req.param('classId'));
  if (!(await mayEnter(c.var.em, c.var.adult, classId))) throw new RequestProblem('not-found');
  c.set('classKey', { schoolId: c.var.schoolId, classId });
  return next();
};
