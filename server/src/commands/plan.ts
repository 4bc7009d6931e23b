import { toResponse, WEEK_COLUMNS, weekCells } from '@vane/contract';
import {
  DAY_MS,
  AIMS,
  childSession,
  DEFAULT_READING_SETTINGS,
  expectedGain,
  factsWithinTen,
  findingOut,
  judgeClass,
  planWeek,
  startOfDay,
  teachingDays,
  type Aim,
  type ChildJudgement,
} from '@vane/core';
import { stringify } from 'csv-stringify/sync';
import { fail, parsed, responsesUpTo } from './files';

/**
 * `./vane plan FILE.csv --child ID …`: the facts proposed next for one child of a responses file, in order, with the reason for each, as CSV.
 * `./vane plan FILE.csv --week …`: a week of sessions for the whole class, one line a question (docs/formats.md). Nothing but the file is read: what adults arranged, adjustments for a child and overrides are not known here.
 */
const USAGE = `usage: ./vane plan FILE.csv --child ID [--count N] [--as-of YYYY-MM-DD] [--aim judge|practise] [--time-zone NAME]
       ./vane plan FILE.csv --week [--days 5] [--adults 1] [--minutes 15] [--group 4] [--times 2] [--as-of YYYY-MM-DD] [--time-zone NAME]`;
/** Sessions are planned for nine in the morning. */
const NINE_MS = 9 * 3_600_000;

const { file, asOf, timeZone, values } = parsed(USAGE, {
  child: { type: 'string' },
  count: { type: 'string', default: '12' },
  aim: { type: 'string', default: 'judge' },
  week: { type: 'boolean', default: false },
  days: { type: 'string', default: '5' },
  adults: { type: 'string', default: '1' },
  minutes: { type: 'string', default: '15' },
  group: { type: 'string', default: '4' },
  times: { type: 'string', default: '2' },
});
const { child } = values;
if ((typeof child === 'string') === (values['week'] === true)) fail(USAGE);

function whole(name: string, least: number, most: number): number {
  const text = String(values[name]);
  const number = Number(text);
  if (!/^\d+$/.test(text) || number < least || number > most)
    fail(`--${name}: "${text}" is no whole number from ${least} to ${most}`);
  return number;
}

const rows = (await responsesUpTo(file, asOf)).map(toResponse);
const alsoFacts = (['add', 'subtract', 'missing'] as const).flatMap((operation) => factsWithinTen(operation));
const settings = { ...DEFAULT_READING_SETTINGS, timeZone };

/** A child as the plan wants them. */
function wishOf({ estimate, readings }: ChildJudgement) {
  const id = estimate.child;
  const own = rows.filter((r) => r.child === id && r.void === '');
  const lastAsked = new Map<string, number>();
  for (const r of own) lastAsked.set(r.fact, Math.max(lastAsked.get(r.fact) ?? 0, r.shownAt));
  const lastAskedAt = own.length === 0 ? null : Math.max(...own.map((r) => r.shownAt));
  return { child: id, readings, lastAsked, lastAskedAt, halfLife: estimate.halfLifeDays };
}

process.stdout.write(stringify(typeof child === 'string' ? ofOne(child) : ofWeek()));

function ofOne(id: string): unknown[][] {
  const count = whole('count', 1, 200);
  const aim = AIMS.find((known): known is Aim => known === values['aim']);
  if (aim === undefined) fail(`--aim: "${String(values['aim'])}" is neither judge nor practise`);
  const own = rows.filter((r) => r.child === id);
  if (own.length === 0) fail(`${file}: there is no response of "${id}"`);
  // Without a date the plan is for the day after the last answer.
  const now = asOf ?? Math.max(...own.map((r) => r.shownAt)) + DAY_MS;
  const judged = judgeClass(rows, { settings, alsoFacts, asOf: now }).find((j) => j.estimate.child === id)!;
  const wish = { ...wishOf(judged), now, timeZone, aim, count, gainOf: expectedGain };
  const { facts } = aim === 'practise' ? childSession(wish) : findingOut(wish);
  return [
    ['order', 'child', 'fact', 'reading', 'p_automatic', 'reason'],
    ...facts.map(({ fact, why, pAutomatic, reading }, i) => [
      i + 1,
      id,
      fact,
      reading?.reading ?? 'too few answers',
      pAutomatic.toFixed(4),
      why,
    ]),
  ];
}

function ofWeek(): unknown[][] {
  const now = asOf ?? Math.max(...rows.map((r) => r.shownAt));
  const children = judgeClass(rows, { settings, alsoFacts, asOf: now }).map(wishOf);
  const days = teachingDays(now, whole('days', 1, 60), timeZone);
  const week = planWeek({
    children,
    days: days.map((day) => startOfDay(day, timeZone) + NINE_MS),
    timeZone,
    adults: whole('adults', 1, 10),
    minutes: whole('minutes', 1, 120),
    group: whole('group', 1, 6),
    times: whole('times', 1, 60),
  });
  return [[...WEEK_COLUMNS], ...weekCells(week, timeZone)];
}
