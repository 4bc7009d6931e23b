import { READING_WORDS, type ReadingWord } from '@vane/core';
import * as z from 'zod';
import { nicknames } from './requests';
import { filledLine, line } from './text';

/** What an adult may do: a teacher works with the classes given to it, a lead with the whole school. */
export const ROLES = ['teacher', 'lead'] as const;
export type Role = (typeof ROLES)[number];

export const addChildrenRequest = z.object({ nicknames: nicknames.min(1) });

/** Another nickname, another class, put away for now or back again: one at a time. */
export const childChange = z.union([
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
