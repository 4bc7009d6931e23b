import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { RouterLink } from '@angular/router';
import { WEEK_COLUMNS, weekCells, type WeekSettings } from '@vane/contract';
import { DAY_MS, dateOfDay, weekDaysAsked, mondayOf, planWeek, schoolDays, startOfDay, teachingDays } from '@vane/core';
import { stringify } from 'csv-stringify/browser/esm/sync';
import { words } from '../language/words';
import { NoChildren } from '../parts/noChildren';
import { saveFile } from '../parts/saveFile';
import { FirstVisit } from '../parts/firstVisit';
import { StillJudging } from '../parts/stillJudging';
import { Trouble } from '../parts/trouble';
import { Absences } from '../plan/absences';
import { awayOn, ClassArrangements } from '../plan/arrangements';
import { plannedChildren } from '../plan/classPlan';
import { Dates } from '../signedIn/dates';
import { classRecord } from '../plan/classRecord';
import { SessionGrid } from '../sessionGrid/sessionGrid';
import { Session } from '../signedIn/session';
import { whenThere } from '../api/whenThere';

const DAYS = 5;
const NINE_MS = 9 * 3_600_000;

/** Who works with whom, what for and with which adult, over the next five teaching days. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Absences,
    FirstVisit,
    MatButtonModule,
    MatButtonToggleModule,
    NoChildren,
    SessionGrid,
    RouterLink,
    StillJudging,
    Trouble,
  ],
  templateUrl: './week.page.html',
  styleUrl: './week.page.scss',
})
export class WeekPage {
  readonly #dates = inject(Dates);
  readonly #session = inject(Session);
  readonly #arrangements = inject(ClassArrangements);

  readonly record = classRecord();
  readonly settings = linkedSignal((): WeekSettings => {
    const told = whenThere(this.record, (it) => it.view.arranged, null);
    return this.#arrangements.week(this.#session.classId(), told);
  });
  readonly choices: readonly {
    readonly of: keyof WeekSettings;
    readonly name: string;
    readonly values: readonly number[];
  }[] = [
    { of: 'adults', name: $localize`Adults taking groups`, values: [1, 2, 3] },
    { of: 'minutes', name: $localize`Minutes a day, each`, values: [8, 15, 20, 30] },
    { of: 'group', name: $localize`Largest group`, values: [1, 2, 3, 4, 5, 6] },
    { of: 'times', name: $localize`Turns a week each`, values: [1, 2, 3] },
  ];
  readonly children = computed(() => whenThere(this.record, (it) => it.view.children, []));
  readonly names = computed(() => new Map(this.children().map((c) => [c.id, c.nickname])));
  /** The next days on which this class is taught. */
  readonly #days = computed(() =>
    teachingDays(Date.now(), DAYS, this.#session.timeZone(), this.settings().weekdays, this.#session.daysOff()),
  );
  /** Monday to Sunday, by their ISO 8601 numbers. */
  readonly weekdays = [1, 2, 3, 4, 5, 6, 7].map((n) => ({ n, name: this.#dates.weekdayName(n) }));
  readonly #week = computed(() => {
    if (!this.record.hasValue()) return [];
    const { view, judged } = this.record.value();
    const { adults, minutes, group, times } = this.settings();
    const timeZone = this.#session.timeZone();
    const away = this.#days().map((day) => new Set(awayOn(this.settings(), day)));
    return planWeek({
      children: plannedChildren({ children: view.children, judged }),
      days: this.#days().map((day) => startOfDay(day, timeZone) + NINE_MS),
      timeZone,
      adults,
      minutes,
      group,
      times,
      away: (child, day) => away[day]!.has(child),
    });
  });
  readonly days = computed(() =>
    this.#week().map(({ sessions }, i) => ({
      name: this.#dates.weekdayOf(dateOfDay(this.#days()[i]!)),
      sessions: sessions.map((session) => ({
        id: session.id,
        title: words.plan.title(session.needs),
        adult: this.settings().adults > 1 ? $localize`adult ${session.adult + 1}` : '',
        minutes: session.minutes,
        who: session.children.map(({ child }) => ({ id: child, name: this.names().get(child) ?? '' })),
        sitting: session,
      })),
      away: words.listed(awayOn(this.settings(), this.#days()[i]!).flatMap((child) => this.names().get(child) ?? [])),
    })),
  );
  readonly className = computed(() => this.#session.openClass()?.name ?? '');
  readonly readings = computed(() => whenThere(this.record, (it) => it.judged.readings, []));
  /** The session that is looked into: its day and its name; empty = none. */
  readonly open = signal('');
  readonly opened = computed(() => {
    const found = this.days().flatMap(({ name, sessions }) =>
      sessions.flatMap((session) => (name + session.id === this.open() ? [{ name, ...session }] : [])),
    )[0];
    return found && { title: `${found.name} · ${found.title}`, sitting: found.sitting };
  });
  /** Who is heard less often than wanted, what was done in the calendar week before the first day included. */
  readonly short = computed(() => {
    const [first] = this.#days();
    if (!this.record.hasValue() || first === undefined) return [];
    const { view, judged } = this.record.value();
    const planned = this.#week().flatMap(({ sessions }) =>
      sessions.flatMap(({ children }) => children.map(({ child }) => child)),
    );
    const before = (lastAsked: ReadonlyMap<string, number>): number =>
      weekDaysAsked(lastAsked, mondayOf(first), schoolDays(this.#session.timeZone()));
    return plannedChildren({ children: view.children, judged }).flatMap(({ child, lastAsked }) => {
      const heard = before(lastAsked) + planned.filter((one) => one === child).length;
      return heard < this.settings().times ? [this.names().get(child)!] : [];
    });
  });
  /** Not heard in the week before, the longest wait first. */
  readonly waiting = computed(() => {
    const weekAgo = Date.now() - 7 * DAY_MS;
    const at = (last: string | null): number => (last === null ? -Infinity : Date.parse(last));
    return this.children()
      .filter((c) => at(c.lastAskedAt) < weekAgo)
      .sort((a, b) => at(a.lastAskedAt) - at(b.lastAskedAt))
      .map((c) => ({
        name: c.nickname,
        since: c.lastAskedAt === null ? $localize`never asked` : this.#dates.ago(c.lastAskedAt),
      }));
  });
  readonly listed = words.listed;

  valueOf(of: keyof WeekSettings): number {
    const value = this.settings()[of];
    return typeof value === 'number' ? value : 0;
  }
  choose(of: keyof WeekSettings, value: number): void {
    this.set({ [of]: value });
  }
  set(change: Partial<WeekSettings>): void {
    this.settings.update((settings) => ({ ...settings, ...change }));
    this.#arrangements.keepWeek(this.#session.classId(), this.settings());
  }
  setWeekdays(weekdays: readonly number[]): void {
    this.set({ weekdays: [...weekdays].sort((a, b) => a - b) });
  }
  /** One day at least stays. */
  isOnly(n: number): boolean {
    return this.settings().weekdays.length === 1 && this.settings().weekdays.includes(n);
  }
  save(): void {
    const named = this.#week().map((day) => ({
      ...day,
      sessions: day.sessions.map((session) => ({
        ...session,
        children: session.children.map((one) => ({ ...one, child: this.names().get(one.child) ?? one.child })),
      })),
    }));
    const text = stringify([[...WEEK_COLUMNS], ...weekCells(named, this.#session.timeZone())]);
    saveFile('vane-week.csv', text, 'text/csv');
  }
  print(): void {
    window.print();
  }
}
