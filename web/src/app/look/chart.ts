import { CSP_NONCE, Directive, ElementRef, effect, inject, input, type OnDestroy } from '@angular/core';
import type ApexCharts from 'apexcharts';
import type { ApexOptions } from 'apexcharts';

/** ApexCharts behind one directive; the library loads when the first chart is drawn. */
@Directive({ selector: '[vaneChart]' })
export class Chart implements OnDestroy {
  readonly #host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly vaneChart = input.required<ApexOptions>();
  /** The page's policy lets only styles with this nonce in. */
  readonly #nonce = inject(CSP_NONCE, { optional: true }) ?? undefined;
  #chart: ApexCharts | null = null;
  #gone = false;

  constructor() {
    effect(() => void this.#draw(this.vaneChart()));
  }

  async #draw(options: ApexOptions): Promise<void> {
    const { default: Library } = await import('apexcharts');
    if (this.#gone || this.vaneChart() !== options) return;
    this.#chart?.destroy();
    this.#chart = new Library(this.#host, { ...options, chart: { ...options.chart, nonce: this.#nonce } });
    await this.#chart.render();
  }

  ngOnDestroy(): void {
    this.#gone = true;
    this.#chart?.destroy();
  }
}
