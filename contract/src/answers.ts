import type {
  ChildEstimate,
  ChildTimes,
  ClassValues,
  MeasuresLately,
  Moved,
  Reading,
  ReadingSettings,
  ReadingWord,
  SessionSum,
  Support,
} from '@vane/core';
import * as z from 'zod';
import type { NoteView, Role, SupportView } from './people';
import type { RecordRow } from './record';
import type { CarpetSettings } from './requests';

/** What the server answers. Types only: the browser trusts its own server. */
export interface Me {
  readonly adult: { readonly id: string; readonly name: string; readonly email: string; readonly role: Role };
  /** This device waits for the adult's pin. */
  readonly locked: boolean;
  readonly hasPin: boolean;
  /** Has been shown what to mind before using Vane with children. */
  readonly careRead: boolean;
  /** `timeZone`: where the school stands, an IANA name; its days are those of its own calendar. */
  readonly school: { readonly name: string; readonly demo: boolean; readonly timeZone: string };
  readonly classes: readonly { readonly id: string; readonly name: string }[];
}

/** Whether anybody can sign in yet. */
export interface Door {
  readonly needsSetUp: boolean;
  /** The demo's sign-in, when the demo is loaded: it is public anyway, and saves typing. */
  readonly demo: { readonly email: string; readonly password: string } | null;
}

export interface ChildView {
  readonly id: string;
  readonly nickname: string;
  /** ISO 8601; null = never asked. */
  readonly lastAskedAt: string | null;
  /** Copies and counts of the last weeks: whether a warm-up is needed. */
  readonly measures: MeasuresLately;
  /** The child's own times as judged last; null = never judged. */
  readonly times: ChildTimes | null;
  /** From the stored readings; null = no pair asked yet, or all known. */
  readonly workingNumber: number | null;
  /** How long it takes the child to forget half of what it got right once; null = never judged. */
  readonly halfLifeDays: number | null;
  /** What is done differently for the child. */
  readonly support: readonly Support[];
}

export interface ClassView {
  readonly id: string;
  readonly name: string;
  readonly children: readonly ChildView[];
  /** Children put away: their records are kept, and they take part in nothing. */
  readonly away: readonly { readonly id: string; readonly nickname: string }[];
  readonly carpet: CarpetSettings;
  /** Routines that the class has used within five weeks, the last one first. */
  readonly routinesUsed: readonly string[];
}

/** `child` in readings and responses is the child's id here, its nickname in files. */
export interface ClassReadings {
  /** ISO 8601; null = nothing to judge yet. */
  readonly judgedAt: string | null;
  readonly modelVersion: string;
  readonly readings: readonly Reading[];
  /** When each child was last asked each fact, milliseconds since 1970. */
  readonly asked: readonly { readonly child: string; readonly fact: string; readonly at: number }[];
}

/** A teacher's own word on a fact, and whose. */
export interface OverruleView {
  readonly id: string;
  readonly fact: string;
  readonly reading: ReadingWord;
  readonly reason: string;
  readonly by: string;
  readonly madeAt: string;
}

export interface ChildRecord {
  readonly child: ChildView;
  readonly estimate: ChildEstimate;
  readonly readings: readonly Reading[];
  /** What the last sitting moved; null where that is to be asked for by itself, since it takes a judgement more. */
  readonly moved: readonly Moved[] | null;
  /** The teachers' own words that stand, newest first. */
  readonly overrules: readonly OverruleView[];
  readonly notes: readonly NoteView[];
  readonly support: SupportView;
  /** What is said at the door, as a teacher left it; empty = as the record has it. */
  readonly door: string;
  readonly responses: readonly RecordRow[];
  /** Which routine each of their sittings was. */
  readonly sittings: readonly { readonly id: string; readonly routine: string }[];
  /** What the child was judged with, so that a device can judge it with what the server has not taken yet; null where nothing waits. */
  readonly basis: {
    readonly values: ClassValues;
    readonly settings: ReadingSettings;
    readonly modelVersion: string;
  } | null;
}

/** What a child's last session changed, and what was answered in it. */
export interface LastSession {
  readonly moved: readonly Moved[];
  readonly answered: SessionSum;
}

/** One line of the log. */
export interface LogPage {
  readonly rows: readonly (RecordRow & {
    readonly nickname: string;
    readonly routine: string;
    /** The newest correction, and what was first recorded; null = never corrected. */
    readonly corrected: { readonly by: string; readonly at: string; readonly was: string } | null;
    /** Notes on its sitting. */
    readonly notes: readonly string[];
  })[];
  readonly total: number;
}

export interface BatchResult {
  readonly accepted: readonly string[];
  readonly already: readonly string[];
  readonly refused: readonly { readonly id: string; readonly reason: string }[];
}

/** What is, or would be, added from a file. */
export interface ImportSum {
  readonly read: number;
  /** Not in Vane yet: these are added. */
  readonly fresh: number;
  /** In Vane as they are. */
  readonly same: number;
  /** In Vane, but otherwise: they stay as Vane has them. */
  readonly changed: number;
  readonly refused: number;
  /** Changed and refused ones by line of the file; at most the first 200. */
  readonly lines: readonly { readonly line: number; readonly state: 'changed' | 'refused'; readonly reason: string }[];
  /** By name, what would be new beside answers: classes, children; at most the first 100. */
  readonly names: readonly string[];
}

export interface ImportResult extends ImportSum {
  /** As it stands in the list of imports, where it can be undone; null = nothing was written. */
  readonly imported: ImportView | null;
}

/** A file that was taken in. */
export interface ImportView {
  readonly id: string;
  readonly what: string;
  readonly added: number;
  readonly by: string;
  readonly madeAt: string;
}

export interface Health {
  readonly status: 'ok' | 'down';
  readonly database: 'up' | 'down';
  readonly version: string;
  readonly modelVersion: string;
}

/** application/problem+json (RFC 9457), with our code and, for a bad body, the places that are wrong. */
export const problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  code: z.string(),
  detail: z.string().optional(),
  places: z.array(z.object({ place: z.string(), reason: z.string() })).optional(),
});
export type Problem = z.infer<typeof problem>;
