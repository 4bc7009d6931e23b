import { ChangeDetectionStrategy, Component, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Chart } from './chart';
import { saveFile } from '../parts/saveFile';
import { labels } from '../language/labels';

const SCALE = 2;

const SVG = 'http://www.w3.org/2000/svg';

/** The names of the series with their marks, which the page shows beside the drawing, in its free line at the top. */
function legendOf(host: HTMLElement): SVGGElement {
  const legend = document.createElementNS(SVG, 'g');
  let x = 12;
  for (const one of host.querySelectorAll('.apexcharts-legend-series')) {
    const name = one.querySelector('.apexcharts-legend-text')?.textContent.trim() ?? '';
    // The library draws a mark round its own middle.
    const mark = one.querySelector('.apexcharts-legend-marker path')?.cloneNode(true) as SVGPathElement | undefined;
    mark?.removeAttribute('style');
    mark?.setAttribute('transform', `translate(${x} 14)`);
    const words = document.createElementNS(SVG, 'text');
    const style = { x: x + 12, y: 18, 'font-size': 12, 'font-family': 'Andika, sans-serif', fill: '#22303c' };
    for (const [key, value] of Object.entries(style)) words.setAttribute(key, String(value));
    words.textContent = name;
    legend.append(...(mark ? [mark] : []), words);
    x += 36 + 7 * name.length;
  }
  return legend;
}

/** A chart's drawing as an SVG of its own: lines, letters and the names of its series, without what only a page can show. */
export function svgOf(host: HTMLElement): { svg: string; width: number; height: number } | null {
  const drawn = host.querySelector<SVGSVGElement>('svg.apexcharts-svg');
  if (!drawn) return null;
  const copy = drawn.cloneNode(true) as SVGSVGElement;
  for (const part of copy.querySelectorAll('foreignObject, script, style')) part.remove();
  const [width, height] = ['width', 'height'].map((name) => parseFloat(drawn.getAttribute(name) ?? '') || 1) as [
    number,
    number,
  ];
  copy.append(legendOf(host));
  copy.setAttribute('xmlns', SVG);
  copy.setAttribute('viewBox', `0 0 ${width} ${height}`);
  copy.removeAttribute('style');
  return { svg: new XMLSerializer().serializeToString(copy), width, height };
}

async function pngOf({ svg, width, height }: { svg: string; width: number; height: number }): Promise<Blob> {
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = SCALE * width;
  canvas.height = SCALE * height;
  const paper = canvas.getContext('2d');
  if (!paper) throw new Error('this browser draws no pictures');
  paper.fillStyle = '#fff';
  paper.fillRect(0, 0, canvas.width, canvas.height);
  paper.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((done, fail) =>
    canvas.toBlob((blob) => (blob ? done(blob) : fail(new Error('this browser makes no PNG'))), 'image/png'),
  );
}

/** Saves the chart beside it. */
@Component({
  selector: 'vane-save-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    <button
      i18n
      matButton
      type="button"
      [disabled]="!from().drawn()"
      (click)="save('svg')"
      [attr.aria-label]="labels.saveAsSvg(name())"
    >
      Save as SVG
    </button>
    <button
      i18n
      matButton
      type="button"
      [disabled]="!from().drawn()"
      (click)="save('png')"
      [attr.aria-label]="labels.saveAsPng(name())"
    >
      Save as PNG
    </button>
    @if (trouble()) {
      <span role="alert">{{ trouble() }}</span>
    }
  `,
})
export class SaveChart {
  readonly labels = labels;
  readonly from = input.required<Chart>();
  readonly name = input.required<string>();
  readonly trouble = signal('');

  save(form: 'svg' | 'png'): void {
    this.trouble.set('');
    const host = this.from().drawn();
    const drawn = host && svgOf(host);
    if (!drawn) return this.trouble.set($localize`There is no chart to save.`);
    if (form === 'svg') return saveFile(`${this.name()}.svg`, drawn.svg, 'image/svg+xml');
    pngOf(drawn).then(
      (png) => saveFile(`${this.name()}.png`, png, 'image/png'),
      (error: unknown) => this.trouble.set(error instanceof Error ? error.message : String(error)),
    );
  }
}
