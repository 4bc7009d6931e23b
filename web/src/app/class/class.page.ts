import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { RouterLink } from '@angular/router';
import { countsByWeek, stillCounted, workingNumber } from '@vane/core';
import type { ChildWeek } from '@vane/contract';
import { NoChildren } from '../parts/noChildren';
import { WeeksChart } from '../charts/weeksChart';
import { WeeksPending } from '../charts/weeksPending';
import { Trouble } from '../parts/trouble';
import { Api } from '../api/api';
import { classRecord } from '../plan/classRecord';
import { Session } from '../signedIn/session';
import { sittingsFor } from '../plan/classPlan';
import { words } from '../language/words';

/** Fewest children with a reading before a fact is said to be the class's. */
const LEAST_READ = 4;
const MOST_FACTS = 12;

/** Who needs the same thing? Children stand by name, or by what they work at; never by how far they are. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonToggleModule, RouterLink, Trouble, WeeksChart, WeeksPending, NoChildren],
  templateUrl: './class.page.html',
  styleUrl: './class.page.scss',
})
export class ClassPage {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly record = classRecord();
  readonly order = signal<'name' | 'need'>('name');
  readonly #names = computed(
    () => new Map(this.record.hasValue() ? this.record.value().view.children.map((c) => [c.id, c.nickname]) : []),
  );

  readonly children = computed(() => {
    if (!this.record.hasValue()) return [];
    const { view, judged } = this.record.value();
    const rows = view.children.map(({ id, nickname }) => {
      const found = workingNumber(judged.readings.filter((r) => r.child === id));
      const pairs = found.number === null ? [] : (found.pairs.get(found.number) ?? []);
      return {
        id,
        nickname,
        number: found.number,
        words: found.allKnown
          ? $localize`all pairs to ten`
          : found.number === null
            ? $localize`not known yet`
            : String(found.number),
        pairs: pairs.map((p) => ({
          words: `${p.first} + ${p.second}`,
          known: p.known,
          mark: p.known ? $localize`known` : p.asked ? $localize`not yet` : $localize`not asked`,
        })),
      };
    });
    // Larger and smaller numbers stand in the order in which they are worked at: it says what to do together, not who is ahead.
    return this.order() === 'name'
      ? rows
      : rows.sort((a, b) => (a.number ?? 99) - (b.number ?? 99) || (a.nickname < b.nickname ? -1 : 1));
  });
  readonly counted = computed(() => {
    if (!this.record.hasValue()) return [];
    return stillCounted(this.record.value().judged.readings, LEAST_READ)
      .slice(0, MOST_FACTS)
      .map(({ fact, counting, read }) => ({
        fact,
        words: words.fact(fact),
        share: $localize`${counting.length} of ${read} asked`,
        who: words.listed(counting.map((c) => this.#names().get(c) ?? '').sort()),
      }));
  });
  readonly past = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params: classId }) => this.#api.overTime(classId),
  });
  readonly #weeks = computed(() =>
    this.past.hasValue() ? this.past.value().weeks.filter((w) => this.#names().has(w.child)) : [],
  );
  readonly weeks = computed(() => countsByWeek(this.#weeks()));
  readonly moved = computed(() => numbersMoved(this.#weeks(), this.#names()));
  readonly groups = computed(() => {
    if (!this.record.hasValue()) return [];
    const { view, judged } = this.record.value();
    return sittingsFor(view.children, judged, 'practise', Date.now(), this.#session.timeZone()).map((sitting) => ({
      id: sitting.id,
      children: sitting.children.map((c) => c.child).join(),
      title: words.plan.title(sitting.needs),
      who: words.listed(sitting.children.map((c) => this.#names().get(c.child) ?? '')),
      reasons: sitting.children.map((one) => ({
        id: one.child,
        words: `${this.#names().get(one.child) ?? ''}: ${words.plan.reason(one)}`,
      })),
    }));
  });
}

/** Children whose working number changed over the weeks, by name, in one sentence: a change, not a ranking. */
export function numbersMoved(weeks: readonly ChildWeek[], names: ReadonlyMap<string, string>): string {
  const found = [...names]
    .map(([child, name]) => {
      const own = weeks.filter((w) => w.child === child && w.workingNumber !== null).map((w) => w.workingNumber!);
      return { name, from: own[0], to: own[own.length - 1] };
    })
    .sort((a, b) => (a.name < b.name ? -1 : 1));
  const moved = found.flatMap(({ name, from, to }) =>
    from === undefined || to === undefined || from === to
      ? []
      : [$localize`${name} from ${words.inLetters(from)} to ${words.inLetters(to)}`],
  );
  return moved.length === 0
    ? $localize`No working number has changed yet.`
    : $localize`Working numbers that changed: ${words.listed(moved)}.`;
}
