import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { inviteAdult } from '../adults/linkRoutes';
import { adultAt } from '../adults/signIn';
import { School } from '../db/entities';
import { isDemo } from '../db/demoSchool';
import { audit } from '../request/audit';

/** What cannot be done with a school, in words for whoever runs Vane. */
export class SchoolTrouble extends Error {}

/** Who acts where no adult of the school does, as its own record of acts names them. */
export const SERVICE = { id: null, name: '' };

interface Lead {
  readonly name: string;
  readonly email: string;
}

/** @throws SchoolTrouble where there is none, or only the demo */
export async function schoolNamed(em: EntityManager, id: string): Promise<{ name: string; movingAt: Date | null }> {
  const school = await em.findOne(School, { id }, { disableIdentityMap: true });
  if (!school) throw new SchoolTrouble(`There is no school ${id}.`);
  return { name: school.name, movingAt: school.movingAt ?? null };
}

/** Nothing is added beside the demo: whoever knows its password would be in. */
export async function demandNoDemo(em: EntityManager): Promise<void> {
  if (await isDemo(em))
    throw new SchoolTrouble(
      'Only the demo is here. Set up the first school in its place on the page /set-up, then add others.',
    );
}

/** Invites a lead of a school: nobody works at two schools under one address, as it says at sign-in which school is meant. */
async function invite(tx: EntityManager, now: Date, schoolId: string, lead: Lead): Promise<string> {
  const email = lead.email.trim().toLowerCase();
  if (await adultAt(tx, email))
    throw new SchoolTrouble(`${email} already signs in to a school here: choose another address.`);
  const wish = { schoolId, name: lead.name, email, role: 'lead' as const, classes: [], letter: null, madeBy: null };
  return (await inviteAdult(tx, now, wish)).token;
}

/** Invites a lead to a school: the token of a link that works once, within a week. An earlier invitation of the same address is withdrawn. */
export async function inviteLead(em: EntityManager, now: Date, schoolId: string, lead: Lead): Promise<string> {
  await schoolNamed(em, schoolId);
  return em.transactional(async (tx) => {
    await audit(tx, { schoolId, ...SERVICE }, now, 'adult invited', lead.name);
    return invite(tx, now, schoolId, lead);
  });
}

/** Opens a school beside those that are here, and invites its lead, who makes its classes. */
export async function openSchool(
  em: EntityManager,
  now: Date,
  { name, timeZone, lead }: { readonly name: string; readonly timeZone: string; readonly lead: Lead },
): Promise<{ schoolId: string; token: string }> {
  await demandNoDemo(em);
  if ((await em.count(School, { name })) > 0) throw new SchoolTrouble(`There is already a school called ${name}.`);
  const schoolId = v7();
  const token = await em.transactional(async (tx) => {
    await tx.insert(School, { id: schoolId, name, timeZone, createdAt: now });
    await audit(tx, { schoolId, ...SERVICE }, now, 'school opened');
    return invite(tx, now, schoolId, lead);
  });
  return { schoolId, token };
}

/** A school, and how much is in it. */
interface SchoolHere {
  readonly id: string;
  readonly name: string;
  /** Closed since then: it is carried to another Vane. */
  readonly closedAt: string | null;
  readonly adults: number;
  readonly classes: number;
  readonly children: number;
  readonly mostChildren: number | null;
  readonly replyTo: string | null;
  /** Judging and letters that failed for good. */
  readonly failed: number;
}

/** Every school, by name. */
export const schoolsHere = (em: EntityManager): Promise<SchoolHere[]> =>
  em.execute<SchoolHere[]>(
    `select s.id, s.name, to_char(s.moving_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI"Z"') as "closedAt", s.most_children as "mostChildren", s.reply_to as "replyTo",
       (select count(*)::int from adult a where a.school_id = s.id) as adults,
       (select count(*)::int from class c where c.school_id = s.id and c.archived_at is null) as classes,
       (select count(*)::int from child c where c.school_id = s.id and c.archived_at is null) as children,
       (select count(*) from failed_work f where f.school_id = s.id)::int
         + (select count(*) from adult_link l where l.school_id = s.id and l.letter = 'failed')::int as failed
     from school s order by s.name, s.id`,
  );

/** What whoever runs Vane lets a school have, and where answers to its letters go; what is not named stays. */
export async function limitSchool(
  em: EntityManager,
  now: Date,
  schoolId: string,
  change: { readonly mostChildren?: number | null; readonly replyTo?: string | null },
): Promise<void> {
  await schoolNamed(em, schoolId);
  const said = [
    ...(change.mostChildren === undefined ? [] : [`${change.mostChildren ?? 'any number of'} children`]),
    ...(change.replyTo === undefined ? [] : [`replies to ${change.replyTo ?? 'nobody'}`]),
  ];
  await em.transactional(async (tx) => {
    await tx.nativeUpdate(School, { id: schoolId }, { ...change });
    await audit(tx, { schoolId, ...SERVICE }, now, 'limits changed', said.join(', '));
  });
}
