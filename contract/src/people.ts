import { HELP_LEVELS, READING_WORDS, SUPPORTS } from '@vane/core';
import * as z from 'zod';
import { at, id } from './judged';
import { nicknames } from './requests';
import { filledLine, line, moment } from './text';
import type { Told } from './told';

/** What an adult may do: a teacher works with the classes given to it, a lead with the whole school. */
export const ROLES = ['teacher', 'lead'] as const;
export type Role = (typeof ROLES)[number];

export const addChildrenRequest = z.object({ nicknames: nicknames.min(1) });

/** Adjustments for a child, ticked and in a line of the adults' own: never a diagnosis. */
const supportChange = z.strictObject({
  supports: z.array(z.enum(SUPPORTS)).refine((all) => new Set(all).size === all.length, 'each of them at most once'),
  words: line(200),
});
/** As it is kept in files, with who said so and when. */
export const supportKept = supportChange.extend({ by: line(80), made_at: moment.nullable() });
export const supportView = supportChange.extend({
  /** Empty = nobody has said anything yet. */
  by: z.string(),
  madeAt: at.nullable(),
});
export type SupportView = Told<z.infer<typeof supportView>>;

/** Another nickname, another class, put away for now or back again, what is said at the door, or adjustments: one at a time. */
export const childChange = z.union([
  z.strictObject({ door: line(400) }),
  z.strictObject({ support: supportChange }),
  z.strictObject({ nickname: filledLine(40) }),
  z.strictObject({ classId: z.uuid() }),
  z.strictObject({ archived: z.boolean() }),
]);

export const classRequest = z.object({ name: filledLine(40) });
export const classChange = z.union([
  z.strictObject({ name: filledLine(40) }),
  z.strictObject({ archived: z.boolean() }),
]);

/** The end of a year: a new class, and the children who go there with their records. The old class and whoever stays in it are put away. */
export const rollOverRequest = z.object({ name: filledLine(40), children: z.array(z.uuid()).max(60) });
export type RollOverRequest = z.infer<typeof rollOverRequest>;

/** A note on a child, or on a sitting. */
export const noteRequest = z
  .object({ text: filledLine(500), child: z.uuid().optional(), sitting: line(64).min(1).optional() })
  .refine((note) => (note.child === undefined) !== (note.sitting === undefined), 'name either a child or a sitting');

export const noteView = z.strictObject({
  id,
  text: z.string(),
  by: z.string(),
  madeAt: at,
  /** Whether it is the reader's own, to be taken away again. */
  own: z.boolean(),
});
export type NoteView = Told<z.infer<typeof noteView>>;

/** A teacher's own word on a fact, and whose. */
export const overruleView = z.strictObject({
  id,
  fact: z.string(),
  reading: z.enum(READING_WORDS),
  reason: z.string(),
  by: z.string(),
  madeAt: at,
});
export type OverruleView = Told<z.infer<typeof overruleView>>;

/** A child's readings as they stood when a week ended, each judged from the answers until then. */
const weekWords = z.record(z.string(), z.enum(READING_WORDS));
export const olderWeek = z.strictObject({
  modelVersion: z.string(),
  workingNumber: z.number().int().nullable(),
  words: weekWords,
});
export type OlderWeek = Told<z.infer<typeof olderWeek>>;
export const childWeek = z.strictObject({
  child: id,
  /** The week's Monday. */
  week: z.iso.date(),
  words: weekWords,
  workingNumber: z.number().int().nullable(),
  /** How much help the child had with that number. */
  help: z.enum(HELP_LEVELS),
  /** What the version of the judgement before this one said of the same answers; null = it never judged them. */
  older: olderWeek.nullable(),
});
export type ChildWeek = Told<z.infer<typeof childWeek>>;
export const overTime = z.strictObject({
  /** By child and week, oldest first. */
  weeks: z.array(childWeek),
  /** Weeks that are still being judged: ask again. */
  pending: z.number().int(),
});
export type OverTime = Told<z.infer<typeof overTime>>;

/** Judging that waits, is being done, or has failed for good: the newest answers of a class, or its past weeks. */
export const workView = z.strictObject({
  className: z.string(),
  what: z.enum(['judge', 'weeks']),
  state: z.enum(['waiting', 'under-way', 'failed']),
  since: at,
});
export type WorkView = Told<z.infer<typeof workView>>;

export const schoolClassView = z.strictObject({
  id,
  name: z.string(),
  archived: z.boolean(),
  children: z.number().int(),
  adults: z.array(z.strictObject({ id, name: z.string() })),
});
export type SchoolClassView = Told<z.infer<typeof schoolClassView>>;
