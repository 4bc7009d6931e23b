import { READING_COLUMNS, readingCells, toResponse } from '@vane/contract';
import { DEFAULT_READING_SETTINGS, factsWithinTen, judgeClass } from '@vane/core';
import { stringify } from 'csv-stringify/sync';
import { parsed, responsesUpTo } from './files';

/**
 * `./vane judge FILE.csv [--as-of DATE] [--all] [--time-zone NAME]`: readings as CSV on standard output, from a file alone. Bad rows are named on standard error and the rest is
 * judged; a file that cannot be read ends with exit code 2.
 */
const USAGE = 'usage: ./vane judge FILE.csv [--as-of YYYY-MM-DD] [--all] [--time-zone NAME]';
const { file, asOf, timeZone, values } = parsed(USAGE, {
  all: { type: 'boolean', default: false },
});
const responses = (await responsesUpTo(file, asOf)).map(toResponse);
const alsoFacts =
  values['all'] === true
    ? (['add', 'subtract', 'missing'] as const).flatMap((operation) => factsWithinTen(operation))
    : [];
const judgements = judgeClass(responses, {
  settings: { ...DEFAULT_READING_SETTINGS, timeZone },
  alsoFacts,
});
process.stdout.write(stringify([[...READING_COLUMNS]]));
for (const { readings } of judgements)
  process.stdout.write(stringify(readings.map((r) => Object.values(readingCells(r)))));
