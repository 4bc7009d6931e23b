import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { inviteAdult } from '../adults/linkRoutes';
import { adultAt } from '../adults/signIn';
import { School } from '../db/entities';
import { isDemo } from '../db/demoSchool';
import type { ProblemCode } from '../problems/problem';
import { audit } from '../request/audit';
import { FIRST, type Shard, type Shards } from '../db/shards';

/** What cannot be done with a school, in words for whoever runs Vane; `code` is what a page says. */
export class SchoolTrouble extends Error {
  constructor(
    message: string,
    readonly code: ProblemCode = 'failed',
  ) {
    super(message);
  }
}
const noSchool = (id: string): SchoolTrouble => new SchoolTrouble(`There is no school ${id}.`, 'not-found');

/** Who acts where no adult of the school does, as its own record of acts names them. */
const SERVICE = { id: null, name: '' };

interface Lead {
  readonly name: string;
  readonly email: string;
}

/** Invites a lead of a school: nobody works at two schools under one address, as it says at sign-in which school is meant. */
async function invite(shards: Shards, tx: EntityManager, now: Date, schoolId: string, lead: Lead): Promise<string> {
  const email = lead.email.trim().toLowerCase();
  if (await adultAt(shards, email))
    throw new SchoolTrouble(`${email} already signs in to a school here: choose another address.`, 'email-taken');
  const wish = { schoolId, name: lead.name, email, role: 'lead' as const, classes: [], letter: null };
  return (await inviteAdult(tx, now, wish)).token;
}

/** Invites a lead to a school: the token of a link that works once, within a week. An earlier invitation of the same address is withdrawn. */
export async function inviteLead(shards: Shards, now: Date, schoolId: string, lead: Lead): Promise<string> {
  const em = await shards.em(schoolId);
  if ((await em.count(School, { id: schoolId })) === 0) throw noSchool(schoolId);
  return em.transactional(async (tx) => {
    await audit(tx, { schoolId, ...SERVICE }, now, 'adult invited', lead.name);
    return invite(shards, tx, now, schoolId, lead);
  });
}

/** Opens a school beside those that are here, in a shard, and invites its lead, who makes its classes. */
export async function openSchool(
  shards: Shards,
  now: Date,
  { name, timeZone, lead }: { readonly name: string; readonly timeZone: string; readonly lead: Lead },
  at: Shard = shards.first,
): Promise<{ schoolId: string; token: string }> {
  if (await isDemo(shards.first.orm.em.fork()))
    throw new SchoolTrouble(
      'Only the demo is here. Set up the first school in its place on the page /set-up, then add others.',
      'only-demo',
    );
  const schoolId = v7();
  const called = await Promise.all(shards.all.map(({ orm }) => orm.em.fork().count(School, { name })));
  if (called.some((count) => count > 0))
    throw new SchoolTrouble(`There is already a school called ${name}.`, 'name-taken');
  const token = await at.orm.em.fork().transactional(async (tx) => {
    await tx.insert(School, { id: schoolId, name, timeZone, createdAt: now });
    await audit(tx, { schoolId, ...SERVICE }, now, 'school opened');
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
  readonly mostChildren: number | null;
  readonly replyTo: string | null;
  /** Judging and letters that failed for good. */
  readonly failed: number;
}

/** Every school, by name. */
export async function schoolsHere(shards: Shards): Promise<SchoolHere[]> {
  const here: SchoolHere[] = [];
  const directory = await shards.directory();
  for (const shard of shards.all) {
    const schools = await shard.orm.em.fork().execute<Omit<SchoolHere, 'shard'>[]>(
      `select s.id, s.name, s.moving_at as "movingAt", s.most_children as "mostChildren", s.reply_to as "replyTo",
         (select count(*)::int from adult a where a.school_id = s.id) as adults,
         (select count(*)::int from class c where c.school_id = s.id and c.archived_at is null) as classes,
         (select count(*)::int from child c where c.school_id = s.id and c.archived_at is null) as children,
         (select count(*) from failed_work f where f.school_id = s.id)::int
           + (select count(*) from adult_link l where l.school_id = s.id and l.letter = 'failed')::int as failed
       from school s`,
    );
    for (const school of schools)
      if ((directory.get(school.id) ?? FIRST) === shard.name) here.push({ ...school, shard: shard.name });
  }
  return here.sort((a, b) => a.name.localeCompare(b.name, 'en'));
}

/** What whoever runs Vane lets a school have, and where answers to its letters go. */
export async function limitSchool(
  shards: Shards,
  now: Date,
  schoolId: string,
  change: { readonly mostChildren: number | null; readonly replyTo: string | null },
): Promise<void> {
  await (
    await shards.em(schoolId)
  ).transactional(async (tx) => {
    if ((await tx.nativeUpdate(School, { id: schoolId }, { ...change })) === 0) throw noSchool(schoolId);
    await audit(
      tx,
      { schoolId, ...SERVICE },
      now,
      'limits changed',
      `${change.mostChildren ?? 'any number of'} children`,
    );
  });
}
