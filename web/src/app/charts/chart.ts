import {
  CSP_NONCE,
  Directive,
  ElementRef,
  InjectionToken,
  effect,
  inject,
  input,
  signal,
  type OnDestroy,
} from '@angular/core';
import type ApexCharts from 'apexcharts';
import type { ApexOptions } from 'apexcharts';

/** The chart library, loaded when the first chart is drawn. */
export const CHARTS = new InjectionToken<() => Promise<typeof ApexCharts>>('charts', {
  providedIn: 'root',
  factory: () => () => import('apexcharts').then((m) => m.default),
});

/** ApexCharts behind one directive. */
@Directive({ selector: '[vaneChart]', exportAs: 'vaneChart' })
export class Chart implements OnDestroy {
  readonly #host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly vaneChart = input.required<ApexOptions>();
  /** Where the chart stands, once it is drawn. */
  readonly drawn = signal<HTMLElement | null>(null);
  /** The page's policy lets only styles with this nonce in. */
  readonly #nonce = inject(CSP_NONCE, { optional: true }) ?? undefined;
  readonly #library = inject(CHARTS);
  #chart: ApexCharts | null = null;
  #gone = false;

  constructor() {
    effect(() => void this.#draw(this.vaneChart()));
  }

  async #draw(options: ApexOptions): Promise<void> {
    const Library = await this.#library();
    if (this.#gone || this.vaneChart() !== options) return;
    this.drawn.set(null);
    this.#chart?.destroy();
    this.#chart = new Library(this.#host, { ...options, chart: { ...options.chart, nonce: this.#nonce } });
    await this.#chart.render();
    if (this.vaneChart() === options) this.drawn.set(this.#host);
  }

  ngOnDestroy(): void {
    this.#gone = true;
    this.#chart?.destroy();
  }
}
