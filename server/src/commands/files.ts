import type { RecordRow } from '@vane/contract';
import { dayOfDate, isTimeZone, startOfDay } from '@vane/core';
import { createReadStream } from 'node:fs';
import { parseArgs, type ParseArgsConfig } from 'node:util';
import { NotAResponsesFile, readResponses } from '../record/csv';

/** What the commands that read a responses file have in common. */
export function fail(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(2);
}

/** The file, the moment up to which it counts (null = all of it), where the school stands, and the command's own options; a wrong call ends with the usage and exit code 2. */
export function parsed(
  usage: string,
  own: NonNullable<ParseArgsConfig['options']>,
): { file: string; asOf: number | null; timeZone: string; values: Record<string, unknown> } {
  try {
    const { values, positionals } = parseArgs({
      allowPositionals: true,
      options: { 'as-of': { type: 'string' }, 'time-zone': { type: 'string', default: 'Europe/London' }, ...own },
    });
    const [file] = positionals;
    if (file === undefined || positionals.length > 1) fail(usage);
    const timeZone = String(values['time-zone']);
    if (!isTimeZone(timeZone)) fail(`--time-zone: "${timeZone}" is no time zone such as Europe/London`);
    const date = values['as-of'];
    if (typeof date !== 'string') return { file, asOf: null, timeZone, values };
    if (!/^\d{4}-\d{2}-\d{2}$/.test(date) || Number.isNaN(Date.parse(date)))
      fail(`--as-of: "${date}" is no date such as 2026-11-25`);
    // The last moment of that day where the school stands.
    return { file, asOf: startOfDay(dayOfDate(date) + 1, timeZone) - 1, timeZone, values };
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
