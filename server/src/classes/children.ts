import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { Child } from '../db/entities';

/** A class of a school: what every query about a class names. */
export interface ClassKey {
  readonly schoolId: string;
  readonly classId: string;
}

/** Adds children by nickname. */
export async function addChildren(em: EntityManager, key: ClassKey, nicknames: readonly string[], now: Date): Promise<void> {
  if (nicknames.length > 0)
    await em.insertMany(
      Child,
      nicknames.map((nickname) => ({ ...key, id: v7(), nickname, createdAt: now })),
    );
}
