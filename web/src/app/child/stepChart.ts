import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toResponse, type ChildRecord } from '@vane/contract';
import { stepLines, type StepLines } from '@vane/core';
import type { ApexOptions } from 'apexcharts';
import { calmChart } from '../charts/calmChart';
import { Chart } from '../charts/chart';
import { SaveChart } from '../charts/saveChart';
import { colourNow } from '../charts/colourNow';
import { words } from '../language/words';
import { DevicePreferences } from '../device/devicePreferences';
import { VIEWS, type View } from '../sail/sail';

/** Longer answers were lapses: they are drawn at the edge. */
const LONGEST_SHOWN = 10;

/** Time against how much there is to count, with the line through the answers between the two lines where this child would know, or count, everything. */
@Component({
  selector: 'vane-step-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Chart, SaveChart],
  template: `
    <section aria-labelledby="steps-title">
      <h2 i18n id="steps-title">{{ title() }}: time against counting</h2>
      <p>{{ sentence() }}</p>
      @if (lines().points.length > 0) {
        <div #drawing="vaneChart" [vaneChart]="chart()" aria-hidden="true"></div>
        <vane-save-chart [from]="drawing" name="time-against-counting" />
      }
    </section>
  `,
  styles: `
    h2 {
      font-size: 22px;
      margin-bottom: 4px;
    }
    p {
      max-width: 52em;
    }
  `,
})
export class StepChart {
  readonly #device = inject(DevicePreferences);
  readonly record = input.required<ChildRecord>();
  readonly view = input.required<View>();

  readonly title = computed(() => VIEWS.find(({ view }) => view === this.view())?.words ?? '');
  readonly lines = computed((): StepLines => {
    const kind = this.view() === 'seeing' ? 'show' : this.view();
    const { responses, estimate } = this.record();
    return stepLines(
      responses.filter((r) => r.kind === kind || (kind === 'missing' && r.kind === 'bond')).map(toResponse),
      estimate,
      estimate.times.countsAll > 0.5,
    );
  });
  readonly sentence = computed(() => stepSentence(this.lines(), this.record().child.nickname));
  readonly chart = computed(() => {
    this.#device.theme();
    return stepOptions(this.lines(), colourNow);
  });
}

/** What the lines say, in a sentence. */
export function stepSentence({ points, fitted, countedMs }: StepLines, name: string): string {
  if (points.length === 0) return $localize`${name} has no timed correct answers here yet.`;
  if (fitted === null)
    return $localize`${name}’s answers so far need too few different amounts of counting to draw a line.`;
  const pace = (countedMs[6]! - countedMs[1]!) / 5;
  const share = fitted.perStepMs / pace;
  const rise = $localize`Each extra one to count adds about ${words.seconds(Math.max(0, fitted.perStepMs))}; counting would add ${words.seconds(pace)}.`;
  if (share < 0.2) return $localize`${rise} The line is flat: most of these facts are not counted.`;
  return share > 0.65
    ? $localize`${rise} The line rises with the counting: most of these facts are counted.`
    : $localize`${rise} In between: some facts are known and some are counted.`;
}

function stepOptions(lines: StepLines, ink: (name: string) => string): ApexOptions {
  const most = Math.max(5, ...lines.points.map((p) => p.steps));
  const at = (ms: number): number => Math.min(LONGEST_SHOWN, Math.max(0, ms / 1000));
  const { fitted } = lines;
  const line = (name: string, ms: (steps: number) => number) => ({
    name,
    type: 'line',
    data: Array.from({ length: most + 1 }, (_, x) => ({ x, y: Number(at(ms(x)).toFixed(2)) })),
  });
  return {
    chart: calmChart('line', 300),
    series: [
      {
        name: $localize`answers`,
        type: 'scatter',
        data: lines.points.map((p) => ({ x: p.steps + spread(p.fact), y: Number(at(p.ms).toFixed(2)) })),
      },
      ...(fitted ? [line($localize`through them`, (x) => fitted.atZeroMs + x * fitted.perStepMs)] : []),
      line($localize`if all were known`, () => lines.knownMs),
      line($localize`if all were counted`, (x) => lines.countedMs[x] ?? 0),
    ],
    colors: [ink('--ink'), ...(fitted ? [ink('--plum')] : []), ink('--tide'), ink('--lamp')],
    stroke: { width: [0, ...(fitted ? [3] : []), 2, 2], dashArray: [0, ...(fitted ? [0] : []), 6, 3] },
    markers: { size: [4, 0, 0, 0], strokeWidth: 0, fillOpacity: 0.55 },
    legend: {
      position: 'top',
      horizontalAlign: 'left',
      labels: { colors: ink('--ink') },
      fontSize: '14px',
      onItemClick: { toggleDataSeries: false },
    },
    grid: { borderColor: ink('--sand'), padding: { left: 8, right: 22 } },
    dataLabels: { enabled: false },
    tooltip: { enabled: false },
    xaxis: {
      type: 'numeric',
      min: -1,
      max: most + 1,
      tickAmount: most + 2,
      labels: {
        formatter: (x: string) => (Number(x) < 0 || Number(x) > most ? '' : String(Math.round(Number(x)))),
        style: { colors: ink('--faint'), fontSize: '13px' },
      },
      title: { text: $localize`words to count`, style: { color: ink('--faint'), fontWeight: 400, fontSize: '13px' } },
      axisBorder: { color: ink('--sand') },
      axisTicks: { color: ink('--sand') },
    },
    yaxis: {
      min: 0,
      max: LONGEST_SHOWN,
      tickAmount: 5,
      labels: {
        formatter: (y: number) => `${y.toFixed(0)} s`,
        style: { colors: ink('--faint'), fontSize: '13px' },
        minWidth: 40,
      },
    },
  };
}

/** Dots of the same steps side by side, each fact in its own place. */
const spread = (fact: string): number => (([...fact].reduce((sum, c) => sum + c.charCodeAt(0), 0) % 7) - 3) * 0.06;
