import type { RecordRow } from '@vane/contract';
import { toResponse } from '@vane/contract';
import { isEvidence, type Evidence } from '@vane/core';
import type { ApexOptions } from 'apexcharts';
import { calmChart } from '../charts/calmChart';
import { words } from '../language/words';

/** Colours as the theme has them now: ApexCharts wants values, not names. */
type Ink = (name: string) => string;

interface Point {
  readonly x: number;
  readonly y: number;
}

/** Days of the school's calendar: which one a moment falls on, as YYYY-MM-DD, and what it is called. */
interface Calendar {
  readonly dayOf: (at: string) => string;
  readonly nameOf: (day: string) => string;
}

/** Every response as a dot by day, newest day on top, over the band of the child's hand and the line where counting would land. */
export function timeLine(
  responses: readonly RecordRow[],
  evidence: Evidence,
  ink: Ink,
  { dayOf, nameOf }: Calendar,
): ApexOptions {
  const timed = responses.filter((r) => r.response_ms !== null);
  const days = [...new Set(timed.map((r) => dayOf(r.shown_at)))].sort().slice(-DAYS_SHOWN);
  const dayName = (day: string | undefined): string => (day === undefined ? '' : nameOf(day));
  const dots = (choose: (row: RecordRow) => boolean): Point[] =>
    timed
      .filter((r) => choose(r) && days.includes(dayOf(r.shown_at)))
      .map((r) => ({
        x: Math.min((r.response_ms ?? 0) / 1000, LONGEST_SHOWN),
        y: days.indexOf(dayOf(r.shown_at)) + 1,
      }));
  const judged = (r: RecordRow): boolean => isEvidence(toResponse(r));
  const longest = Math.max(evidence.countingMs / 1000, ...timed.map((r) => (r.response_ms ?? 0) / 1000));
  const edge = 2 * Math.ceil((Math.min(longest, LONGEST_SHOWN) + 0.2) / 2);
  return {
    chart: calmChart('scatter', 130 + 26 * days.length),
    series: [
      { name: $localize`right`, data: dots((r) => judged(r) && r.outcome === 'correct') },
      { name: $localize`wrong`, data: dots((r) => judged(r) && r.outcome !== 'correct') },
      { name: $localize`left out`, data: dots((r) => !judged(r)) },
    ],
    colors: [ink('--ink'), ink('--plum'), ink('--faint')],
    markers: {
      size: [6, 6, 5],
      shape: ['circle', 'cross', 'plus'],
      strokeWidth: 2,
      strokeColors: [ink('--ink'), ink('--plum'), ink('--faint')],
    },
    legend: {
      show: true,
      position: 'top',
      horizontalAlign: 'left',
      labels: { colors: ink('--ink') },
      fontSize: '14px',
      showForSingleSeries: true,
      onItemClick: { toggleDataSeries: false },
    },
    grid: { borderColor: ink('--sand'), padding: { left: 8, right: 22, top: 0 } },
    dataLabels: { enabled: false },
    tooltip: {
      enabled: true,
      theme: 'light',
      x: { formatter: (x: number) => words.seconds(x * 1000) },
      y: { formatter: (day: number) => dayName(days[day - 1]), title: { formatter: (name: string) => name } },
    },
    xaxis: {
      type: 'numeric',
      min: 0,
      max: edge,
      // Every other second: more do not fit beside the sail.
      tickAmount: edge / 2,
      labels: {
        rotate: 0,
        formatter: (x: string) => `${Number(x).toFixed(0)} s`,
        style: { colors: ink('--faint'), fontSize: '13px' },
      },
      axisBorder: { color: ink('--sand') },
      axisTicks: { color: ink('--sand') },
      tooltip: { enabled: false },
      crosshairs: { show: false },
    },
    yaxis: {
      min: 0,
      max: days.length + 1,
      tickAmount: days.length + 1,
      labels: {
        formatter: (y: number) => dayName(days[Math.round(y) - 1]),
        style: { colors: ink('--faint'), fontSize: '13px' },
        minWidth: 84,
        maxWidth: 96,
      },
    },
    annotations: {
      xaxis: [
        {
          x: evidence.handBand.fromMs / 1000,
          x2: evidence.handBand.toMs / 1000,
          fillColor: ink('--tide'),
          opacity: 0.16,
          strokeDashArray: 0,
          borderColor: 'transparent',
          // Below the days, where nothing stands: the line's own is above them, and the two never meet.
          label: {
            ...label($localize`time to name a number`, ink('--tide'), ink),
            position: 'bottom',
            offsetY: 0,
            textAnchor: 'start',
          },
        },
        ...(evidence.steps > 0
          ? [
              {
                x: evidence.countingMs / 1000,
                borderColor: ink('--lamp'),
                strokeDashArray: 5,
                borderWidth: 2,
                label: {
                  ...label($localize`time to count it`, ink('--lamp'), ink),
                  textAnchor: evidence.countingMs / 1000 > edge / 2 ? 'end' : 'start',
                },
              },
            ]
          : []),
      ],
    },
  };
}

/** Older days are in the list below the chart. */
const DAYS_SHOWN = 8;
/** Answers that took longer are drawn at the edge: they were lapses, and would squeeze the rest. */
const LONGEST_SHOWN = 10;

const label = (text: string, colour: string, ink: Ink) => ({
  text,
  orientation: 'horizontal',
  position: 'top',
  offsetY: -6,
  borderWidth: 0,
  style: {
    background: ink('--paper'),
    color: colour,
    fontSize: '13px',
    padding: { left: 3, right: 3, top: 0, bottom: 2 },
  },
});
