import { READING_WORDS, SUPPORTS, type HelpLevel, type ReadingWord, type Support } from '@vane/core';
import * as z from 'zod';
import { nicknames } from './requests';
import { filledLine, line, moment } from './text';

/** What an adult may do: a teacher works with the classes given to it, a lead with the whole school. */
export const ROLES = ['teacher', 'lead'] as const;
export type Role = (typeof ROLES)[number];

export const addChildrenRequest = z.object({ nicknames: nicknames.min(1) });

/** What is done differently for a child, ticked and in a line of the adults' own: never a diagnosis. */
export const supportChange = z.strictObject({
  supports: z.array(z.enum(SUPPORTS)).refine((all) => new Set(all).size === all.length, 'each of them at most once'),
  words: line(200),
});
/** As it is kept in files, with who said so and when. */
export const supportKept = supportChange.extend({ by: line(80), made_at: moment.nullable() });
export interface SupportView {
  readonly supports: readonly Support[];
  readonly words: string;
  /** Empty = nobody has said anything yet. */
  readonly by: string;
  /** ISO 8601. */
  readonly madeAt: string | null;
}

/** Another nickname, another class, put away for now or back again, what is said at the door, or what is done differently: one at a time. */
export const childChange = z.union([
  z.strictObject({ door: line(400) }),
  z.strictObject({ support: supportChange }),
  z.strictObject({ nickname: filledLine(40) }),
  z.strictObject({ classId: z.uuid() }),
  z.strictObject({ archived: z.boolean() }),
]);
export type ChildChange = z.infer<typeof childChange>;

export const classRequest = z.object({ name: filledLine(40) });
export const classChange = z.union([
  z.strictObject({ name: filledLine(40) }),
  z.strictObject({ archived: z.boolean() }),
]);
export type ClassChange = z.infer<typeof classChange>;

/** The end of a year: a new class, and the children who go there with their records. The old class and whoever stays in it are put away. */
export const rollOverRequest = z.object({ name: filledLine(40), children: z.array(z.uuid()).max(60) });
export type RollOverRequest = z.infer<typeof rollOverRequest>;

/** A note on a child, or on a sitting. */
export const noteRequest = z
  .object({ text: filledLine(500), child: z.uuid().optional(), sitting: line(64).min(1).optional() })
  .refine((note) => (note.child === undefined) !== (note.sitting === undefined), 'name either a child or a sitting');
export type NoteRequest = z.infer<typeof noteRequest>;

export interface NoteView {
  readonly id: string;
  readonly text: string;
  readonly by: string;
  /** ISO 8601. */
  readonly madeAt: string;
  /** Whether it is the reader's own, to be taken away again. */
  readonly own: boolean;
}

/** A child's readings as they stood when a week ended, each judged from the answers until then. */
export const weekWords = z.record(z.string(), z.enum(READING_WORDS));
export interface ChildWeek {
  readonly child: string;
  /** The week's Monday, YYYY-MM-DD. */
  readonly week: string;
  readonly words: Readonly<Record<string, ReadingWord>>;
  readonly workingNumber: number | null;
  /** How much help the child had with that number. */
  readonly help: HelpLevel;
  /** What the version of the judgement before this one said of the same answers; null = it never judged them. */
  readonly older: OlderWeek | null;
}
export interface OlderWeek {
  readonly modelVersion: string;
  readonly workingNumber: number | null;
  readonly words: Readonly<Record<string, ReadingWord>>;
}
export interface OverTime {
  /** By child and week, oldest first. */
  readonly weeks: readonly ChildWeek[];
  /** Weeks that are still being judged: ask again. */
  readonly pending: number;
}

/** A class as a lead sees it. */
export interface SchoolClassView {
  readonly id: string;
  readonly name: string;
  readonly archived: boolean;
  readonly children: number;
  readonly adults: readonly { readonly id: string; readonly name: string }[];
}
