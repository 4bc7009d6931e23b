import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { inviteAdult } from '../adults/linkRoutes';
import { Adult, Child, School, SchoolClass } from '../db/entities';

/** A school that cannot be opened, in words for whoever runs Vane. */
export class SchoolTrouble extends Error {}

interface Lead {
  readonly name: string;
  readonly email: string;
}

/** Nobody works at two schools under one address: it says at sign-in which school is meant. */
async function demandFree(em: EntityManager, email: string): Promise<void> {
  if ((await em.count(Adult, { email })) > 0)
    throw new SchoolTrouble(`${email} already signs in to a school here: choose another address.`);
}

/** Invites a lead to a school: the token of a link that works once, within a week. An earlier invitation of the same address is withdrawn. */
export async function inviteLead(
  em: EntityManager,
  now: Date,
  schoolId: string,
  { name, email }: Lead,
): Promise<string> {
  const address = email.trim().toLowerCase();
  return em.transactional(async (tx) => {
    if ((await tx.count(School, { id: schoolId })) === 0) throw new SchoolTrouble(`There is no school ${schoolId}.`);
    await demandFree(tx, address);
    return inviteAdult(tx, now, { schoolId, name, email: address, role: 'lead', classes: [] });
  });
}

/** Opens a school beside those that are here, and invites its lead, who makes its classes. */
export async function openSchool(
  em: EntityManager,
  now: Date,
  { name, timeZone, lead }: { readonly name: string; readonly timeZone: string; readonly lead: Lead },
): Promise<{ schoolId: string; token: string }> {
  return em.transactional(async (tx) => {
    if ((await tx.count(School, { name })) > 0) throw new SchoolTrouble(`There is already a school called ${name}.`);
    const schoolId = v7();
    await tx.insert(School, { id: schoolId, name, timeZone, createdAt: now });
    return { schoolId, token: await inviteLead(tx, now, schoolId, lead) };
  });
}

/** Every school with how much is in it, by name. */
export async function schoolsHere(
  em: EntityManager,
): Promise<{ id: string; name: string; adults: number; classes: number; children: number }[]> {
  const here = [];
  for (const { id, name } of await em.find(School, {}, { orderBy: { name: 'asc' } })) {
    const open = { schoolId: id, archivedAt: null };
    const [adults, classes, children] = [
      await em.count(Adult, { schoolId: id }),
      await em.count(SchoolClass, open),
      await em.count(Child, open),
    ];
    here.push({ id, name, adults, classes, children });
  }
  return here;
}
