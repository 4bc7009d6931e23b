import type { EntityManager } from '@mikro-orm/postgresql';

/** For whatever counts or looks and then writes what depends on it, about a school as a whole: in a transaction, before it looks. Others who do so wait; who only adds to the record does not. */
export const lockSchool = (em: EntityManager, schoolId: string): Promise<unknown> =>
  em.execute('select 1 from school where id = ? for no key update', [schoolId]);
