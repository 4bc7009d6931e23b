import type { CellProblem } from '@vane/core';
import type * as z from 'zod';
import { recordRow, type RecordRow } from './record';
import { responseColumns } from './responseColumns';

const cellName = ([name, { cell }]: (typeof responseColumns)[number]): string => cell?.name ?? name;
const inCsv = (csv: 'needed' | 'added'): string[] => responseColumns.filter(([, c]) => c.csv === csv).map(cellName);

/** Columns without which a file is no file of responses, in order (docs/formats.md), and those Vane adds behind them. */
export const RECORD_COLUMNS = inCsv('needed');
export const ADDED_COLUMNS = inCsv('added');
const KNOWN: readonly string[] = [...RECORD_COLUMNS, ...ADDED_COLUMNS];

/**
 * A cell that a spreadsheet would take for a formula, told apart by an apostrophe in front (OWASP, CSV injection). An apostrophe of its own before such a cell gets
 * another, so that every text comes back as it was.
 */
export const guarded = (text: string): string => (/^'*[=+\-@\t\r]/.test(text) ? `'${text}` : text);
export const unguarded = (text: string): string => (/^'+[=+\-@\t\r]/.test(text) ? text.slice(1) : text);

/** A cell that is not as its column has it, as the catalogue tells it. */
interface BadCell {
  readonly column: string;
  readonly text: string;
  readonly problem: CellProblem;
  /** The words that may stand there, or what is wrong. */
  readonly detail: string;
}
type CsvRow = { readonly ok: true; readonly row: RecordRow } | { readonly ok: false; readonly bad: BadCell };

/** What is wrong with a cell, from what its schema says. */
function problemOf(issue: z.core.$ZodIssue, text: string): Pick<BadCell, 'problem' | 'detail'> {
  if (text.trim() === '' && issue.code !== 'custom') return { problem: 'empty', detail: '' };
  switch (issue.code) {
    case 'invalid_value':
      return { problem: 'none-of', detail: issue.values.filter((value) => value !== '').join(', ') };
    case 'invalid_type':
      return { problem: 'no-number', detail: '' };
    case 'too_small':
    case 'too_big':
      return {
        problem: issue.origin === 'string' || issue.origin === 'array' ? 'too-long' : 'out-of-reach',
        detail: '',
      };
    case 'invalid_format':
      if (issue.format === 'datetime') return { problem: 'no-date', detail: '' };
  }
  return { problem: 'other', detail: issue.message };
}

/** The columns without which a file is no responses file. */
export const missingColumns = (header: readonly string[]): string[] =>
  RECORD_COLUMNS.filter((name) => !header.includes(name));

/** Reads one line of a responses file; a bad one is an expected outcome, told with its reason. */
export function readCsvRow(cells: Readonly<Record<string, string>>): CsvRow {
  const known = responseColumns
    .filter(([, { csv }]) => csv !== null)
    .map((entry) => {
      const [name, { cell }] = entry;
      const text = unguarded(cells[cellName(entry)] ?? '');
      return [name, cell ? cell.read(text) : text];
    });
  const parsed = recordRow.safeParse({
    ...Object.fromEntries(known),
    extra: Object.fromEntries(
      Object.entries(cells)
        .filter(([name]) => !KNOWN.includes(name))
        .map(([name, text]) => [name, unguarded(text)]),
    ),
  });
  if (parsed.success) return { ok: true, row: parsed.data };
  const issue = parsed.error.issues[0]!;
  const at = String(issue.path[0]);
  const column = responseColumns.find(([name]) => name === at);
  const name = column ? cellName(column) : at;
  const text = unguarded(cells[name] ?? '');
  return { ok: false, bad: { column: name, text, ...problemOf(issue, text) } };
}

/** One response as cells by column, unknown columns of its source included. */
export function csvCells(row: RecordRow): Record<string, string> {
  // Without a prototype: a column may be called anything, `constructor` too.
  const cells = Object.create(null) as Record<string, string>;
  for (const [name, text] of Object.entries(row.extra)) cells[name] = guarded(text);
  for (const entry of responseColumns) {
    const [name, { csv, cell }] = entry;
    if (csv !== null) cells[cellName(entry)] = guarded(cell ? cell.write(row[name]) : (row[name] as string));
  }
  return cells;
}
