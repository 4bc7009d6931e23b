import { toResponse } from '@vane/contract';
import {
  AIMS,
  DEFAULT_READING_SETTINGS,
  factsWithinTen,
  halfLifeDays,
  judgeClass,
  proposeFacts,
  type Aim,
} from '@vane/core';
import { stringify } from 'csv-stringify/sync';
import { fail, parsed, responsesUpTo } from './files';

/**
 * `./vane plan FILE.csv --child ID [--count N] [--as-of DATE] [--aim judge|practise] [--time-zone NAME]`: the facts proposed next for one child of a responses file, in order, with
 * the reason for each, as CSV.
 */
const USAGE =
  'usage: ./vane plan FILE.csv --child ID [--count N] [--as-of YYYY-MM-DD] [--aim judge|practise] [--time-zone NAME]';
const DAY_MS = 86_400_000;

const { file, asOf, timeZone, values } = parsed(USAGE, {
  child: { type: 'string' },
  count: { type: 'string', default: '12' },
  aim: { type: 'string', default: 'judge' },
});
const { child } = values;
if (typeof child !== 'string') fail(USAGE);
const count = Number(values['count']);
if (!Number.isInteger(count) || count < 1 || count > 200)
  fail(`--count: "${String(values['count'])}" is no whole number from 1 to 200`);
const aim = AIMS.find((known): known is Aim => known === values['aim']);
if (aim === undefined) fail(`--aim: "${String(values['aim'])}" is neither judge nor practise`);

const rows = (await responsesUpTo(file, asOf)).map(toResponse);
const own = rows.filter((r) => r.child === child);
if (own.length === 0) fail(`${file}: there is no response of "${child}"`);
const newest = Math.max(...own.map((r) => r.shownAt));
// Without a date the plan is for the day after the last answer.
const now = asOf ?? newest + DAY_MS;
const alsoFacts = (['add', 'subtract', 'missing'] as const).flatMap((operation) => factsWithinTen(operation));
const settings = { ...DEFAULT_READING_SETTINGS, timeZone };
const readings =
  judgeClass(rows, { settings, alsoFacts, asOf: now }).find((j) => j.estimate.child === child)?.readings ?? [];
const lastAsked = new Map<string, number>();
for (const r of own) lastAsked.set(r.fact, Math.max(lastAsked.get(r.fact) ?? 0, r.shownAt));
const facts = proposeFacts({
  readings,
  lastAsked,
  now,
  timeZone,
  aim,
  count,
  halfLife: halfLifeDays(own, timeZone),
});
process.stdout.write(
  stringify([
    ['order', 'child', 'fact', 'reading', 'p_automatic', 'reason'],
    ...facts.map(({ fact, why, pAutomatic, reading }, i) => [
      i + 1,
      child,
      fact,
      reading?.reading ?? 'too few answers',
      pAutomatic.toFixed(4),
      why,
    ]),
  ]),
);
