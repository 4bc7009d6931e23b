import type { EntityManager } from '@mikro-orm/postgresql';
import { School } from '../db/entities';
import { RequestProblem } from '../problems/problem';

/** @throws RequestProblem that the school is closed, as it is being carried elsewhere */
export function demandOpen(closed: boolean): void {
  if (closed) throw new RequestProblem('school-moving');
}

/** The same where it is not known yet. */
export async function demandOpenSchool(em: EntityManager, schoolId: string): Promise<void> {
  const school = await em.findOneOrFail(School, { id: schoolId }, { fields: ['movingAt'] });
  demandOpen(Boolean(school.movingAt));
}
