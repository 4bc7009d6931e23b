import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { changesOf, countsByWeek, type Change } from '@vane/core';
import { format } from 'date-fns';
import { DateField } from '../parts/dateField';
import { Trouble } from '../parts/trouble';
import { WeeksChart } from '../charts/weeksChart';
import { WeeksPending } from '../charts/weeksPending';
import { factWords, listed, some } from '../parts/plainWords';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';

/** The most changes that are written out, the newest. */
const MOST = 14;

/** What became known, week by week, and what lapsed; and the way back to any day. */
@Component({
  selector: 'vane-over-time',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DateField, MatButtonModule, Trouble, WeeksChart, WeeksPending],
  template: `
    <section aria-labelledby="time-title">
      <h2 id="time-title">Over time</h2>
      @if (past.error()) {
        <vane-trouble [error]="past.error()" (again)="past.reload()" />
      } @else if (!past.hasValue()) {
        <p role="status">Fetching past weeks …</p>
      } @else {
        <vane-weeks-pending [past]="past.value()" />
        @if (weeks().length > 0) {
          <p>{{ sentence() }}</p>
          <div class="both">
            <vane-weeks-chart [weeks]="weeks()" />
            <div>
              <ul aria-label="What changed" tabindex="0">
                @for (change of changes(); track change.fact + change.week) {
                  <li [class.lapse]="change.lapse">
                    <b>{{ change.words }}</b> {{ change.what }} <span class="faint">{{ change.when }}</span>
                  </li>
                }
              </ul>
              @if (more() > 0) {
                <p class="faint">and {{ more() }} earlier changes</p>
              }
            </div>
          </div>
          <div class="back">
            <vane-date-field
              label="See the record as it stood on"
              [min]="weeks()[0]!.week"
              [max]="today"
              [value]="until()"
              (picked)="step.emit($event)"
            />
            @if (until()) {
              <button matButton type="button" (click)="step.emit('')">Back to now</button>
            }
          </div>
        } @else if (past.value().pending === 0) {
          <p class="faint">Nothing has been asked yet.</p>
        }
      }
    </section>
  `,
  styles: `
    h2 {
      font-size: 22px;
      margin-bottom: 6px;
    }
    .both {
      display: grid;
      grid-template-columns: minmax(0, 1.6fr) minmax(0, 1fr);
      gap: 8px 56px;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
      max-height: 300px;
      overflow: auto;
      border-bottom: 2px solid var(--sand);
      margin-bottom: 8px;
    }
    li {
      padding: 4px 0;
      border-bottom: 1px solid var(--sand);
    }
    .lapse b::before {
      content: '↓ ';
    }
    .back {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px;
    }
    vane-date-field {
      width: 300px;
    }
    @media (max-width: 900px) {
      .both {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class OverTime {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly childId = input.required<string>();
  readonly nickname = input.required<string>();
  /** The day that is being looked at, YYYY-MM-DD; empty = now. */
  readonly until = input('');
  readonly step = output<string>();
  readonly today = format(new Date(), 'yyyy-MM-dd');

  readonly past = rxResource({
    params: () => (this.#session.classId() ? { classId: this.#session.classId(), childId: this.childId() } : undefined),
    stream: ({ params }) => this.#api.overTime(params.classId, params.childId),
  });
  readonly #weeks = computed(() => (this.past.hasValue() ? this.past.value().weeks : []));
  readonly weeks = computed(() => countsByWeek(this.#weeks()));
  readonly #changes = computed(() => changesOf(this.#weeks()));
  readonly more = computed(() => Math.max(0, this.#changes().length - MOST));
  readonly changes = computed(() => this.#changes().slice(0, MOST).map(changeWords));
  readonly sentence = computed(() => overTimeSentence(this.#changes(), this.weeks().length, this.nickname()));
}

const changeWords = (change: Change) => ({
  ...change,
  words: factWords(change.fact),
  what:
    change.from === null
      ? 'now known'
      : change.to === 'knows'
        ? `${change.from}, now known`
        : `was ${change.from === 'knows' ? 'known' : `“${change.from}”`}, now “${change.to}”`,
  when: `week of ${format(new Date(change.week), 'd MMM')}`,
});

/** What the weeks brought, in a sentence or two. */
export function overTimeSentence(changes: readonly Change[], weeks: number, name: string): string {
  // Only what stands: a fact that became known and lapsed again is told as lapsed.
  const newest = new Map<string, Change>();
  for (const change of changes) if (!newest.has(change.fact)) newest.set(change.fact, change);
  const standing = [...newest.values()];
  const known = standing.filter((c) => c.to === 'knows').length;
  const lapsed = standing.filter((c) => c.lapse).map((c) => factWords(c.fact));
  const became =
    known === 0 ? `No reading of ${name} has become “knows” yet` : `${name} has come to know ${some(known, 'fact')}`;
  const since = `${became} in ${some(weeks, 'week')} with answers.`;
  if (lapsed.length === 0) return since;
  const shown = lapsed.slice(0, 4);
  const rest = lapsed.length - shown.length;
  return `${since} Known before and not now: ${listed(rest > 0 ? [...shown, some(rest, 'other')] : shown)}. A quick answer or two may bring them back.`;
}
