import { Injectable, computed, inject } from '@angular/core';
import { dateOfDay, schoolDays } from '@vane/core/time/schoolDay';
import { Session } from './session';

type Form = Intl.DateTimeFormatOptions;
const DAY: Form = { day: 'numeric', month: 'short' };
const NOW_MS = 600_000;
/** Days from which on weeks, and months, are counted. */
const WEEKS_FROM = 14;
const MONTHS_FROM = 60;
const DAYS_A_MONTH = 30.44;

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
  /** "Wednesday 25 November 2026 at 09:12" */
  readonly moment = (at: string | number): string => this.#in({ dateStyle: 'full', timeStyle: 'short' }, at);
  /** The school's day of a moment, YYYY-MM-DD */
  readonly dayOf = (at: string): string => dateOfDay(schoolDays(this.#zone())(Date.parse(at)));
  /** "Wed 25 Nov", of a day YYYY-MM-DD */
  readonly weekdayOf = (day: string): string => this.#in({ ...DAY, weekday: 'short' }, day, 'UTC');
  /** "Mon", of an ISO 8601 number from 1 to 7 */
  readonly weekdayName = (n: number): string => this.#in({ weekday: 'short' }, Date.UTC(2024, 0, n), 'UTC');
  /** A day YYYY-MM-DD of any calendar: "23 Nov" */
  readonly date = (day: string): string => this.#in(DAY, day, 'UTC');
  /** A day YYYY-MM-DD: "23 November 2026" */
  readonly longDate = (day: string): string => this.#in({ dateStyle: 'long' }, day, 'UTC');
  /** "just now", "today", "yesterday", "3 days ago": by days of the school's calendar */
  readonly ago = (at: string | number): string => {
    const then = new Date(at).getTime();
    const dayOf = schoolDays(this.#zone());
    const days = dayOf(Date.now()) - dayOf(then);
    if (days >= MONTHS_FROM) return this.#ago.format(-Math.floor(days / DAYS_A_MONTH), 'month');
    if (days >= WEEKS_FROM) return this.#ago.format(-Math.floor(days / 7), 'week');
    if (days >= 1) return this.#ago.format(-days, 'day');
    return Date.now() - then < NOW_MS ? $localize`just now` : this.#ago.format(0, 'day');
  };
}
