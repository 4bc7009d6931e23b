import type { FileDates } from '@vane/contract';
import { TZDate } from '@date-fns/tz';

type DateOrder = FileDates['order'];

/** A date of three numbers with or without a time of day: `1/12/2026 9:15`, `01-12-2026`, `2026-12-01 09:15:30`. */
const WRITTEN = /^(\d{1,4})([/.-])(\d{1,2})\2(\d{1,4})(?:[ T,]+(\d{1,2})[:.](\d{2})(?:[:.](\d{2}))?)?$/;
const ISO = /^\d{4}-\d\d-\d\dT.*(Z|[+-]\d\d:?\d\d)$/;
/** What has no time of day was asked at noon: a moment of that day wherever the school stands. */
const NOON = 12;

interface Written {
  /** As they stand, from left to right. */
  readonly numbers: readonly [number, number, number];
  readonly time: readonly [number, number, number];
}

function written(text: string): Written | null {
  const found = WRITTEN.exec(text.trim());
  if (found === null) return null;
  const [, first, , second, third, hour, minute = '0', seconds = '0'] = found;
  return {
    numbers: [Number(first), Number(second), Number(third)],
    time: [hour === undefined ? NOON : Number(hour), Number(minute), Number(seconds)],
  };
}

const century = (year: number): number => (year < 100 ? 2000 + year : year);

/** The moment of a written date, or null where there is no such day, read in that order. */
function read({ numbers: [a, b, c], time }: Written, order: DateOrder, timeZone: string): Date | null {
  const yearFirst = a > 31;
  const year = century(yearFirst ? a : c);
  const [month, day] = yearFirst ? [b, c] : order === 'day-first' ? [b, a] : [a, b];
  const at = new TZDate(year, month - 1, day, ...time, timeZone);
  const exists = at.getMonth() === month - 1 && at.getDate() === day && time[0] < 24 && time[1] < 60 && time[2] < 60;
  return exists ? new Date(at.getTime()) : null;
}

/** A moment as a file has it, as ISO 8601 where it is a date written otherwise; what is none stays as it is, to be refused by name. */
export const momentReader =
  (order: DateOrder, timeZone: string) =>
  (text: string): string => {
    const there = written(text);
    return (there && read(there, order, timeZone)?.toISOString()) ?? text;
  };

/** In which order a language writes day and month. */
export function usualOrder(language: string): DateOrder {
  const parts = new Intl.DateTimeFormat(language).formatToParts().map(({ type }) => type);
  return parts.indexOf('day') < parts.indexOf('month') ? 'day-first' : 'month-first';
}

/**
 * How the dates of a file are to be read: in the one order in which all of them are days; where both do, in the usual one, and `unsure`. Null = none of them is to be read otherwise than as it stands.
 * @param texts of the column `shown_at`
 */
export async function datesOf(
  texts: AsyncIterable<string>,
  usual: DateOrder,
  timeZone: string,
): Promise<FileDates | null> {
  const orders = ['day-first', 'month-first'] as const;
  const left = new Set<DateOrder>(orders);
  /** The first date that each order can read. */
  const examples = new Map<DateOrder, string>();
  let any = false;
  let exchangeable = false;
  for await (const text of texts) {
    const there = written(text);
    // A file is written in one way: where its first moment is a program's, all are.
    if (!any && ISO.test(text)) return null;
    if (there === null) continue;
    any = true;
    const [day, month] = orders.map((order) => read(there, order, timeZone));
    if (day && !examples.has('day-first')) examples.set('day-first', text);
    if (month && !examples.has('month-first')) examples.set('month-first', text);
    // A day that exists in neither order settles nothing: its line is refused.
    if (!day && !month) continue;
    if (!day) left.delete('day-first');
    if (!month) left.delete('month-first');
    if (day && month && day.getTime() !== month.getTime()) exchangeable = true;
  }
  const order = left.has(usual) ? usual : ([...left][0] ?? usual);
  const example = examples.get(order);
  if (example === undefined) return null;
  return {
    order,
    example,
    read: momentReader(order, timeZone)(example),
    unsure: exchangeable && left.size === 2,
  };
}
