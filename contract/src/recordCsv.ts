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

type CsvRow = { readonly ok: true; readonly row: RecordRow } | { readonly ok: false; readonly reason: string };

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
  const issue = parsed.error.issues[0];
  return { ok: false, reason: issue ? `${issue.path.join('.')}: ${issue.message}` : 'not readable' };
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
