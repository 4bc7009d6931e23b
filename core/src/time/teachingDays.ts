import { dayOfDate, isoWeekday, schoolDays } from './schoolDay';

/** Mondays to Fridays, as ISO 8601 numbers them: 1 is Monday. */
export const USUAL_WEEKDAYS: readonly number[] = [1, 2, 3, 4, 5];

/** Days without school, both ends among them, as YYYY-MM-DD. */
export interface DaysOff {
  readonly from: string;
  readonly to: string;
}

/** Further ahead than this no teaching day is looked for: nobody's holidays are as long. */
const FURTHEST_DAYS = 400;

/**
 * The next days on which a class is taught, after the school's day of a moment.
 * @param afterMs milliseconds since 1970
 * @param weekdays ISO 8601 numbers of the days on which it is taught
 * @param off holidays
 * @returns days since 1 January 1970; fewer than asked for, or none, where a year ahead has no more
 */
export function teachingDays(
  afterMs: number,
  count: number,
  timeZone: string,
  weekdays: readonly number[] = USUAL_WEEKDAYS,
  off: readonly DaysOff[] = [],
): number[] {
  const closed = off.map(({ from, to }) => [dayOfDate(from), dayOfDate(to)] as const);
  const days: number[] = [];
  const today = schoolDays(timeZone)(afterMs);
  for (let day = today + 1; days.length < count && day <= today + FURTHEST_DAYS; day++)
    if (weekdays.includes(isoWeekday(day)) && !closed.some(([from, to]) => day >= from && day <= to)) days.push(day);
  return days;
}
