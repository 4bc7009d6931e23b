import type { EntityManager } from '@mikro-orm/postgresql';
import { School } from './entities';

/** The harbour demo: an invented school, known by its id. */
export const DEMO_SCHOOL_ID = '0197a000-0000-7000-8000-000000000001';

/** Whether this installation is a demo: the harbour school, and no other beside it. */
export async function isDemo(em: EntityManager): Promise<boolean> {
  const schools = await em.find(School, {}, { fields: ['id'], limit: 2 });
  return schools.length === 1 && schools[0]?.id === DEMO_SCHOOL_ID;
}
