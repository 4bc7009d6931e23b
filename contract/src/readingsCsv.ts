import type { Reading, Reason } from '@vane/core';

export const READING_COLUMNS = ['child', 'fact', 'reading', 'p_automatic', 'lean', 'certainty', 'responses', 'days', 'reason'] as const;

/** A reason as one short code with its value, for files; screens have their own words. */
export function reasonText(reason: Reason): string {
  if (reason.code === 'leads') return `leads ${reason.strategy}`;
  return reason.code === 'needs-answers' ? `needs-answers ${reason.more}` : reason.code;
}

export const readingCells = (r: Reading): Record<(typeof READING_COLUMNS)[number], string> => ({
  child: r.child,
  fact: r.fact,
  reading: r.reading,
  p_automatic: String(r.pAutomatic),
  lean: String(r.lean),
  certainty: String(r.certainty),
  responses: String(r.responses),
  days: String(r.days),
  reason: reasonText(r.reason),
});
