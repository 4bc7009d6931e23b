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
import { parse, type CsvError } from 'csv-parse';
import { stringify } from 'csv-stringify/sync';
import { pipeline } from 'node:stream';
import type { Readable } from 'node:stream';
import { setImmediate } from 'node:timers/promises';

/** Rows that are read before others on this server have their turn. */
const AT_ONCE = 50;

/** One line of a responses file as read. */
export type ReadLine =
  | { readonly line: number; readonly row: RecordRow }
  | { readonly line: number; readonly reason: string };

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

function checkedHeader(header: readonly string[]): string[] {
  const names = header.map((name) => unguarded(name.trim()));
  const missing = missingColumns(names);
  if (missing.length > 0) throw new NotAResponsesFile(`line 1: these columns are missing: ${missing.join(', ')}`);
  return names;
}

const known: readonly string[] = [...RECORD_COLUMNS, ...ADDED_COLUMNS];

/**
 * Reads a responses file as it streams in: commas, semicolons or tabs, with or without a byte-order mark. A bad row is told by line and reason and the rest is
 * read. @throws NotAResponsesFile when the header lacks columns, or quotes never close
 */
export async function* readResponses(source: Readable): AsyncGenerator<ReadLine> {
  const skipped: ReadLine[] = [];
  const parser = parse({
    bom: true,
    columns: checkedHeader,
    delimiter: [',', ';', '\t'],
    info: true,
    relax_column_count: true,
    skip_empty_lines: true,
    skip_records_with_error: true,
    max_record_size: 100_000,
    on_skip: (error) => {
      if (error) skipped.push({ line: error['lines'] as number, reason: error.message });
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
      const absent = RECORD_COLUMNS.filter((name) => record[name] === undefined);
      if (absent.length > 0) {
        yield { line: info.lines, reason: `the line ends before ${absent[0]}` };
        continue;
      }
      const cells = readCsvRow(record);
      if (cells.ok) yield { line: info.lines, row: cells.row };
      else yield { line: info.lines, reason: cells.reason };
    }
  } catch (error) {
    if (error instanceof NotAResponsesFile) throw error;
    throw new NotAResponsesFile(error instanceof Error ? error.message : String(error));
  }
  yield* skipped.splice(0);
  if (!any && parser.info.records === 0 && parser.info.lines <= 1 && parser.info.bytes === 0)
    throw new NotAResponsesFile('the file is empty');
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
