import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import { drawPicture, type Counters, type Want } from '@vane/core';
import { carpetWords } from '../../language/carpetWords';
import { labels } from '../../language/labels';

/** A row of items with a place to cut between any two; presses are heard by the carpet, so that they are timed. */
@Component({
  selector: 'vane-cut-answer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="row">
      @for (item of items(); track item) {
        <span class="item" [innerHTML]="counter()"></span>
        @if (!$last) {
          <button
            type="button"
            [attr.data-number]="item"
            [attr.aria-label]="labels.cutAfter(item)"
            [disabled]="want().cuts.includes(item)"
          ></button>
        }
      }
    </div>
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
      display: grid;
      place-items: center;
      background: var(--stage);
      color: var(--stage-ink);
    }
    .row {
      display: flex;
      align-items: center;
      justify-content: center;
      width: 94%;
    }
    .item {
      flex: 0 1 112px;
      min-width: 0;
    }
    .item ::ng-deep svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    button {
      flex: 0 1 72px;
      min-width: 26px;
      height: 200px;
      border: 0;
      padding: 0;
      cursor: pointer;
      background: linear-gradient(currentColor, currentColor) center / 3px 46% no-repeat;
      color: color-mix(in srgb, var(--stage-ink) 34%, transparent);
    }
    button:focus-visible {
      outline: 4px solid var(--lamp);
    }
    button:disabled {
      background: none;
      cursor: default;
    }
  `,
})
export class CutAnswer {
  readonly labels = labels;
  readonly #sanitizer = inject(DomSanitizer);
  readonly want = input.required<Extract<Want, { by: 'cut' }>>();
  readonly counters = input.required<Counters>();
  readonly items = computed(() => Array.from({ length: this.want().count }, (_, i) => i + 1));
  readonly counter = computed(() =>
    this.#sanitizer.bypassSecurityTrustHtml(
      drawPicture({ show: 'counter', counters: this.counters() }, carpetWords.pictures).svg,
    ),
  );
}
