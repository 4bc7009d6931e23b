import { READING_COLUMNS, readingCells, toResponse } from '@vane/contract';
import { DEFAULT_READING_SETTINGS, factsWithinTen, judgeClass, type Response } from '@vane/core';
import { stringify } from 'csv-stringify/sync';
import { createReadStream } from 'node:fs';
import { parseArgs } from 'node:util';
import { NotAResponsesFile, readResponses } from '../record/csv';

/**
 * `./vane judge FILE.csv [--as-of DATE] [--all]`: readings as CSV on standard output, from a file alone. Bad rows are named on standard error and the rest is
 * judged; a file that cannot be read ends with exit code 2.
 */
const USAGE = 'usage: ./vane judge FILE.csv [--as-of YYYY-MM-DD] [--all]';

function fail(message: string): never {
  process.stderr.write(`${message}\n`);
  process.exit(2);
}

function asked(): { file: string; until: number; all: boolean } {
  try {
    const { values, positionals } = parseArgs({ allowPositionals: true, options: { 'as-of': { type: 'string' }, all: { type: 'boolean', default: false } } });
    const [file] = positionals;
    if (file === undefined || positionals.length > 1) fail(USAGE);
    const asOf = values['as-of'];
    const until = asOf === undefined ? Infinity : Date.parse(`${asOf}T23:59:59.999Z`);
    if (Number.isNaN(until)) fail(`--as-of: "${asOf}" is no date such as 2026-11-25`);
    return { file, until, all: values.all };
  } catch (error) {
    fail(`${error instanceof Error ? error.message : String(error)}\n${USAGE}`);
  }
}

const { file, until, all } = asked();
const responses: Response[] = [];
try {
  for await (const read of readResponses(createReadStream(file))) {
    if ('reason' in read) process.stderr.write(`${file}: line ${read.line}: ${read.reason}\n`);
    else if (Date.parse(read.row.shown_at) <= until) responses.push(toResponse(read.row));
  }
} catch (error) {
  if (error instanceof NotAResponsesFile) fail(`${file}: ${error.why}`);
  throw error;
}
const alsoFacts = all ? (['add', 'subtract', 'missing'] as const).flatMap((operation) => factsWithinTen(operation)) : [];
const judgements = judgeClass(responses, { settings: DEFAULT_READING_SETTINGS, alsoFacts });
process.stdout.write(stringify([[...READING_COLUMNS]]));
for (const { readings } of judgements) process.stdout.write(stringify(readings.map((r) => Object.values(readingCells(r)))));
