import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { countsByWeek, dateOfDay, schoolDays, stillCounted, STANDINGS, whoKnows, type Topic } from '@vane/core';
import { Api } from '../api/api';
import { WeeksChart } from '../charts/weeksChart';
import { WeeksPending } from '../charts/weeksPending';
import { pageWords } from '../language/pageWords';
import { words } from '../language/words';
import { FirstVisit } from '../parts/firstVisit';
import { NoChildren } from '../parts/noChildren';
import { StillJudging } from '../parts/stillJudging';
import { Trouble } from '../parts/trouble';
import { ClassArrangements } from '../plan/arrangements';
import { dayFor } from '../plan/classPlan';
import { classPlan } from '../plan/classRecord';
import { reasonsOf } from '../plan/reasons';
import { Dates } from '../signedIn/dates';
import { Session } from '../signedIn/session';
import { classChildren } from './classChildren';
import { ClassPicture } from './classPicture';
import { ClassSide } from './classSide';
import { Measuring } from './measuring';
import { Names } from './names';
import { WhoKnows } from './whoKnows';
import { whenThere } from '../api/whenThere';

/** Fewest children with a reading before a fact is said to be the class's. */
const LEAST_READ = 4;
const MOST_FACTS = 8;

/** Who needs the same thing? The class as one picture; then what follows from it. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatButtonModule,
    RouterLink,
    StillJudging,
    Trouble,
    WeeksChart,
    WeeksPending,
    NoChildren,
    FirstVisit,
    ClassPicture,
    ClassSide,
    WhoKnows,
    Measuring,
  ],
  templateUrl: './class.page.html',
  styleUrl: './class.page.scss',
  host: { '(document:keydown.n)': 'hideNames($event)' },
})
export class ClassPage {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #dates = inject(Dates);
  readonly #arrangements = inject(ClassArrangements);
  readonly names = inject(Names);
  readonly record = classPlan();
  readonly #now = Date.now();
  readonly #todayNumber = schoolDays(this.#session.timeZone())(this.#now);
  readonly today = dateOfDay(this.#todayNumber);
  readonly lastWeek = dateOfDay(this.#todayNumber - 7);
  /** The day with which today is compared. */
  readonly since = signal(this.lastWeek);
  readonly sinceWords = computed(() => this.#dates.date(this.since()));
  /** The child that was chosen; empty = none. */
  readonly chosen = signal('');
  /** The fact, step or number that the class is looked at for. */
  readonly topic = signal<{ readonly words: string; readonly topic: Topic } | null>(null);

  /** Asked for once the picture stands: a year of weeks is the larger part of what this page reads. */
  readonly past = rxResource({
    params: () => (this.record.hasValue() && this.#session.classId()) || undefined,
    stream: ({ params: classId }) => this.#api.overTime(classId),
  });
  /** Whether all past weeks are judged and here: what is said of them waits for that. */
  readonly pastKnown = computed(() => this.past.hasValue() && this.past.value().pending === 0);
  readonly #pastWeeks = computed(() => whenThere(this.past, (it) => it.weeks, []));
  readonly readings = computed(() => whenThere(this.record, (it) => it.judged.readings, []));
  readonly #needs = computed(() => whenThere(this.record, (it) => it.needs, []));
  /** Who works together next, as Today has it. */
  readonly #sessions = computed(() => {
    if (!this.record.hasValue()) return [];
    const { view, judged } = this.record.value();
    const of = { children: view.children, judged, timeZone: this.#session.timeZone() };
    const day = { ...this.#arrangements.day(view.id, view.arranged), aim: 'practise' as const };
    const { sessions, later } = dayFor(of, day, this.#arrangements.week(view.id, view.arranged), this.#now);
    return [...sessions, ...later];
  });
  readonly children = computed(() =>
    this.record.hasValue()
      ? classChildren(this.record.value().view.children, this.readings(), this.#needs(), this.#pastWeeks(), {
          now: this.#now,
          timeZone: this.#session.timeZone(),
          since: this.since(),
        })
      : [],
  );
  readonly marks = computed(() => {
    const topic = this.topic()?.topic;
    return topic
      ? whoKnows(
          topic,
          this.children().map(({ id }) => id),
          this.readings(),
        )
      : null;
  });
  readonly standing = computed(() =>
    STANDINGS.flatMap((word) => {
      const who = this.children().filter(({ id }) => this.marks()?.get(id) === word);
      return who.length === 0
        ? []
        : [{ word: words.readings.standings[word], who: this.names.listed(who.map((one) => one.nickname)) }];
    }),
  );
  readonly #nicknames = computed(() => new Map(this.children().map((c) => [c.id, c.nickname])));
  readonly counted = computed(() =>
    stillCounted(this.readings(), LEAST_READ)
      .slice(0, MOST_FACTS)
      .map(({ fact, asked, open }) => ({
        fact,
        words: words.fact(fact),
        share: pageWords.classPage.openOf(asked, open),
        who: this.names.listed(open.map(({ child }) => this.#nicknames().get(child) ?? '').sort()),
      })),
  );
  readonly weeks = computed(() => countsByWeek(this.#pastWeeks().filter((w) => this.#nicknames().has(w.child))));
  readonly groups = computed(() =>
    this.#sessions().map((sitting) => ({
      id: sitting.id,
      children: sitting.children.map((c) => c.child).join(),
      title: words.plan.title(sitting.needs),
      reasons: reasonsOf(sitting, (children) =>
        this.names.listed(children.map((id) => this.#nicknames().get(id) ?? '')),
      ),
    })),
  );

  /** One key hides all names at once, and shows them again; not where something is typed. */
  hideNames(event: Event): void {
    const { target } = event;
    if (target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement) return;
    this.names.toggle();
  }
}
