import { READING_COLUMNS, readingCells, toResponse } from '@vane/contract';
import {
  classValues,
  DEFAULT_READING_SETTINGS,
  explainFact,
  factsWithinTen,
  judgeClass,
  STRATEGIES,
  type Response,
} from '@vane/core';
import { stringify } from 'csv-stringify/sync';
import { fail, parsed, responsesUpTo } from './files';

/**
 * `./vane judge FILE.csv [--as-of DATE] [--all] [--time-zone NAME]`: readings as CSV on standard output, from a file alone. Bad rows are named on standard error and the rest is
 * judged; a file that cannot be read ends with exit code 2. With `--explain --child ID --fact FACT`: what one reading was computed from (docs/model.md).
 */
const USAGE = `usage: ./vane judge FILE.csv [--as-of YYYY-MM-DD] [--all] [--time-zone NAME]
       ./vane judge FILE.csv --explain --child ID --fact FACT [--as-of YYYY-MM-DD]`;
const { file, asOf, timeZone, values } = parsed(USAGE, {
  all: { type: 'boolean', default: false },
  explain: { type: 'boolean', default: false },
  child: { type: 'string' },
  fact: { type: 'string' },
});
const { child, fact, explain } = values;
if (
  explain === true ? typeof child !== 'string' || typeof fact !== 'string' : child !== undefined || fact !== undefined
)
  fail(USAGE);
const responses = (await responsesUpTo(file, asOf)).map(toResponse);
process.stdout.write(explain === true ? explained(responses, String(child), String(fact)) : judged(responses));

function judged(all: readonly Response[]): string {
  const alsoFacts =
    values['all'] === true
      ? (['add', 'subtract', 'missing'] as const).flatMap((operation) => factsWithinTen(operation))
      : [];
  const judgements = judgeClass(all, { settings: { ...DEFAULT_READING_SETTINGS, timeZone }, alsoFacts });
  return stringify([
    [...READING_COLUMNS],
    ...judgements.flatMap(({ readings }) => readings.map((r) => Object.values(readingCells(r)))),
  ]);
}

function explained(all: readonly Response[], who: string, what: string): string {
  const why = explainFact(
    who,
    all.filter((r) => r.child === who),
    classValues(all),
    what,
  );
  if (why === null) fail(`${file}: there is no judged response of "${who}" to "${what}"`);
  const three = (x: number): string => x.toFixed(3);
  const { posterior, withoutOwn } = why;
  return [
    `${who}, ${what} (docs/model.md)`,
    `times, seconds: ${JSON.stringify(why.times)}`,
    `change ${why.change}, forgetting ${why.forgetting}`,
    '',
    `answer, newest first: ${STRATEGIES.join(' ')}`,
    ...why.answers.map(
      ({ response: r, likelihood }) =>
        `${new Date(r.shownAt).toISOString()} ${r.outcome} ${r.given} ${r.responseMs === null ? 'no time' : `${(r.responseMs / 1000).toFixed(2)} s`} ${r.sign ?? ''}: ${likelihood.map(three).join(' ')}`,
    ),
    '',
    'dispersion: weight, p automatic, p without the fact’s own answers',
    ...why.dispersions.map((d) => `${d.scatter}: ${three(d.weight)} ${three(d.pAutomatic)} ${three(d.withoutOwn)}`),
    '',
    `p automatic: ${three(posterior.pAutomatic)}; without its own answers ${three(withoutOwn.pAutomatic)}`,
    `shares (${STRATEGIES.join(' ')}): ${posterior.shares.map(three).join(' ')}; without ${withoutOwn.shares.map(three).join(' ')}`,
    '',
  ].join('\n');
}
