import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { READING_WORDS, type ReadingWord, type WeekCounts } from '@vane/core';
import type { ApexOptions } from 'apexcharts';
import { DevicePreferences } from '../device/devicePreferences';
import { calmChart } from './calmChart';
import { Chart } from './chart';
import { SaveChart } from './saveChart';
import { colourNow } from './colourNow';
import { Dates } from '../signedIn/dates';
import { words } from '../language/words';

const DRAWN = READING_WORDS.filter((word) => word !== 'too few answers');
/** The share of a reading among all facts asked until then, those with too few answers included, per cent. */
const shareOf = (counts: WeekCounts['counts'], word: ReadingWord): number =>
  Math.round(
    (100 * counts[word]) /
      Math.max(
        1,
        READING_WORDS.reduce((sum, one) => sum + counts[one], 0),
      ),
  );
/** Every word has a pattern of its own beside its colour. */
const LOOK: Record<
  Exclude<ReadingWord, 'too few answers'>,
  { colour: string; fill: 'solid' | 'pattern'; pattern: string }
> = {
  knows: { colour: '--tide', fill: 'solid', pattern: 'squares' },
  'works out': { colour: '--plum', fill: 'pattern', pattern: 'slantedLines' },
  'in between': { colour: '--sand', fill: 'pattern', pattern: 'horizontalLines' },
  counts: { colour: '--lamp', fill: 'pattern', pattern: 'circles' },
  'not yet': { colour: '--faint', fill: 'pattern', pattern: 'verticalLines' },
};

/** Of all that was asked until a week's end, the share of each reading: a bar a week. What is missing to the full height has too few answers. */
@Component({
  selector: 'vane-weeks-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Chart, SaveChart],
  template: `
    <div #drawing="vaneChart" [vaneChart]="chart()" aria-hidden="true"></div>
    <vane-save-chart [from]="drawing" name="over-the-weeks" />
  `,
})
export class WeeksChart {
  readonly #dates = inject(Dates);
  readonly #device = inject(DevicePreferences);
  readonly weeks = input.required<readonly WeekCounts[]>();
  readonly height = input(240);
  readonly chart = computed(() => {
    this.#device.theme();
    return weeksOptions(this.weeks(), this.height(), colourNow, this.#dates.date);
  });
}

export function weeksOptions(
  weeks: readonly WeekCounts[],
  height: number,
  colour: (name: string) => string,
  dateWords: (day: string) => string,
): ApexOptions {
  const looks = DRAWN.map((word) => LOOK[word]);
  return {
    chart: { ...calmChart('bar', height), stacked: true },
    series: DRAWN.map((word) => ({
      name: words.readings.readings[word],
      data: weeks.map(({ counts }) => shareOf(counts, word)),
    })),
    colors: looks.map((look) => colour(look.colour)),
    fill: {
      type: looks.map((look) => look.fill),
      pattern: { style: looks.map((look) => look.pattern), width: 6, height: 6, strokeWidth: 2 },
    },
    plotOptions: { bar: { columnWidth: weeks.length < 12 ? '36px' : '70%' } },
    dataLabels: { enabled: false },
    stroke: { width: 1, colors: [colour('--ink')] },
    grid: { borderColor: colour('--sand'), xaxis: { lines: { show: false } } },
    legend: {
      position: 'top',
      horizontalAlign: 'left',
      labels: { colors: colour('--ink') },
      fontSize: '15px',
      onItemClick: { toggleDataSeries: false },
    },
    xaxis: {
      categories: weeks.map(({ week }) => dateWords(week)),
      labels: { style: { colors: colour('--faint'), fontSize: '14px' } },
      axisBorder: { color: colour('--sand') },
      axisTicks: { show: false },
    },
    yaxis: {
      labels: { style: { colors: colour('--faint'), fontSize: '14px' }, formatter: (share) => `${share} %` },
      min: 0,
      max: 100,
      tickAmount: 4,
      decimalsInFloat: 0,
    },
    tooltip: { enabled: false },
    states: { hover: { filter: { type: 'none' } } },
  };
}
