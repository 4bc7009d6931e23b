import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { Audit } from './db/entities';

/** What is written down whenever it happens. */
export const AUDITED = [
  'signed in',
  'signed out everywhere',
  'password changed',
  'password reset',
  'adult invited',
  'adult joined',
  'adult changed',
  'adult removed',
  'exported',
  'imported',
  'import taken back',
  'overruled',
  'corrected',
  'child moved',
  'child archived',
  'child deleted',
  'class added',
  'class archived',
  'class deleted',
  'year rolled over',
] as const;
export type AuditedAct = (typeof AUDITED)[number];

/** Writes down who did what. The detail is for the school's lead; of a child it says what happened, never an answer. */
export async function audit(
  em: EntityManager,
  adult: { readonly schoolId: string; readonly id: string; readonly name: string },
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
