import { howPut, untimedAnswer, type PlannedAsk } from '@vane/core';
import * as z from 'zod';
import { token } from './adults';
import { at, id } from './judged';
import { plannedAsk, sheetSession, type GroupSheetView } from './prints';
import { toRow, type RecordRow } from './record';
import { carpetSettings, type SittingRow } from './requests';
import { moment } from './text';
import type { Told } from './told';

/** A helper hears one group on one day, by a link: they see its sheet and send what the children said, and nothing else of the class. */
export const helperLink = z.strictObject({
  /** Opens the sheet on any device that has it, until the end of the school's day. */
  link: z.url(),
  /** The same as a QR code (SVG); null where this Vane is reached on its own machine alone. */
  qr: z.string().nullable(),
  until: at,
});
export type HelperLink = Told<z.infer<typeof helperLink>>;

export const openHelper = z.object({ token });

/** What a helper sees: who is asked what, and how this class says and shows it. */
export const helperSheet = z.strictObject({
  code: z.string(),
  /** Null for a sheet of facts that are the same for all. */
  session: sheetSession.omit({ asked: true }).nullable(),
  children: z.array(
    z.strictObject({
      id,
      nickname: z.string(),
      asks: z.array(plannedAsk),
      /** Milliseconds for which a show is to be seen; null = it stays. */
      exposureMs: z.number().nullable(),
    }),
  ),
  ways: carpetSettings.pick({ layout: true, words: true, options: true }),
  /** Questions that were answered already, by child and place. */
  given: z.array(z.strictObject({ child: id, place: z.number().int() })),
});
export type HelperSheet = Told<z.infer<typeof helperSheet>>;

/** What a child said: their first answer, and whether they were seen or heard to count. */
export const helperAnswer = z.strictObject({
  child: z.uuid(),
  /** Of the child's questions, from 0. */
  place: z.number().int().min(0).max(80),
  given: z.string().regex(/^(10|\d)$/, 'is no number from 0 to 10'),
  counted: z.boolean(),
  /** The picture was shown once more before the answer. */
  again: z.boolean().default(false),
  at: moment,
});
export type HelperAnswer = Told<z.infer<typeof helperAnswer>>;
export const helperAnswers = z.object({ answers: z.array(helperAnswer).min(1).max(200), sent_at: moment.optional() });

/** Questions of a child on a sheet, in order: their own, or those that are the same for all. */
export const asksOfSheet = (
  { facts, session }: Pick<GroupSheetView, 'facts' | 'session'>,
  child: string,
): readonly PlannedAsk[] =>
  session === null ? facts.map((fact): PlannedAsk => ({ fact, form: 'symbols' })) : (session.asked[child] ?? []);

/** The sitting of a sheet, keyed in or heard by a helper. */
export const sittingOfSheet = (code: string, startedAt: number): SittingRow => ({
  id: `sheet-${code}`,
  routine: 'group-sheet',
  started_at: new Date(startedAt).toISOString(),
  answer_mode: 'spoken',
  settings: null,
});

/** An answer on a sheet as a row of the record: what was said and what the helper saw. */
export const rowOfSheet = (
  code: string,
  {
    ask,
    counted,
    again = false,
    askedAt,
    ...answer
  }: {
    readonly id: string;
    readonly child: string;
    readonly ask: PlannedAsk;
    readonly given: string;
    readonly counted: boolean;
    readonly again?: boolean;
    /** Milliseconds since 1970. */
    readonly askedAt: number;
  },
): RecordRow =>
  toRow(
    untimedAnswer({
      ...answer,
      sitting: sittingOfSheet(code, askedAt).id,
      shownAt: askedAt,
      fact: ask.fact,
      aid: again ? 'second-look' : howPut(ask).aid,
      sign: counted ? 'counted' : null,
    }),
  );
