import { Injectable, computed, inject } from '@angular/core';
import { dateOfDay, schoolDays } from '@vane/core/time/schoolDay';
import { Session } from './session';

type Form = Intl.DateTimeFormatOptions;
const DAY: Form = { day: 'numeric', month: 'short' };
const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
/** Units of the past with their lengths, and from how long ago on they are used. */
const UNITS = [
  { unit: 'month', ms: 30.44 * DAY_MS, from: 60 * DAY_MS },
  { unit: 'week', ms: 7 * DAY_MS, from: 14 * DAY_MS },
  { unit: 'day', ms: DAY_MS, from: DAY_MS },
  { unit: 'hour', ms: HOUR_MS, from: HOUR_MS },
  { unit: 'minute', ms: 60_000, from: 0 },
] as const;

/** Moments as they are read: in the page's language and by the school's calendar and clock. A moment is ISO 8601 or milliseconds since 1970. */
@Injectable({ providedIn: 'root' })
export class Dates {
  readonly #session = inject(Session);
  readonly #language = document.documentElement.lang || 'en-GB';
  readonly #zone = computed(() => this.#session.timeZone());
  readonly #ago = new Intl.RelativeTimeFormat(this.#language, { numeric: 'auto' });

  #in(form: Form, at: string | number, timeZone = this.#zone()): string {
    return new Intl.DateTimeFormat(this.#language, { ...form, timeZone }).format(new Date(at));
  }
  /** "25 Nov" */
  readonly day = (at: string | number): string => this.#in(DAY, at);
  /** "25 Nov 2026" */
  readonly dayOfYear = (at: string | number): string => this.#in({ ...DAY, year: 'numeric' }, at);
  /** "Wednesday 25 November" */
  readonly weekday = (at: string | number): string => this.#in({ weekday: 'long', day: 'numeric', month: 'long' }, at);
  /** "25 Nov, 09:12", with seconds where they are asked for */
  readonly time = (at: string | number, seconds = false): string =>
    this.#in({ ...DAY, hour: '2-digit', minute: '2-digit', ...(seconds ? { second: '2-digit' } : {}) }, at);
  /** The school's day of a moment, YYYY-MM-DD */
  readonly dayOf = (at: string): string => dateOfDay(schoolDays(this.#zone())(Date.parse(at)));
  /** "Wed 25 Nov", of a day YYYY-MM-DD */
  readonly weekdayOf = (day: string): string => this.#in({ ...DAY, weekday: 'short' }, day, 'UTC');
  /** A day YYYY-MM-DD of any calendar: "23 Nov" */
  readonly date = (day: string): string => this.#in(DAY, day, 'UTC');
  /** A day YYYY-MM-DD: "23 November 2026" */
  readonly longDate = (day: string): string => this.#in({ dateStyle: 'long' }, day, 'UTC');
  /** "three days ago", "yesterday" */
  readonly ago = (at: string | number): string => {
    const past = Date.now() - new Date(at).getTime();
    const { unit, ms } = UNITS.find(({ from }) => past >= from) ?? UNITS[UNITS.length - 1]!;
    return this.#ago.format(-Math.floor(past / ms), unit);
  };
}
