import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import type { DayPlan, WeekSettings } from '@vane/contract';
import type { PlannedDay, PlannedSitting, RoutineId } from '@vane/core';
import { sessionOf } from '@vane/core/plan/classPlan';
import { openerFor } from '@vane/core/plan/opener';
import { from, map } from 'rxjs';
import { Api } from '../api/api';
import { Doing } from '../parts/doing';
import { NoChildren } from '../parts/noChildren';
import { saveFile } from '../parts/saveFile';
import { Sortable } from '../parts/sortable';
import { FirstVisit } from '../parts/firstVisit';
import { StillJudging } from '../parts/stillJudging';
import { Trouble } from '../parts/trouble';
import { classRecord } from '../plan/classRecord';
import { listedBy, reasonsOf } from '../plan/reasons';
import { Session } from '../signedIn/session';
import { ChosenPlan } from '../plan/chosenPlan';
import { schoolDays } from '@vane/core/time/schoolDay';
import { childrenOf, dayFor } from '../plan/classPlan';
import { awayOn, ClassArrangements, NEW_DAY } from '../plan/arrangements';
import { arranged, sheetOf, withSwaps } from './dayPlan';
import { DayWish } from './dayWish';
import { Learned } from './learned';
import { SessionGrid } from '../sessionGrid/sessionGrid';
import { StartsAs } from './startsAs';
import { words } from '../language/words';
import { SwapMenu } from './swapMenu';
import { Dates } from '../signedIn/dates';
import { labels } from '../language/labels';
import { whenThere } from '../api/whenThere';

/** How high a session's picture will be, about: nothing below it moves when it comes. Pixels. */
function roomOf({ children, needs }: PlannedSitting): number {
  const [child, need, title, why] = needs[0]?.need === 'finding out' ? [86, 24, 0, 46] : [48, 22, 30, 46];
  return children.length * child + needs.length * (need + (needs.length > 1 ? title : 0)) + why;
}

/** An opener and a close for everybody, in minutes. */
const ROUND_MINUTES = 4;

/** The day's plan: what is worth doing now, and with whom. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FirstVisit,
    DayWish,
    MatButtonModule,
    RouterLink,
    Learned,
    SessionGrid,
    StartsAs,
    Sortable,
    SwapMenu,
    StillJudging,
    Trouble,
    NoChildren,
  ],
  templateUrl: './today.page.html',
  styleUrl: './today.page.scss',
  host: { '(document:keydown.enter)': 'enter($event)' },
})
export class TodayPage {
  readonly labels = labels;
  readonly #dates = inject(Dates);
  readonly #session = inject(Session);
  readonly #router = inject(Router);
  readonly #arrangements = inject(ClassArrangements);
  readonly #chosen = inject(ChosenPlan);
  readonly #api = inject(Api);
  readonly doing = new Doing();

  readonly today = this.#dates.weekday(Date.now());
  /** The child whose name was pressed, to do something else with it. */
  readonly swapping = signal<{ child: string; from: HTMLElement; sitting: PlannedSitting } | null>(null);
  readonly record = classRecord();
  readonly day = linkedSignal((): DayPlan => {
    const classId = this.#session.classId();
    const told = whenThere(this.record, (it) => it.view.arranged, null);
    return classId ? this.#arrangements.day(classId, told) : NEW_DAY;
  });
  readonly #week = linkedSignal((): WeekSettings => {
    const told = whenThere(this.record, (it) => it.view.arranged, null);
    return this.#arrangements.week(this.#session.classId(), told);
  });
  readonly children = computed(() => whenThere(this.record, (it) => it.view.children, []));
  readonly readings = computed(() => whenThere(this.record, (it) => it.judged.readings, []));
  readonly carpet = computed(() => whenThere(this.record, (it) => it.view.carpet, null));
  /** What questions tell: needed to find out what is known, and loaded then. */
  readonly gain = rxResource({
    params: () => this.day().aim === 'judge' || undefined,
    stream: () => from(import('@vane/core/plan/expectedGain')).pipe(map(({ expectedGain }) => expectedGain)),
  });
  /** Until the sessions for another aim can be told, those for the last stay. */
  readonly #proposed = linkedSignal<readonly PlannedSitting[] | null, readonly PlannedSitting[]>({
    source: () => {
      const { sessions, later } = this.#planFor(this.day().minutes) ?? {};
      return sessions && later ? [...sessions, ...later] : null;
    },
    computation: (now, last) => now ?? last?.value ?? [],
  });
  /** The day in so many minutes; null = it cannot be told yet. */
  #planFor(minutes: number): PlannedDay | null {
    const gainOf = whenThere(this.gain, (it) => it, undefined);
    if (!this.record.hasValue() || (this.day().aim === 'judge' && gainOf === undefined)) return null;
    const { view, judged } = this.record.value();
    const of = { children: view.children, judged, timeZone: this.#session.timeZone() };
    return dayFor(of, { ...this.day(), minutes }, this.#week(), Date.now(), gainOf);
  }
  readonly names = computed(() => new Map(this.children().map((c) => [c.id, c.nickname])));
  readonly #swapped = computed(() => withSwaps(this.#proposed(), this.day().swapped));
  readonly #arranged = computed(() => arranged(this.#swapped(), this.day()));
  /** Sessions that are put off for today, by whose they are, to be brought back one by one. */
  readonly putOff = computed(() => {
    const names = this.names();
    return this.day().skipped.map((id) => ({
      id,
      who: words.listed(childrenOf(id).flatMap((child) => names.get(child) ?? [])),
    }));
  });
  readonly #todayNumber = computed(() => schoolDays(this.#session.timeZone())(Date.now()));
  /** Who is away today. */
  readonly away = computed(() => {
    const away = awayOn(this.#week(), this.#todayNumber());
    return this.children().filter(({ id }) => away.includes(id));
  });
  /** Whom the pressed child can change places with: those who sit elsewhere. */
  readonly elsewhere = computed(() => {
    const together = this.swapping()?.sitting.children.map((c) => c.child) ?? [];
    const planned = new Set(this.#proposed().flatMap((s) => s.children.map((c) => c.child)));
    return this.children().filter((c) => planned.has(c.id) && !together.includes(c.id));
  });
  /** The tide table: what fits into the minutes there are stands above the line. */
  readonly rows = computed(() => {
    let minutes = 0;
    return this.#arranged().map((sitting) => {
      minutes += sitting.minutes;
      return {
        sitting,
        title: words.plan.title(sitting.needs),
        who: this.#who(sitting),
        minutes: sitting.minutes,
        room: roomOf(sitting),
        fits: minutes <= this.day().minutes || minutes === sitting.minutes,
        pinned: this.day().pinned.includes(sitting.id),
      };
    });
  });
  /** The session that is open: the first, until another is opened, which stays open while it is moved. Empty = none. */
  readonly open = linkedSignal<readonly string[], string>({
    source: () => this.rows().map(({ sitting }) => sitting.id),
    computation: (ids, before) =>
      before !== undefined && before.source.length > 0 && (before.value === '' || ids.includes(before.value))
        ? before.value
        : (ids[0] ?? ''),
  });
  /** What fits into the minutes, as a file for the adult's own calendar, from now on. */
  toCalendar(): void {
    const sittings = this.rows()
      .filter((row) => row.fits)
      .map(({ sitting, title, who }) => ({
        id: sitting.id,
        title,
        who: who.map((c) => c.name),
        reason: reasonsOf(sitting, listedBy(this.names()))
          .map((one) => `${one.who}: ${one.why}`)
          .join('\n'),
        minutes: sitting.minutes,
      }));
    // Loaded when it is asked for.
    void import('./calendar').then(({ calendarOf }) =>
      saveFile(
        'vane-plan.ics',
        calendarOf(this.#session.openClass()?.name ?? '', sittings, new Date()),
        'text/calendar',
      ),
    );
  }
  readonly changed = computed(
    () =>
      this.day().order.length + this.day().pinned.length + this.day().skipped.length + this.day().swapped.length > 0,
  );
  /** Who was asked today: what Vane learned of them stands below the plan. */
  readonly askedToday = computed(() => {
    const dayOf = schoolDays(this.#session.timeZone());
    return this.children().filter(
      (c) => c.lastAskedAt !== null && dayOf(Date.parse(c.lastAskedAt)) === this.#todayNumber(),
    );
  });

  #who(sitting: PlannedSitting): { id: string; name: string }[] {
    return sitting.children.map(({ child }) => ({ id: child, name: this.names().get(child) ?? '' }));
  }
  set(change: Partial<DayPlan>): void {
    this.day.update((day) => ({ ...day, ...change }));
    this.#arrangements.keepDay(this.#session.classId(), this.day());
  }
  pin(id: string): void {
    const { pinned } = this.day();
    this.set({ pinned: pinned.includes(id) ? pinned.filter((p) => p !== id) : [...pinned, id] });
  }
  skip(id: string): void {
    this.set({ skipped: [...this.day().skipped, id] });
  }
  bringBack(id: string): void {
    this.set({ skipped: this.day().skipped.filter((s) => s !== id) });
  }
  /** As Vane proposes it; aim and minutes stay. */
  reset(): void {
    const { aim, minutes } = this.day();
    this.set({ ...NEW_DAY, aim, minutes });
  }
  move(from: number, to: number): void {
    const ids = this.#arranged().map((s) => s.id);
    if (to < 0 || to >= ids.length) return;
    ids.splice(to, 0, ...ids.splice(from, 1));
    this.set({ order: ids });
  }
  /** Alt and an arrow moves a row, as dragging does. */
  key(event: KeyboardEvent, index: number): void {
    if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
    event.preventDefault();
    this.move(index, index + (event.key === 'ArrowUp' ? -1 : 1));
  }
  isAway(child: string): void {
    const today = this.#todayNumber();
    this.#setAway([...this.#week().away, { child, from: today, to: today }]);
  }
  /** Back today: of a longer time away the days before and after stay. */
  isBack(child: string): void {
    const today = this.#todayNumber();
    this.#setAway(
      this.#week().away.flatMap((one) =>
        one.child === child && one.from <= today && today <= one.to
          ? [
              { ...one, to: today - 1 },
              { ...one, from: today + 1 },
            ].filter(({ from, to }) => from <= to)
          : [one],
      ),
    );
  }
  #setAway(away: WeekSettings['away']): void {
    this.#week.update((week) => ({ ...week, away }));
    this.#arrangements.keepWeek(this.#session.classId(), this.#week());
  }
  swap(child: string, other: string): void {
    this.set({ swapped: [...this.day().swapped, [child, other]] });
  }

  /** As this class answers and on the screens it used last, at once. */
  begin(sitting: PlannedSitting): void {
    this.#open(sitting, { straight: true });
  }
  /** Sets it first. */
  change(sitting: PlannedSitting): void {
    this.#open(sitting, {});
  }
  /** Something for everybody, a session of those who come first, and a close: what is needed most opens. Null where the minutes are too few for it. */
  readonly carpetTime = computed(() => {
    const minutes = this.day().minutes - ROUND_MINUTES;
    // Everybody is there: those whose turn it is work as one group, whatever their needs.
    const due = this.#planFor(Math.max(1, minutes))?.sessions.flatMap(({ children }) => children) ?? [];
    const first = due.length === 0 ? null : sessionOf(due.slice(0, this.#week().group));
    const opener = openerFor(this.rows().flatMap(({ sitting }) => sitting.children));
    if (!first || !opener || first.minutes > minutes) return null;
    return {
      sitting: first,
      opener: opener.routine,
      title: words.plan.title(first.needs),
      who: words.listed(this.#who(first).map(({ name }) => name)),
      minutes: first.minutes + ROUND_MINUTES,
    };
  });
  beginAll({ sitting, opener }: { sitting: PlannedSitting; opener: RoutineId }): void {
    this.#open(sitting, { straight: true }, opener);
  }
  /** A sheet of the session: to print on one page, or to open on a phone. */
  forHelper(sitting: PlannedSitting, opener: RoutineId | null = null): void {
    const classId = this.#session.classId();
    const body = sheetOf(sitting, opener);
    this.doing.run(this.#api.ask('POST /classes/:classId/group-sheets', { classId, body }), '', ({ code }) => {
      void this.#router.navigate(['/prints'], { queryParams: { what: 'group-sheet', sheet: code } });
    });
  }
  #open(sitting: PlannedSitting, more: { straight?: true }, opener: RoutineId | null = null): void {
    this.#chosen.take(sitting, opener);
    const queryParams = { child: sitting.children[0]?.child, routine: 'planned', ...more };
    void this.#router.navigate(['/carpet'], { queryParams });
  }
  /** Enter, where nothing else has the keyboard, begins the first session. */
  enter(event: Event): void {
    const first = this.rows()[0];
    if (event.target === document.body && first && this.swapping() === null) this.begin(first.sitting);
  }
  other(child: string): void {
    this.#chosen.sitting.set(null);
    void this.#router.navigate(['/carpet'], { queryParams: { child } });
  }
}
