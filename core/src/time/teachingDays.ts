/* eslint-disable no-restricted-globals -- of Date only the arithmetic of the calendar is used, never its clock */
import { schoolDays } from './schoolDay';

const DAY_MS = 86_400_000;

/** Mondays to Fridays after the school's day of a moment, as days since 1 January 1970. Term dates are not known. */
export function teachingDays(afterMs: number, count: number, timeZone: string): number[] {
  const days: number[] = [];
  for (let day = schoolDays(timeZone)(afterMs) + 1; days.length < count; day++)
    if (new Date(day * DAY_MS).getUTCDay() % 6 !== 0) days.push(day);
  return days;
}
