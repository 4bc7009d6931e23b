import { recordRow, type RecordRow } from './record';

/** Columns of the responses file, in order (DESIGN.md), and those Vane adds behind them. */
export const RECORD_COLUMNS = [
  'response_id',
  'child',
  'sitting',
  'shown_at',
  'kind',
  'fact',
  'answer_mode',
  'exposure_ms',
  'response_ms',
  'given',
  'outcome',
  'observed',
  'aid',
  'void',
] as const;
export const ADDED_COLUMNS = ['flags', 'asked_ms'] as const;
const KNOWN: readonly string[] = [...RECORD_COLUMNS, ...ADDED_COLUMNS];

/**
 * A cell that a spreadsheet would take for a formula, told apart by an apostrophe in front (OWASP, CSV injection). An apostrophe of its own before such a cell gets
 * another, so that every text comes back as it was.
 */
export const guarded = (text: string): string => (/^'*[=+\-@\t\r]/.test(text) ? `'${text}` : text);
export const unguarded = (text: string): string => (/^'+[=+\-@\t\r]/.test(text) ? text.slice(1) : text);

export type CsvRow = { readonly ok: true; readonly row: RecordRow } | { readonly ok: false; readonly reason: string };

const milliseconds = (text: string): number | null => (text.trim() === '' ? null : Number(text));

/** The columns without which a file is no responses file. */
export const missingColumns = (header: readonly string[]): string[] =>
  RECORD_COLUMNS.filter((name) => !header.includes(name));

/** Reads one line of a responses file; a bad one is an expected outcome, told with its reason. */
export function readCsvRow(cells: Readonly<Record<string, string>>): CsvRow {
  const cell = (name: string): string => unguarded(cells[name] ?? '');
  const flags = cell('flags')
    .split(' ')
    .filter((flag) => flag !== '');
  const asked = milliseconds(cell('asked_ms'));
  const parsed = recordRow.safeParse({
    ...Object.fromEntries(RECORD_COLUMNS.map((name) => [name, cell(name)])),
    exposure_ms: milliseconds(cell('exposure_ms')),
    response_ms: milliseconds(cell('response_ms')),
    flags,
    quality: asked === null ? null : { asked_ms: asked, frame_ms: 0, frames_ms: [], dropped_frames: 0 },
    extra: Object.fromEntries(
      Object.entries(cells)
        .filter(([name]) => !KNOWN.includes(name))
        .map(([name, text]) => [name, unguarded(text)]),
    ),
  });
  if (parsed.success) return { ok: true, row: parsed.data };
  const issue = parsed.error.issues[0];
  return { ok: false, reason: issue ? `${issue.path.join('.')}: ${issue.message}` : 'not readable' };
}

const number = (ms: number | null): string => (ms === null ? '' : String(ms));

/** One response as cells by column, unknown columns of its source included. */
export function csvCells(row: RecordRow): Record<string, string> {
  const cells = {
    ...row.extra,
    ...Object.fromEntries(RECORD_COLUMNS.map((name) => [name, String(row[name] ?? '')])),
    exposure_ms: number(row.exposure_ms),
    response_ms: number(row.response_ms),
    flags: row.flags.join(' '),
    asked_ms: number(row.quality?.asked_ms ?? null),
  };
  // Without a prototype: a column may be called anything, `constructor` too.
  return Object.assign(
    Object.create(null) as Record<string, string>,
    Object.fromEntries(Object.entries(cells).map(([name, text]) => [name, guarded(text)])),
  );
}
