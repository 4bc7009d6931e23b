import type { RecordRow } from '@vane/contract';
import { createReadStream } from 'node:fs';
import { parseArgs, type ParseArgsConfig } from 'node:util';
import { NotAResponsesFile, readResponses } from '../record/csv';

/** What the commands that read a responses file have in common. */
export function fail(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(2);
}

/** The file, the moment up to which it counts (null = all of it), and the command's own options; a wrong call ends with the usage and exit code 2. */
export function parsed(
  usage: string,
  own: NonNullable<ParseArgsConfig['options']>,
): { file: string; asOf: number | null; values: Record<string, unknown> } {
  try {
    const { values, positionals } = parseArgs({
      allowPositionals: true,
      options: { 'as-of': { type: 'string' }, ...own },
    });
    const [file] = positionals;
    if (file === undefined || positionals.length > 1) fail(usage);
    const date = values['as-of'];
    if (typeof date !== 'string') return { file, asOf: null, values };
    const asOf = Date.parse(`${date}T23:59:59.999Z`);
    if (Number.isNaN(asOf)) fail(`--as-of: "${date}" is no date such as 2026-11-25`);
    return { file, asOf, values };
  } catch (error) {
    fail(`${error instanceof Error ? error.message : String(error)}\n${usage}`);
  }
}

/** The rows of a file up to a moment. Bad ones are named on standard error and left out; a file that cannot be read ends with exit code 2. */
export async function responsesUpTo(file: string, asOf: number | null): Promise<RecordRow[]> {
  const rows: RecordRow[] = [];
  try {
    for await (const read of readResponses(createReadStream(file))) {
      if ('reason' in read) process.stderr.write(`${file}: line ${read.line}: ${read.reason}\n`);
      else if (asOf === null || Date.parse(read.row.shown_at) <= asOf) rows.push(read.row);
    }
  } catch (error) {
    if (error instanceof NotAResponsesFile) fail(`${file}: ${error.why}`);
    throw error;
  }
  return rows;
}
