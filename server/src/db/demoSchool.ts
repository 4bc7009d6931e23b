import type { EntityManager } from '@mikro-orm/postgresql';

/** The harbour demo: an invented school, known by its id. */
export const DEMO_SCHOOL_ID = '0197a000-0000-7000-8000-000000000001';

/** The schools of this installation, two at most. */
const someSchools = (em: EntityManager): Promise<{ id: string }[]> => em.execute('select id from school limit 2');

/** Whether there is any school. */
export const anySchool = async (em: EntityManager): Promise<boolean> => (await someSchools(em)).length > 0;

/** Whether this installation is a demo: the harbour school, and no other beside it. */
export async function isDemo(em: EntityManager): Promise<boolean> {
  const schools = await someSchools(em);
  return schools.length === 1 && schools[0]?.id === DEMO_SCHOOL_ID;
}
