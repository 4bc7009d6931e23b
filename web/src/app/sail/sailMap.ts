import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import type { OverruleView } from '@vane/contract';
import { READING_WORDS, type Reading, type ReadingWord } from '@vane/core';
import { Needle } from './needle';
import { sailRows, type SailPlace, type View } from './sail';
import { words } from '../language/words';

/** The sail: mast at the left, one stick for every whole, a needle at every place where it can be cut. Arrow keys move along it. */
@Component({
  selector: 'vane-sail-map',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Needle],
  template: `
    <div
      class="sail"
      [class.seeing]="view() === 'seeing'"
      role="group"
      i18n-aria-label
      aria-label="Sail map"
      (keydown)="move($event)"
    >
      <div class="row head" aria-hidden="true">
        <span class="label">
          @if (view() !== 'seeing') {
            <ng-container i18n>whole</ng-container>
          }
        </span>
        @for (n of columns(); track n) {
          <span class="column">{{ n }}</span>
        }
      </div>
      @for (row of rows(); track row.label; let r = $index) {
        <div class="row">
          <span class="label" aria-hidden="true">{{ row.label }}</span>
          @for (place of row.places; track place.fact; let c = $index) {
            <button
              type="button"
              [attr.data-at]="r + '-' + c"
              [attr.aria-label]="nameOf(place)"
              [class.overruled]="wordOf(place.fact) !== null"
              [attr.aria-pressed]="place.fact === chosen()"
              [tabindex]="place.fact === stop() ? 0 : -1"
              (click)="choose.emit(place.fact)"
              (focus)="stop.set(place.fact)"
            >
              <vane-needle [reading]="place.reading" [as]="wordOf(place.fact)" [width]="36" />
            </button>
          }
        </div>
      }
    </div>
    <ul class="key" i18n-aria-label aria-label="What the marks mean">
      @for (word of codes; track word) {
        <li><vane-needle [as]="word" [width]="30" /> {{ wordsOf[word] }}</li>
      }
      <li>
        <vane-needle [as]="'knows'" [light]="true" [width]="30" />
        <ng-container i18n>thin: one answer or one day so far</ng-container>
      </li>
    </ul>
  `,
  styles: `
    .row {
      display: flex;
      align-items: stretch;
      height: 44px;
    }
    .head {
      height: 26px;
      font-size: 14px;
      color: var(--faint);
    }
    .label {
      width: 56px;
      flex: none;
      align-self: center;
      font: 18px var(--numeral);
      color: var(--faint);
    }
    .head .label {
      font: 14px var(--plain);
    }
    .seeing .label {
      width: 124px;
      font: 16px var(--plain);
    }
    .seeing .row {
      height: 64px;
    }
    .seeing .head {
      height: 26px;
    }
    .column {
      width: 46px;
      flex: none;
      text-align: center;
    }
    button {
      width: 46px;
      flex: none;
      display: grid;
      place-items: center;
      padding: 0;
      border: 0;
      background: linear-gradient(var(--sand), var(--sand)) 0 100% / 100% 4px no-repeat;
      cursor: pointer;
    }
    .seeing button {
      width: 46px;
    }
    button.overruled {
      outline: 2px dotted var(--plum);
      outline-offset: -4px;
    }
    button:hover {
      background-color: var(--foam);
    }
    button[aria-pressed='true'] {
      background-color: var(--foam);
      box-shadow: inset 0 0 0 2px var(--tide);
    }
    .key {
      list-style: none;
      display: flex;
      flex-wrap: wrap;
      gap: 2px 22px;
      padding: 0;
      margin: 16px 0 0;
      color: var(--faint);
      font-size: 15px;
    }
    .key li {
      display: flex;
      align-items: center;
      gap: 6px;
    }
    @media (max-width: 620px) {
      .sail {
        overflow-x: auto;
      }
    }
  `,
})
export class SailMap {
  readonly #host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly view = input.required<View>();
  readonly readings = input.required<readonly Reading[]>();
  /** The teacher's own words: drawn in place of Vane's, and marked as such. */
  readonly overrules = input<readonly OverruleView[]>([]);
  readonly chosen = input<string | null>(null);
  readonly choose = output<string>();

  readonly codes = READING_WORDS;
  readonly wordsOf = words.readings.readings;
  readonly rows = computed(() => sailRows(this.view(), this.readings()));
  readonly columns = computed(() => Array.from({ length: 11 }, (_, n) => n));
  /** The one place that Tab stops at. */
  readonly stop = linkedSignal(() => this.chosen() ?? this.rows()[0]?.places[0]?.fact ?? '');

  wordOf(fact: string): ReadingWord | null {
    return this.overrules().find((o) => o.fact === fact)?.reading ?? null;
  }

  nameOf(place: SailPlace): string {
    const reading = place.reading;
    const own = this.wordOf(place.fact);
    const said = reading
      ? `${words.readings.reading(reading)}, ${words.readings.sureness(reading)}`
      : $localize`not asked yet`;
    const name = `${words.fact(place.fact)}: ${said}`;
    return own ? $localize`${name}; a teacher says ${words.readings.readings[own]}` : name;
  }

  move(event: KeyboardEvent): void {
    const at = (event.target as HTMLElement).dataset['at']?.split('-').map(Number);
    const step = { ArrowRight: [0, 1], ArrowLeft: [0, -1], ArrowDown: [1, 0], ArrowUp: [-1, 0] }[event.key];
    if (!at || !step) return;
    event.preventDefault();
    const r = (at[0] ?? 0) + (step[0] ?? 0);
    const row = this.rows()[r];
    if (!row) return;
    const c = Math.max(0, Math.min(row.places.length - 1, (at[1] ?? 0) + (step[1] ?? 0)));
    this.#host.nativeElement.querySelector<HTMLElement>(`[data-at="${r}-${c}"]`)?.focus();
  }
}
