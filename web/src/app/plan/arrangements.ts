import { Injectable, inject } from '@angular/core';
import type { Arrangements, DayPlan, KeptDay, WeekSettings } from '@vane/contract';
import { dateOfDay, schoolDays } from '@vane/core/time/schoolDay';
import { USUAL_WEEKDAYS } from '@vane/core/time/teachingDays';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';

export const NEW_DAY: DayPlan = { aim: 'practise', minutes: 8, pinned: [], skipped: [], order: [], swapped: [] };
export const USUAL_WEEK: WeekSettings = {
  adults: 1,
  minutes: 15,
  group: 4,
  times: 2,
  weekdays: USUAL_WEEKDAYS,
  away: [],
};

/** Children who are away on a day, counted as `core` counts school days. */
export const awayOn = ({ away }: Pick<WeekSettings, 'away'>, day: number): string[] =>
  away.flatMap(({ child, from, to }) => (from <= day && day <= to ? [child] : []));

type What = keyof Arrangements;
type Kept<K extends What> = NonNullable<Arrangements[K]>;

/**
 * What the adults of a class have arranged for the day and for the week. It stands on the server, for every device, and on this one, so that it holds without a network too: the later of the two counts, and
 * what the server has not got yet is sent as soon as the class is asked for again.
 */
@Injectable({ providedIn: 'root' })
export class ClassArrangements {
  readonly #api = inject(Api);
  readonly #session = inject(Session);

  /** @param told what the server has of the class; null = not known yet, or none */
  day(classId: string, told: Arrangements | null): DayPlan {
    const day = this.#newest('day', classId, told);
    // Yesterday's is over.
    return day?.date === this.#today() ? day.plan : NEW_DAY;
  }
  keepDay(classId: string, plan: DayPlan): void {
    this.#keep('day', classId, { changedAt: Date.now(), date: this.#today(), plan });
  }
  week(classId: string, told: Arrangements | null): WeekSettings {
    // What this device kept for an earlier Vane has no choice of days, and one day on which children were away: it is over.
    const settings = { ...USUAL_WEEK, ...this.#newest('week', classId, told)?.settings };
    return Array.isArray(settings.away) ? settings : { ...settings, away: [] };
  }
  keepWeek(classId: string, settings: WeekSettings): void {
    this.#keep('week', classId, { changedAt: Date.now(), settings });
  }

  /** Sends what this device has and the server, by what it told of the class, has not. */
  catchUp(classId: string, told: Arrangements): void {
    for (const what of ['day', 'week'] as const) {
      const newest = this.#newest(what, classId, told);
      if (newest !== null && newest.changedAt > (told[what]?.changedAt ?? 0)) this.#send(what, classId, newest);
    }
  }

  #today(): KeptDay['date'] {
    return dateOfDay(schoolDays(this.#session.timeZone())(Date.now()));
  }
  #newest<K extends What>(what: K, classId: string, told: Arrangements | null): Arrangements[K] {
    const text = localStorage.getItem(keyOf(what, classId));
    const own = text === null ? null : (JSON.parse(text) as Kept<K>);
    const theirs = told?.[what] ?? null;
    if (own === null || (theirs !== null && theirs.changedAt >= own.changedAt)) return theirs;
    return own;
  }
  #keep<K extends What>(what: K, classId: string, value: Kept<K>): void {
    localStorage.setItem(keyOf(what, classId), JSON.stringify(value));
    this.#send(what, classId, value);
  }
  #send(what: What, classId: string, body: Kept<What>): void {
    const sent =
      what === 'day'
        ? this.#api.ask('PUT /classes/:classId/day-plan', { classId, body: body as Kept<'day'> })
        : this.#api.ask('PUT /classes/:classId/week-settings', { classId, body: body as Kept<'week'> });
    // It stands on this device, and is sent again the next time.
    sent.subscribe({ error: (error: unknown) => console.info('Not sent yet:', error) });
  }
}

const keyOf = (what: What, classId: string): string => `vane-arranged-${what} ${classId}`;
