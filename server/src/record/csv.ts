import {
  ADDED_COLUMNS,
  csvCells,
  guarded,
  missingColumns,
  readCsvRow,
  RECORD_COLUMNS,
  type RecordRow,
  unguarded,
} from '@vane/contract';
import { english, type Catalogue } from '@vane/core';
import { parse, type CsvError } from 'csv-parse';
import { stringify } from 'csv-stringify/sync';
import { pipeline } from 'node:stream';
import type { Readable } from 'node:stream';
import { setImmediate } from 'node:timers/promises';

/** Rows that are read before others on this server have their turn. */
const AT_ONCE = 50;

type Say = Catalogue['imports'];

/** One line of a responses file as read; `content` is what stands there. */
export type ReadLine = { readonly line: number; readonly content: () => string } & (
  | { readonly row: RecordRow }
  | { readonly reason: string }
);
/** The same before its cells are looked at. */
type CsvLine = { readonly line: number } & (
  | { readonly cells: Readonly<Record<string, string>> }
  | { readonly reason: string }
);
/** So much of a line is shown, characters. */
const CONTENT = 120;

/** Thrown when a file is no responses file at all. */
export class NotAResponsesFile extends Error {
  constructor(readonly why: string) {
    super(why);
    this.name = 'NotAResponsesFile';
  }
}

interface ParsedRecord {
  readonly record: Record<string, string>;
  readonly info: { readonly lines: number; readonly records: number; readonly error?: CsvError };
}

const checkedHeader =
  (say: Say) =>
  (header: readonly string[]): string[] => {
    const names = header.map((name) => unguarded(name.trim()));
    const missing = missingColumns(names);
    if (missing.length > 0) throw new NotAResponsesFile(say.missing(missing));
    return names;
  };

const known: readonly string[] = [...RECORD_COLUMNS, ...ADDED_COLUMNS];

/** The lines of a responses file as it streams in: commas, semicolons or tabs, with or without a byte-order mark. @throws NotAResponsesFile when the header lacks columns, or quotes never close */
async function* linesOf(source: Readable, say: Say): AsyncGenerator<CsvLine> {
  const skipped: CsvLine[] = [];
  const parser = parse({
    bom: true,
    columns: checkedHeader(say),
    delimiter: [',', ';', '\t'],
    info: true,
    relax_column_count: true,
    skip_empty_lines: true,
    skip_records_with_error: true,
    max_record_size: 100_000,
    on_skip: (error) => {
      if (error) skipped.push({ line: error['lines'] as number, reason: say.unreadable(error.message) });
      return undefined;
    },
  });
  // Errors of the source reach the parser, and the parser's reach the loop below: nothing is left to do here.
  pipeline(source, parser, () => undefined);
  let any = false;
  try {
    for await (const { record, info } of parser as AsyncIterable<ParsedRecord>) {
      any = true;
      if (info.records % AT_ONCE === 0) await setImmediate();
      yield* skipped.splice(0);
      yield { line: info.lines, cells: record };
    }
  } catch (error) {
    if (error instanceof NotAResponsesFile) throw error;
    throw new NotAResponsesFile(error instanceof Error ? error.message : String(error));
  }
  yield* skipped.splice(0);
  if (!any && parser.info.records === 0 && parser.info.lines <= 1 && parser.info.bytes === 0)
    throw new NotAResponsesFile(say.emptyFile);
}

/**
 * Reads a responses file as it streams in. A bad row is told by line and reason and the rest is read.
 * @param momentOf what a cell of `shown_at` means, as ISO 8601
 * @throws NotAResponsesFile
 */
export async function* readResponses(
  source: Readable,
  say: Say = english.imports,
  momentOf: (text: string) => string = (text) => text,
): AsyncGenerator<ReadLine> {
  for await (const one of linesOf(source, say)) {
    const { line } = one;
    if ('reason' in one) {
      yield { ...one, content: () => '' };
      continue;
    }
    const content = (): string => Object.values(one.cells).join(', ').slice(0, CONTENT);
    const absent = RECORD_COLUMNS.find((name) => one.cells[name] === undefined);
    if (absent !== undefined) {
      yield { line, content, reason: say.endsBefore(absent) };
      continue;
    }
    const read = readCsvRow({ ...one.cells, shown_at: momentOf(one.cells['shown_at'] ?? '') });
    if (read.ok) yield { line, content, row: read.row };
    else {
      const { column, text, problem, detail } = read.bad;
      yield { line, content, reason: say.cell(column, text, problem, detail) };
    }
  }
}

/** What stands in the column `shown_at`, line by line. */
export async function* momentsOf(source: Readable, say: Say): AsyncGenerator<string> {
  for await (const one of linesOf(source, say)) if ('cells' in one) yield one.cells['shown_at'] ?? '';
}

/** Column names of a responses file, with the unknown ones some rows carry: those were somebody's, and may look like a formula. */
export const headerLine = (extra: readonly string[]): string => stringify([[...known, ...extra.map(guarded)]]);

/** Rows as lines under that header. */
export const responseLines = (rows: readonly RecordRow[], extra: readonly string[]): string =>
  stringify(
    rows.map((row) => {
      const cells = csvCells(row);
      return [...known, ...extra].map((name) => cells[name] ?? '');
    }),
  );
