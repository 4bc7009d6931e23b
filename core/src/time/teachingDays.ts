import { isWeekend, schoolDays } from './schoolDay';

/** Mondays to Fridays after the school's day of a moment, as days since 1 January 1970. Term dates are not known. */
export function teachingDays(afterMs: number, count: number, timeZone: string): number[] {
  const days: number[] = [];
  for (let day = schoolDays(timeZone)(afterMs) + 1; days.length < count; day++) if (!isWeekend(day)) days.push(day);
  return days;
}
