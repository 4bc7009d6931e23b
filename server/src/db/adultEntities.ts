import type { Role } from '@vane/contract';
import { defineEntity, p } from '@mikro-orm/core';
import type { AuditedAct } from './auditedActs';

/** Tables of the school and its adults; the note on keys in `entities.ts` applies here too. */
const schoolId = p.uuid().primary();
const created = p.datetime().onCreate(() => new Date());

export const School = defineEntity({
  name: 'School',
  properties: {
    id: p.uuid().primary(),
    name: p.text(),
    keepMonths: p.integer().default(24),
    /** Time zone of its calendar, an IANA name. */
    timeZone: p.text().default('Europe/London'),
    /** Holidays, as the contract has them. */
    daysOff: p.json<{ from: string; to: string }[]>().default([]),
    createdAt: created,
    /** Closed since then, as it is carried to another Vane: nothing of it is answered or written. */
    movingAt: p.datetime().nullable(),
    /** As many children at the same time as whoever runs Vane lets it have; null = any number. */
    mostChildren: p.integer().nullable(),
    /** Where answers to its letters go. */
    replyTo: p.text().nullable(),
  },
});

export const Adult = defineEntity({
  name: 'Adult',
  properties: {
    schoolId,
    id: p.uuid().primary(),
    email: p.text(),
    name: p.text(),
    role: p.text().$type<Role>(),
    passwordHash: p.text(),
    pinHash: p.text().nullable(),
    /** When the adult was shown what to mind before using Vane with children. */
    careReadAt: p.datetime().nullable(),
    createdAt: created,
  },
});

/** A signed-in browser. The cookie holds the token; the table only its hash. */
export const SignIn = defineEntity({
  name: 'SignIn',
  properties: {
    tokenHash: p.text().primary(),
    schoolId: p.uuid(),
    adultId: p.uuid(),
    createdAt: created,
    expiresAt: p.datetime(),
    /** The device waits for the pin; answers may still come in, nothing goes out. */
    locked: p.boolean().default(false),
    /** When its adult was last seen to do something, to a minute; kept for adults with a pin. */
    activeAt: p.datetime(),
    wrongPins: p.integer().default(0),
  },
});

/** The tables of which it is remembered what was deleted; sittings only where they went with a child. */
type ErasedKind = 'school' | 'adult' | 'child' | 'import' | 'sitting';

/** What became of a letter. */
type LetterState = 'waiting' | 'sent' | 'failed';

/** A link sent by letter: to join a school, or to a new password. The letter holds the token; the table only its hash. */
export const AdultLink = defineEntity({
  name: 'AdultLink',
  properties: {
    schoolId,
    id: p.uuid().primary(),
    tokenHash: p.text(),
    /** The token in its letter, which is made when that is sent, and what became of the letter; null = there is none. */
    letterHash: p.text().nullable(),
    letter: p.text().$type<LetterState>().nullable(),
    purpose: p.text().$type<'join' | 'reset'>(),
    /** The adult who invites, and whose right to do so it ends with; null = whoever runs Vane. */
    madeBy: p.uuid().nullable(),
    adultId: p.uuid().nullable(),
    name: p.text(),
    email: p.text(),
    role: p.text().$type<Role>(),
    classes: p.json<string[]>(),
    expiresAt: p.datetime(),
  },
});

/** The code that the first set-up asks for: one at most. The terminal showed it; the table has only its hash. */
export const SetUpCode = defineEntity({
  name: 'SetUpCode',
  properties: { id: p.integer().primary().default(1), hash: p.text(), madeAt: p.datetime() },
});

/** What was deleted for good, by its id alone: neither a backup nor a device may bring it back. */
export const Erased = defineEntity({
  name: 'Erased',
  properties: { schoolId, what: p.text().$type<ErasedKind>().primary(), id: p.text().primary(), at: p.datetime() },
});

/** A device that an adult signed in on. Its cookie holds the token; the table only its hash. */
export const KnownDevice = defineEntity({
  name: 'KnownDevice',
  properties: { tokenHash: p.text().primary(), schoolId: p.uuid(), adultId: p.uuid(), seenAt: p.datetime() },
});

/** Who did what, and when. Entries about a deleted child keep neither id nor detail. */
export const Audit = defineEntity({
  name: 'Audit',
  properties: {
    schoolId,
    id: p.uuid().primary(),
    at: p.datetime(),
    adultId: p.uuid().nullable(),
    adultName: p.text(),
    what: p.text().$type<AuditedAct>(),
    detail: p.text(),
    childId: p.uuid().nullable(),
  },
});
