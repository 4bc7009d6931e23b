import {
  AIDS,
  ANSWER_MODES,
  FACT_KINDS,
  FLAGS,
  NotAFact,
  OUTCOMES,
  isNumberFact,
  observedText,
  parseFact,
  parseObserved,
  type FactKind,
  type Response,
} from '@vane/core';
import * as z from 'zod';
import { line, moment } from './text';

/** Kinds that are recorded and not judged; their fact text is free, so that other programs may write their own. */
const FREE_KINDS: readonly FactKind[] = ['ways', 'bridge', 'three', 'groups', 'compare', 'check'];
/** Longest time that is a time and not a forgotten clock: ten minutes, in milliseconds. */
const LONGEST_MS = 600_000;

function factProblem(kind: FactKind, text: string): string | null {
  if (FREE_KINDS.includes(kind)) return text === '' ? 'fact must not be empty' : null;
  try {
    const fact = parseFact(text);
    const fits = fact.kind === kind || (kind === 'bond' && isNumberFact(fact));
    return fits ? null : `"${text}" is of kind ${fact.kind}, not ${kind}`;
  } catch (error) {
    if (error instanceof NotAFact) return error.message;
    throw error;
  }
}

/** How the time was measured: kept with the response for whoever wants to check. Milliseconds. */
export const quality = z.object({
  asked_ms: z.number().min(0).max(LONGEST_MS).nullable(),
  frame_ms: z.number().min(0).max(1000),
  frames_ms: z.array(z.number().min(0).max(LONGEST_MS)).max(2000),
  dropped_frames: z.number().int().min(0).max(100_000),
  /** Within how many milliseconds the clocks of two screens were matched; left out where one screen did all. */
  clock_ms: z.number().min(0).max(LONGEST_MS).optional(),
});
export type Quality = z.infer<typeof quality>;

/** One response: DESIGN's record, the same fields in CSV and JSON. docs/formats.md says what each means. */
export const recordRow = z
  .object({
    response_id: line(64).min(1),
    child: line(80).min(1),
    sitting: line(64).min(1),
    shown_at: moment,
    kind: z.enum(FACT_KINDS),
    fact: line(60).min(1),
    answer_mode: z.enum(ANSWER_MODES),
    exposure_ms: z.number().min(0).max(LONGEST_MS).nullable(),
    response_ms: z.number().min(0).max(LONGEST_MS).nullable(),
    given: line(40),
    outcome: z.enum(OUTCOMES),
    observed: line(120).refine(
      (text) => parseObserved(text) !== null,
      'must begin with knew, derived, counted or guessed, or with a colon',
    ),
    aid: z.enum(AIDS),
    void: line(200),
    flags: z.array(z.enum(FLAGS)).max(FLAGS.length).default([]),
    quality: quality.nullable().default(null),
    /** Columns of an imported file that Vane does not know: kept as they came. */
    extra: z.record(line(60), line(400)).default({}),
  })
  .superRefine((row, ctx) => {
    const problem = factProblem(row.kind, row.fact);
    if (problem !== null) ctx.addIssue({ code: 'custom', path: ['fact'], message: problem });
  });
export type RecordRow = z.infer<typeof recordRow>;

/** The row as `core` reads it. */
export function toResponse(row: RecordRow): Response {
  const observed = parseObserved(row.observed) ?? { sign: null, finerSigns: [] };
  return {
    id: row.response_id,
    child: row.child,
    sitting: row.sitting,
    shownAt: Date.parse(row.shown_at),
    kind: row.kind,
    fact: row.fact,
    answerMode: row.answer_mode,
    exposureMs: row.exposure_ms,
    responseMs: row.response_ms,
    given: row.given,
    outcome: row.outcome,
    sign: observed.sign,
    finerSigns: observed.finerSigns,
    aid: row.aid,
    void: row.void,
    flags: row.flags,
  };
}

/** The response as a row. */
export function toRow(r: Response, measuredBy: Quality | null = null): RecordRow {
  return {
    response_id: r.id,
    child: r.child,
    sitting: r.sitting,
    shown_at: new Date(r.shownAt).toISOString(),
    kind: r.kind,
    fact: r.fact,
    answer_mode: r.answerMode,
    exposure_ms: r.exposureMs,
    response_ms: r.responseMs,
    given: r.given,
    outcome: r.outcome,
    observed: observedText(r),
    aid: r.aid,
    void: r.void,
    flags: [...r.flags],
    quality: measuredBy,
    extra: {},
  };
}
