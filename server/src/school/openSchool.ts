import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { inviteAdult } from '../adults/linkRoutes';
import { adultAt } from '../adults/signIn';
import { Adult, Child, School, SchoolClass } from '../db/entities';
import { FIRST, type Shard, type Shards } from '../db/shards';

/** A school that cannot be opened, in words for whoever runs Vane. */
export class SchoolTrouble extends Error {}

interface Lead {
  readonly name: string;
  readonly email: string;
}

/** Invites a lead of a school: nobody works at two schools under one address, as it says at sign-in which school is meant. */
async function invite(shards: Shards, tx: EntityManager, now: Date, schoolId: string, lead: Lead): Promise<string> {
  const email = lead.email.trim().toLowerCase();
  if (await adultAt(shards, email))
    throw new SchoolTrouble(`${email} already signs in to a school here: choose another address.`);
  return inviteAdult(tx, now, { schoolId, name: lead.name, email, role: 'lead', classes: [] });
}

/** Invites a lead to a school: the token of a link that works once, within a week. An earlier invitation of the same address is withdrawn. */
export async function inviteLead(shards: Shards, now: Date, schoolId: string, lead: Lead): Promise<string> {
  const em = await shards.em(schoolId);
  if ((await em.count(School, { id: schoolId })) === 0) throw new SchoolTrouble(`There is no school ${schoolId}.`);
  return em.transactional((tx) => invite(shards, tx, now, schoolId, lead));
}

/** Opens a school beside those that are here, in a shard, and invites its lead, who makes its classes. */
export async function openSchool(
  shards: Shards,
  now: Date,
  { name, timeZone, lead }: { readonly name: string; readonly timeZone: string; readonly lead: Lead },
  at: Shard = shards.first,
): Promise<{ schoolId: string; token: string }> {
  const schoolId = v7();
  const called = await Promise.all(shards.all.map(({ orm }) => orm.em.fork().count(School, { name })));
  if (called.some((count) => count > 0)) throw new SchoolTrouble(`There is already a school called ${name}.`);
  const token = await at.orm.em.fork().transactional(async (tx) => {
    await tx.insert(School, { id: schoolId, name, timeZone, createdAt: now });
    const made = await invite(shards, tx, now, schoolId, lead);
    // Last: a school that was not opened is not in the directory.
    if (at.name !== FIRST)
      await shards.first.orm.em.fork().execute('insert into directory values (?, ?)', [schoolId, at.name]);
    return made;
  });
  return { schoolId, token };
}

/** A school, where it lives and how much is in it. */
export interface SchoolHere {
  readonly id: string;
  readonly name: string;
  readonly shard: string;
  /** It is being moved since then, or a move broke off. */
  readonly movingAt: Date | null;
  readonly adults: number;
  readonly classes: number;
  readonly children: number;
}

/** Every school, by name. */
export async function schoolsHere(shards: Shards): Promise<SchoolHere[]> {
  const here: SchoolHere[] = [];
  for (const shard of shards.all) {
    const em = shard.orm.em.fork();
    for (const { id, name, movingAt } of await em.find(School, {})) {
      if (await shards.left(id, shard)) continue;
      const open = { schoolId: id, archivedAt: null };
      const [adults, classes, children] = [
        await em.count(Adult, { schoolId: id }),
        await em.count(SchoolClass, open),
        await em.count(Child, open),
      ];
      here.push({ id, name, shard: shard.name, movingAt: movingAt ?? null, adults, classes, children });
    }
  }
  return here.sort((a, b) => a.name.localeCompare(b.name, 'en'));
}
