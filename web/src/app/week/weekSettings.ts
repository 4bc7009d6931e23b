import { inject, Injectable, linkedSignal } from '@angular/core';
import { Session } from '../signedIn/session';

/** What a class has for hearing children, and who is away: kept on this device. */
export interface WeekSettings {
  /** Adults who can hear children at the same time. */
  readonly adults: number;
  /** Minutes of each a day. */
  readonly minutes: number;
  /** Most children together. */
  readonly group: number;
  /** How often each child is to be heard in five days. */
  readonly times: number;
  /** Children who are away on the first of the days, and which day that is. */
  readonly away: { readonly day: number; readonly children: readonly string[] };
}
export const USUAL_WEEK: WeekSettings = {
  adults: 1,
  minutes: 15,
  group: 4,
  times: 2,
  away: { day: 0, children: [] },
};

@Injectable({ providedIn: 'root' })
export class WeekSettingsKept {
  readonly #session = inject(Session);
  readonly settings = linkedSignal((): WeekSettings => {
    const text = localStorage.getItem(this.#key());
    return text === null ? USUAL_WEEK : { ...USUAL_WEEK, ...(JSON.parse(text) as Partial<WeekSettings>) };
  });
  set(change: Partial<WeekSettings>): void {
    this.settings.update((settings) => ({ ...settings, ...change }));
    localStorage.setItem(this.#key(), JSON.stringify(this.settings()));
  }
  #key(): string {
    return `vane-week ${this.#session.classId()}`;
  }
}
