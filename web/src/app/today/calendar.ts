import ical, { type ICalEventData } from 'ical-generator';

/** One sitting of the day, as the calendar has it. */
interface CalendarSitting {
  readonly id: string;
  readonly title: string;
  readonly who: readonly string[];
  readonly reason: string;
  readonly minutes: number;
}

/** Sittings one after the other from a moment on. */
export function eventsOf(sittings: readonly CalendarSitting[], from: Date): ICalEventData[] {
  let at = from.getTime();
  return sittings.map(({ id, title, who, reason, minutes }) => {
    const start = new Date(at);
    at += minutes * 60_000;
    return {
      id: `${start.toISOString().slice(0, 10)}-${id}@vane`,
      start,
      end: new Date(at),
      summary: `${title}: ${who.join(', ')}`,
      description: reason,
    };
  });
}

/** The plan as an iCalendar file (RFC 5545). */
export function calendarOf(className: string, sittings: readonly CalendarSitting[], from: Date): string {
  return ical({
    name: $localize`Vane: ${className}`,
    prodId: '//Vane//plan//EN',
    events: eventsOf(sittings, from),
  }).toString();
}
