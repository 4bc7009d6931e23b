import { NotAFact, isFree, isNumberFact, parseFact, parseObserved, type FactKind, type Response } from '@vane/core';
import * as z from 'zod';
import { responseColumns, responseSchemas, type Quality } from './responseColumns';
import type { Told } from './told';

function factProblem(kind: FactKind, text: string): string | null {
  if (isFree(kind)) return text === '' ? 'fact must not be empty' : null;
  try {
    const fact = parseFact(text);
    const fits = fact.kind === kind || (kind === 'bond' && isNumberFact(fact));
    return fits ? null : `"${text}" is of kind ${fact.kind}, not ${kind}`;
  } catch (error) {
    if (error instanceof NotAFact) return error.message;
    throw error;
  }
}

/** One response, with the same fields in CSV and JSON. docs/formats.md says what each means. */
export const recordRow = z.object(responseSchemas).superRefine((row, ctx) => {
  const problem = factProblem(row.kind, row.fact);
  if (problem !== null) ctx.addIssue({ code: 'custom', path: ['fact'], message: problem });
});
export type RecordRow = Told<z.infer<typeof recordRow>>;

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
    explanation: row.explanation === '' ? null : row.explanation,
    help: row.help,
    secondAnswer: row.second_answer,
    markedBy: row.marked_by,
    device: row.device,
  };
}

/** The response as a row. */
export const toRow = (response: Response, measuredBy: Quality | null = null): RecordRow =>
  ({
    ...Object.fromEntries(responseColumns.map(([name, { of }]) => [name, of?.(response)])),
    quality: measuredBy,
    extra: {},
  }) as RecordRow;
