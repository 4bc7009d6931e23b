import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { TIDE_LINES, whoNext, type Proposal, type TideLine } from '@vane/core';
import { format } from 'date-fns';
import { forkJoin } from 'rxjs';
import { Trouble } from '../look/trouble';
import { Api } from '../session/api';
import { Session } from '../session/session';
import { proposalReason, proposalTitle } from './proposalWords';

const LINE_WORDS: Record<TideLine, string> = {
  never: 'Not yet asked',
  'over-a-week': 'Over a week ago',
  'this-week': 'Two to seven days ago',
  lately: 'Today or yesterday',
};

/** What shall I do in these eight minutes, and with whom? */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, Trouble],
  templateUrl: './today.page.html',
  styleUrl: './today.page.scss',
})
export class TodayPage {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #router = inject(Router);

  readonly today = format(new Date(), 'EEEE d MMMM');
  readonly lineWords = LINE_WORDS;
  readonly record = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params: classId }) => forkJoin({ view: this.#api.classView(classId), judged: this.#api.readings(classId) }),
  });

  readonly #proposals = computed((): Proposal[] => {
    if (!this.record.hasValue()) return [];
    const { view, judged } = this.record.value();
    const children = view.children.map((child) => ({
      child: child.id,
      lastAskedAt: child.lastAskedAt === null ? null : Date.parse(child.lastAskedAt),
      readings: judged.readings.filter((r) => r.child === child.id),
    }));
    return whoNext(children, Date.now(), -60_000 * new Date().getTimezoneOffset());
  });
  readonly #names = computed(() => new Map(this.record.hasValue() ? this.record.value().view.children.map((c) => [c.id, c.nickname]) : []));
  readonly lines = computed(() =>
    TIDE_LINES.map((line) => ({
      line,
      children: this.#proposals()
        .filter((p) => p.line === line)
        .map((p) => ({ id: p.child, name: this.#names().get(p.child) ?? '' })),
    })).filter(({ children }) => children.length > 0),
  );
  /** The chosen child: whoever has waited longest until the teacher taps another. */
  readonly chosen = linkedSignal(() => this.#proposals()[0]?.child ?? null);
  readonly proposal = computed(() => {
    const found = this.#proposals().find((p) => p.child === this.chosen());
    if (!found) return null;
    const name = this.#names().get(found.child) ?? '';
    return { child: found.child, name, title: proposalTitle(name), reason: proposalReason(found) };
  });

  begin(child: string): void {
    void this.#router.navigate(['/carpet'], { queryParams: { child } });
  }
}
