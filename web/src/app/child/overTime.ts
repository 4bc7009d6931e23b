import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { dateOfDay, schoolDays, changesOf, countsByWeek, type ReadingChange } from '@vane/core';
import { DateField } from '../parts/dateField';
import { Trouble } from '../parts/trouble';
import { WeeksChart } from '../charts/weeksChart';
import { WeeksPending } from '../charts/weeksPending';
import { pageWords } from '../language/pageWords';
import { words } from '../language/words';
import { Session } from '../signedIn/session';
import { Dates } from '../signedIn/dates';
import { pastWeeks } from './pastWeeks';
import { whenThere } from '../api/whenThere';

/** The most changes that are written out, the newest. */
const MOST_CHANGES = 14;

/** What became known, week by week, and what lapsed; and the way back to any day. */
@Component({
  selector: 'vane-over-time',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DateField, MatButtonModule, Trouble, WeeksChart, WeeksPending],
  template: `
    <section i18n-aria-label aria-label="Over time">
      @if (past.error()) {
        <vane-trouble [of]="past" />
      } @else if (!past.hasValue()) {
        <p i18n role="status">Loading past weeks …</p>
      } @else {
        <vane-weeks-pending [past]="past.value()" />
        @if (weeks().length > 0) {
          <p>{{ sentence() }}</p>
          <div class="both">
            <vane-weeks-chart [weeks]="weeks()" />
            <div>
              <ul i18n-aria-label aria-label="What changed" tabindex="0">
                @for (change of changes(); track change.fact + change.week) {
                  <li [class.lapse]="change.lapse">
                    <b>{{ change.words }}</b> {{ change.what }} <span class="faint">{{ change.when }}</span>
                  </li>
                }
              </ul>
              @if (more() > 0) {
                <p i18n class="faint">and {{ more() }} earlier changes</p>
              }
            </div>
          </div>
          <div class="back">
            <vane-date-field
              i18n-label
              label="See the record on"
              [min]="weeks()[0]!.week"
              [max]="today"
              [value]="until()"
              (picked)="step.emit($event)"
            />
            @if (until()) {
              <button i18n matButton type="button" (click)="step.emit('')">Back to now</button>
            }
          </div>
        } @else if (past.value().pending === 0) {
          <p i18n class="faint">Nothing has been asked yet.</p>
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
  readonly #dates = inject(Dates);
  readonly #session = inject(Session);
  readonly childId = input.required<string>();
  readonly nickname = input.required<string>();
  /** The day that is being looked at, YYYY-MM-DD; empty = now. */
  readonly until = input('');
  readonly step = output<string>();
  readonly today = dateOfDay(schoolDays(this.#session.timeZone())(Date.now()));

  readonly past = pastWeeks(this.childId);
  readonly #weeks = computed(() => whenThere(this.past, (it) => it.weeks, []));
  readonly weeks = computed(() => countsByWeek(this.#weeks()));
  readonly #changes = computed(() => changesOf(this.#weeks()));
  readonly more = computed(() => Math.max(0, this.#changes().length - MOST_CHANGES));
  readonly changes = computed(() =>
    this.#changes()
      .slice(0, MOST_CHANGES)
      .map((change) => changeWords(change, this.#dates)),
  );
  readonly sentence = computed(() =>
    pageWords.evidence.overTime(this.#changes(), this.weeks().length, this.nickname()),
  );
}

const changeWords = (change: ReadingChange, dates: Dates) => ({
  ...change,
  words: words.fact(change.fact),
  what: pageWords.evidence.change(change),
  when: $localize`week of ${dates.date(change.week)}`,
});
