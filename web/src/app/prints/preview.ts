import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { OPEN_PDF, type PdfPages } from './pdfPages';

/** Most pages drawn; how many more there are is said. */
const MOST_PAGES_DRAWN = 12;

/** The pages of a PDF, as they will be printed. */
@Component({
  selector: 'vane-preview',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div #pages class="pages" role="img" [attr.aria-label]="words()"></div>
    <p role="status">{{ words() }}</p>
  `,
  styles: `
    .pages {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
      gap: 14px;
      align-items: start;
    }
    :host ::ng-deep canvas {
      width: 100%;
      background: #fff;
      border: 1px solid var(--sand);
    }
    p {
      font-size: 15px;
      margin: 8px 0 0;
    }
  `,
})
export class Preview {
  readonly #open = inject(OPEN_PDF);
  readonly pdf = input.required<ArrayBuffer>();
  readonly pages = viewChild.required<ElementRef<HTMLElement>>('pages');
  readonly words = signal('');
  #shown: PdfPages | null = null;
  /** Counts the prints asked for: a slow one must not overwrite a newer one. */
  #turn = 0;

  constructor() {
    effect(() => void this.#show(this.pdf()));
    inject(DestroyRef).onDestroy(() => {
      this.#turn++;
      void this.#shown?.close();
    });
  }

  async #show(pdf: ArrayBuffer): Promise<void> {
    const turn = ++this.#turn;
    this.words.set($localize`Drawing the pages …`);
    try {
      const opened = await this.#open(pdf);
      if (turn !== this.#turn) return await opened.close();
      await this.#shown?.close();
      this.#shown = opened;
      for (let page = 1; page <= Math.min(opened.count, MOST_PAGES_DRAWN); page++) {
        const canvas = document.createElement('canvas');
        await opened.draw(page, canvas, opened.count === 1 ? 640 : 420);
        if (turn !== this.#turn) return;
        const pages = this.pages().nativeElement;
        // Until the first page of this print is drawn, those of the one before stay.
        if (page === 1) pages.replaceChildren(canvas);
        else pages.append(canvas);
      }
      this.words.set(toldOf(opened.count));
    } catch {
      // Closed for a newer one while it was being drawn, or what draws it did not come.
      if (turn !== this.#turn) return;
      this.pages().nativeElement.replaceChildren();
      this.words.set($localize`The pages could not be drawn here. The file is complete: save it, or open it to print.`);
    }
  }
}

const toldOf = (pages: number): string =>
  pages === 1
    ? $localize`One page.`
    : pages > MOST_PAGES_DRAWN
      ? $localize`${pages} pages; the first ${MOST_PAGES_DRAWN} are shown.`
      : $localize`${pages} pages.`;
