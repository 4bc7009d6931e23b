import type { Reading } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { classOrChild, type Which } from '../db/keys';

/** Readings as they were stored last, current or not. Thousands of rows: read plainly, without an entity for each. */
export async function storedReadings(em: EntityManager, which: Which): Promise<Reading[]> {
  const { where, values } = classOrChild(which, 'r');
  return em.execute<Reading[]>(
    `select child_id as child, fact, reading, p_automatic as "pAutomatic", lean, certainty, responses, days, reason from reading r
     where ${where} order by child_id, fact`,
    values,
  );
}
