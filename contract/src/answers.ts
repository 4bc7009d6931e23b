import * as z from 'zod';
import { daysOff } from './adults';
import { arrangements } from './arrangements';
import {
  at,
  childEstimate,
  childTimes,
  classValues,
  id,
  measuresLately,
  moved,
  reading,
  readingSettings,
  sessionSum,
  supports,
} from './judged';
import { noteView, overruleView, ROLES, supportView } from './people';
import { recordRow } from './record';
import { carpetSettings } from './requests';
import type { Told } from './told';

/** What the server answers. */
export const me = z.strictObject({
  adult: z.strictObject({ id, name: z.string(), email: z.string(), role: z.enum(ROLES) }),
  /** This device waits for the adult's pin. */
  locked: z.boolean(),
  hasPin: z.boolean(),
  /** Has been shown what to mind before using Vane with children. */
  careRead: z.boolean(),
  /** `timeZone`: where the school stands, an IANA name; its days are those of its own calendar. `daysOff`: its holidays. */
  school: z.strictObject({ name: z.string(), demo: z.boolean(), timeZone: z.string(), daysOff }),
  classes: z.array(z.strictObject({ id, name: z.string() })),
  /** Children of the school who were deleted lately: a device's copies of them go. */
  erased: z.array(id),
});
export type Me = Told<z.infer<typeof me>>;

/** Whether anybody can sign in yet. */
export const door = z.strictObject({
  needsSetUp: z.boolean(),
  /** The demo's sign-in, when the demo is loaded: it is public anyway, and saves typing. */
  demo: z.strictObject({ email: z.string(), password: z.string() }).nullable(),
});
export type Door = Told<z.infer<typeof door>>;

export const childView = z.strictObject({
  id,
  nickname: z.string(),
  /** Null = never asked. */
  lastAskedAt: at.nullable(),
  /** Copies and counts of the last weeks: whether a warm-up is needed. */
  measures: measuresLately,
  /** The child's own times as judged last; null = never judged. */
  times: childTimes.nullable(),
  /** From the stored readings; null = no pair asked yet, or all known. */
  workingNumber: z.number().int().nullable(),
  /** How long it takes the child to forget half of what they got right once; null = never judged. */
  halfLifeDays: z.number().nullable(),
  /** Adjustments for the child. */
  support: supports,
  /** Routines used with the child within three weeks. */
  routinesUsed: z.array(z.string()),
});
export type ChildView = Told<z.infer<typeof childView>>;

export const classView = z.strictObject({
  id,
  name: z.string(),
  children: z.array(childView),
  /** Children put away: their records are kept, and they take part in nothing. */
  away: z.array(z.strictObject({ id, nickname: z.string() })),
  carpet: carpetSettings,
  /** Routines that the class has used within five weeks, the last one first. */
  routinesUsed: z.array(z.string()),
  /** What its adults have arranged for the day and the week. */
  arranged: arrangements,
});
export type ClassView = Told<z.infer<typeof classView>>;

/** Done; asked for and not done yet; or failed, which is tried again when somebody asks after a while. */
const judgingState = z.enum(['done', 'under-way', 'failed']);
export type JudgingState = z.infer<typeof judgingState>;

/** `child` in readings and responses is the child's id here, its nickname in files. */
export const classReadings = z.strictObject({
  /** Null = nothing to judge yet. */
  judgedAt: at.nullable(),
  modelVersion: z.string(),
  /** Whether the readings are made from all that is there. */
  judging: judgingState,
  readings: z.array(reading),
  /** When each child was last asked each fact, milliseconds since 1970. */
  asked: z.array(z.strictObject({ child: id, fact: id, at: z.number() })),
});
export type ClassReadings = Told<z.infer<typeof classReadings>>;

/** A child's record as its page shows it. */
export const childRecord = z.strictObject({
  child: childView,
  estimate: childEstimate,
  readings: z.array(reading),
  /** What the last sitting moved; null where that is to be asked for by itself, since it takes a judgement more. */
  moved: z.array(moved).nullable(),
  /** The teachers' own words that stand, newest first. */
  overrules: z.array(overruleView),
  notes: z.array(noteView),
  support: supportView,
  /** What is said at the door, as a teacher left it; empty = as the record has it. */
  door: z.string(),
  responses: z.array(recordRow),
  /** Which routine each of their sittings was. */
  sittings: z.array(z.strictObject({ id, routine: z.string() })),
  /** What the child was judged with, so that a device can judge it with what the server has not taken yet; null where nothing waits. */
  basis: z.strictObject({ values: classValues, settings: readingSettings, modelVersion: z.string() }).nullable(),
});
export type ChildRecord = Told<z.infer<typeof childRecord>>;

/** What a child's last session changed, and what was answered in it. */
export const lastSession = z.strictObject({ moved: z.array(moved), answered: sessionSum });
export type LastSession = Told<z.infer<typeof lastSession>>;

/** One page of the log. */
export const logPage = z.strictObject({
  rows: z.array(
    recordRow.safeExtend({
      nickname: z.string(),
      routine: z.string(),
      /** The newest correction, and what was first recorded; null = never corrected. */
      corrected: z.strictObject({ by: z.string(), at, was: z.string() }).nullable(),
      /** Notes on its sitting. */
      notes: z.array(z.string()),
    }),
  ),
  total: z.number().int(),
});
export type LogPage = Told<z.infer<typeof logPage>>;

export const batchResult = z.strictObject({
  accepted: z.array(id),
  already: z.array(id),
  refused: z.array(z.strictObject({ id, reason: z.string() })),
});
export type BatchResult = Told<z.infer<typeof batchResult>>;

/** A file that was taken in. */
export const importView = z.strictObject({ id, what: z.string(), added: z.number().int(), by: z.string(), madeAt: at });
export type ImportView = Told<z.infer<typeof importView>>;

/** What is, or would be, added from a file. */
/** How the dates of a file are read that are no ISO 8601: `example` as it stands there, `read` as the moment it is taken for; `unsure` where day and month could be exchanged in all of them. */
export const fileDates = z.strictObject({
  order: z.enum(['day-first', 'month-first']),
  example: z.string(),
  read: z.string(),
  unsure: z.boolean(),
});
export type FileDates = Told<z.infer<typeof fileDates>>;

export const importSum = z.strictObject({
  read: z.number().int(),
  /** Not in Vane yet: these are added. */
  fresh: z.number().int(),
  /** In Vane as they are. */
  same: z.number().int(),
  /** In Vane, but otherwise: they stay as Vane has them. */
  changed: z.number().int(),
  refused: z.number().int(),
  /** Changed and refused ones by line of the file; at most the first 200. */
  lines: z.array(
    z.strictObject({
      line: z.number().int(),
      state: z.enum(['changed', 'refused']),
      reason: z.string(),
      /** The beginning of what stands on the line. */
      content: z.string(),
    }),
  ),
  /** By name, what would be new beside answers: classes, children; at most the first 100. */
  names: z.array(z.string()),
  dates: fileDates.nullable(),
  /** Names in the file that are one letter off a child's, and that child's. */
  misspelt: z.array(z.strictObject({ name: z.string(), meant: z.string() })),
});
export type ImportSum = Told<z.infer<typeof importSum>>;

export const importResult = importSum.extend({
  /** As it stands in the list of imports, where it can be undone; null = nothing was written. */
  imported: importView.nullable(),
});
export type ImportResult = Told<z.infer<typeof importResult>>;

/** What a learning-record store took. */
export const handedOver = z.strictObject({
  sent: z.number().int(),
  /** Null = the store does not say. */
  fresh: z.number().int().nullable(),
  to: z.string(),
  simulated: z.boolean(),
});

export const health = z.strictObject({
  status: z.enum(['ok', 'down']),
  database: z.enum(['up', 'down']),
  version: z.string(),
  modelVersion: z.string(),
});

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
