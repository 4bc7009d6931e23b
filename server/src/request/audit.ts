import type { AuditedAct } from '../db/auditedActs';
import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { Audit } from '../db/entities';

/** Writes down who did what. The detail is for the school's lead; of a child it says what happened, never an answer. An adult without id and name is whoever runs Vane. */
export async function audit(
  em: EntityManager,
  adult: { readonly schoolId: string; readonly id: string | null; readonly name: string },
  now: Date,
  what: AuditedAct,
  detail = '',
  childId: string | null = null,
): Promise<void> {
  await em.insert(Audit, {
    schoolId: adult.schoolId,
    id: v7(),
    at: now,
    adultId: adult.id,
    adultName: adult.name,
    what,
    detail,
    childId,
  });
}
