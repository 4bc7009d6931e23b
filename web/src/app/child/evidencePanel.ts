import { ChangeDetectionStrategy, Component, computed, inject, input, output, viewChild } from '@angular/core';
import { toResponse, type ChildRecord, type OverruleView } from '@vane/contract';
import { evidenceFor, isEvidence } from '@vane/core';
import { Chart } from '../charts/chart';
import { SaveChart } from '../charts/saveChart';
import { colourNow } from '../charts/colourNow';
import { DevicePreferences } from '../device/devicePreferences';
import { pageWords } from '../language/pageWords';
import { words } from '../language/words';
import { Dates } from '../signedIn/dates';
import { Session } from '../signedIn/session';
import { givenWords, seenWords, whyNot } from '../parts/rowWords';
import { Needle } from '../sail/needle';
import { OverruleForm } from './overrule';
import { timeLine } from './timeLine';

/** What stands behind one needle: a sentence first, then the time line, then every answer. */
@Component({
  selector: 'vane-evidence',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Needle, Chart, SaveChart, OverruleForm],
  template: `
    <section i18n-aria-label aria-label="Evidence">
      <div class="title">
        <h2>{{ lead() }}</h2>
        <vane-needle [reading]="reading()" [width]="48" />
        @if (reading()) {
          <span class="faint">{{ sure() }} · {{ answers() }}</span>
        }
      </div>
      @if (drawn()) {
        <div class="chart" [vaneChart]="chart()" aria-hidden="true"></div>
      }
      <p class="sentence">{{ sentence() }}</p>
      @if (change()) {
        <p>{{ change() }}</p>
      }
      @if (!rehearsing()) {
        <vane-overrule
          [childId]="record().child.id"
          [fact]="fact()"
          [overrules]="record().overrules"
          (changed)="overruled.emit($event)"
        />
      }
      @if (rows().length > 0) {
        <details>
          <summary i18n>{rows().length, plural, one {The one answer} other {All {{ rows().length }} answers}}</summary>
          @if (conclusion()) {
            <p>{{ conclusion() }}</p>
          }
          @if (drawing(); as chart) {
            <vane-save-chart [from]="chart" name="evidence" />
          }
          <table>
            <thead>
              <tr>
                <th i18n scope="col">When</th>
                <th i18n scope="col">Answer</th>
                <th i18n scope="col">Time</th>
                <th i18n scope="col">Seen</th>
                <th i18n scope="col">Used for Vane’s view</th>
              </tr>
            </thead>
            <tbody>
              @for (row of rows(); track row.id) {
                <tr>
                  <td>{{ row.when }}</td>
                  <td>{{ row.answer }}</td>
                  <td>{{ row.time }}</td>
                  <td>{{ row.seen }}</td>
                  <td>{{ row.counts }}</td>
                </tr>
              }
            </tbody>
          </table>
        </details>
      }
    </section>
  `,
  styles: `
    .title {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 20px;
      margin-bottom: 12px;
    }
    h2 {
      font-size: 30px;
    }
    .sentence {
      font: 19px/1.45 var(--reading);
    }
    .chart {
      margin: 8px 0;
    }
    details {
      margin-top: 12px;
      border-top: 1px solid var(--sand);
    }
    summary {
      min-height: 44px;
      line-height: 44px;
      cursor: pointer;
      color: var(--tide);
    }
    table {
      border-collapse: collapse;
      width: 100%;
      font-size: 15px;
    }
    th,
    td {
      text-align: left;
      padding: 5px 8px 5px 0;
      border-bottom: 1px solid var(--sand);
      font-weight: 400;
    }
    th {
      color: var(--faint);
    }
  `,
})
export class EvidencePanel {
  readonly #device = inject(DevicePreferences);
  readonly #dates = inject(Dates);
  readonly #session = inject(Session);
  readonly record = input.required<ChildRecord>();
  readonly fact = input.required<string>();
  /** True for simulated children, which cannot be overridden. */
  readonly rehearsing = input(false);
  readonly overruled = output<readonly OverruleView[]>();

  readonly reading = computed(() => this.record().readings.find((r) => r.fact === this.fact()) ?? null);
  readonly #responses = computed(() => this.record().responses.filter((r) => r.fact === this.fact()));
  readonly evidence = computed(() =>
    evidenceFor(this.fact(), this.#responses().map(toResponse), this.record().estimate, this.#session.timeZone()),
  );
  readonly sentence = computed(() => pageWords.evidence.evidence(this.evidence(), this.record().child.nickname));
  /** Vane's view, first of all. */
  readonly lead = computed(() => {
    const reading = this.reading();
    return words.readings.lead(reading && reading.responses > 0 ? reading : null, words.fact(this.fact()));
  });
  readonly sure = computed(() => {
    const reading = this.reading();
    return reading ? words.readings.sureness(reading) : '';
  });
  readonly answers = computed(() => {
    const reading = this.reading();
    return reading ? $localize`${words.counted.answers(reading.responses)} on ${words.counted.days(reading.days)}` : '';
  });
  readonly drawing = viewChild(Chart);
  readonly drawn = computed(() => this.#responses().some((r) => r.response_ms !== null));
  readonly chart = computed(() => {
    this.#device.theme();
    return timeLine(this.#responses(), this.evidence(), colourNow, {
      dayOf: this.#dates.dayOf,
      nameOf: this.#dates.weekdayOf,
    });
  });
  readonly change = computed(() => {
    const reading = this.reading();
    return reading ? pageWords.evidence.whatWouldChange(reading.reason, this.fact(), this.evidence().timeTells) : '';
  });
  readonly conclusion = computed(() => {
    const reading = this.reading();
    return reading && reading.responses > 0 ? pageWords.evidence.conclusion(this.evidence(), reading) : '';
  });
  readonly rows = computed(() =>
    [...this.#responses()].reverse().map((r) => ({
      id: r.response_id,
      when: this.#dates.time(r.shown_at),
      answer: givenWords(r),
      time: r.response_ms === null ? '' : words.seconds(r.response_ms),
      seen: seenWords(r),
      counts: [isEvidence(toResponse(r)) ? $localize`yes` : $localize`no`, ...whyNot(r)].join(', '),
    })),
  );
}
