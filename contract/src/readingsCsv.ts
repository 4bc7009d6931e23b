import { READING_WORDS, type Reading, type Reason } from '@vane/core';
import * as z from 'zod';

export const READING_COLUMNS = [
  'child',
  'fact',
  'reading',
  'p_automatic',
  'lean',
  'certainty',
  'responses',
  'days',
  'reason',
  'own_view',
  'own_reason',
] as const;

const cell = (least: number, most: number) => z.coerce.number().min(least).max(most);

/** A row of the readings file, as a program that reads it finds it: every cell is text. */
export const readingRow = z.object({
  child: z.string().min(1),
  fact: z.string().min(1),
  reading: z.enum(READING_WORDS),
  p_automatic: cell(0, 1),
  lean: cell(-1, 1),
  certainty: cell(0, 1),
  responses: cell(0, 100_000),
  days: cell(0, 100_000),
  reason: z.string(),
  /** The teacher's own view and its reason, where there is one; files from before have no such columns. */
  own_view: z.enum(['', ...READING_WORDS]).default(''),
  own_reason: z.string().default(''),
});

/** A reason as one short code with its value, for files; screens have their own words. */
export function reasonText(reason: Reason): string {
  if (reason.code === 'leads') return `leads ${reason.strategy}`;
  return reason.code === 'needs-answers' ? `needs-answers ${reason.more}` : reason.code;
}

interface OwnView {
  readonly reading: string;
  readonly reason: string;
}

type Cells = Record<(typeof READING_COLUMNS)[number], string>;

export const readingCells = (r: Reading, own: OwnView | null = null): Cells => ({
  child: r.child,
  fact: r.fact,
  reading: r.reading,
  p_automatic: String(r.pAutomatic),
  lean: String(r.lean),
  certainty: String(r.certainty),
  responses: String(r.responses),
  days: String(r.days),
  reason: reasonText(r.reason),
  own_view: own?.reading ?? '',
  own_reason: own?.reason ?? '',
});

/** A teacher's view of a fact that Vane has none of. */
export const ownViewCells = (child: string, fact: string, own: OwnView): Cells => ({
  child,
  fact,
  reading: 'too few answers',
  p_automatic: '',
  lean: '',
  certainty: '',
  responses: '0',
  days: '0',
  reason: '',
  own_view: own.reading,
  own_reason: own.reason,
});
