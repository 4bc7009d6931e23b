/* eslint-disable no-restricted-globals -- of Date only the arithmetic of the calendar is used (UTC, parse, toISOString), never its clock */
/** Milliseconds of a day of 24 hours. */
export const DAY_MS = 86_400_000;
/** Since 1972 zones differ from UTC, and change their clocks, by whole quarters of an hour (IANA time zone database). */
const QUARTER_MS = 900_000;
/** Nowhere is local midnight further from midnight in UTC. */
const FURTHEST_MS = 15 * 3_600_000;

/** A calendar day where a school stands, as days since 1 January 1970. */
export type DayOf = (atMs: number) => number;

const zones = new Map<string, DayOf>();

/** Whether this machine knows a time zone by this name, such as `Europe/London`. */
export function isTimeZone(name: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: name });
    return true;
  } catch {
    return false;
  }
}

/**
 * The school's day of any moment. What is asked about one quarter of an hour is asked of the calendar once: a record has many answers in each.
 * @param timeZone IANA name
 * @throws RangeError for a name that is none
 * @example schoolDays('Australia/Sydney')(Date.parse('2026-11-25T13:00:00Z')) // 20783, the 26th
 */
export function schoolDays(timeZone: string): DayOf {
  const known = zones.get(timeZone);
  if (known) return known;
  const calendar = new Intl.DateTimeFormat('en', {
    timeZone,
    calendar: 'gregory',
    numberingSystem: 'latn',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
  });
  const ask = (atMs: number): number => {
    const part = { year: 0, month: 0, day: 0 };
    for (const { type, value } of calendar.formatToParts(atMs)) if (type in part) part[type as 'day'] = Number(value);
    return Date.UTC(part.year, part.month - 1, part.day) / DAY_MS;
  };
  const byQuarter = new Map<number, number>();
  const dayOf: DayOf = (atMs) => {
    const quarter = Math.floor(atMs / QUARTER_MS);
    let day = byQuarter.get(quarter);
    if (day === undefined) byQuarter.set(quarter, (day = ask(quarter * QUARTER_MS)));
    return day;
  };
  zones.set(timeZone, dayOf);
  return dayOf;
}

/** The first moment of a school's day, milliseconds since 1970; of the next one that exists, where clocks or the date line left it out. */
export function startOfDay(day: number, timeZone: string): number {
  const dayOf = schoolDays(timeZone);
  let [before, from] = [(day * DAY_MS - FURTHEST_MS) / QUARTER_MS, (day * DAY_MS + FURTHEST_MS) / QUARTER_MS];
  while (from - before > 1) {
    const middle = Math.floor((before + from) / 2);
    if (dayOf(middle * QUARTER_MS) < day) before = middle;
    else from = middle;
  }
  return from * QUARTER_MS;
}

/** ISO 8601 number of a day's weekday, 1 to 7, of a day since 1 January 1970, which was a Thursday: 1 is Monday. */
export const isoWeekday = (day: number): number => ((day + 3) % 7) + 1;

/** Saturday or Sunday, of a day since 1 January 1970. */
export const isWeekend = (day: number): boolean => isoWeekday(day) > 5;

/** The Monday of a day's week; both as days since 1 January 1970. */
export const mondayOf = (day: number): number => day + 1 - isoWeekday(day);

/** A date as days since 1 January 1970. @param text YYYY-MM-DD */
export const dayOfDate = (text: string): number => Date.parse(`${text.slice(0, 10)}T00:00:00Z`) / DAY_MS;
/** @returns YYYY-MM-DD */
export const dateOfDay = (day: number): string => new Date(day * DAY_MS).toISOString().slice(0, 10);
