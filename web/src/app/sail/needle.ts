import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { isFirm, isOpen, type Reading, type ReadingWord } from '@vane/core';

/** Where a needle's tip lies: lean −1 points down, +1 points up; certainty makes it longer. Units of the 40 × 32 picture. */
export function needleTip(
  lean: number,
  certainty: number,
): { readonly x: number; readonly y: number; readonly angle: number } {
  const angle = -lean * 55;
  const length = 12 + 16 * certainty;
  const radians = (angle * Math.PI) / 180;
  return { x: 6 + length * Math.cos(radians), y: 16 + length * 0.52 * Math.sin(radians), angle };
}

/** The drawn reading: angle, length and a mark of its own for every word, so that colour is never the only cue. */
@Component({
  selector: 'vane-needle',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg viewBox="0 0 40 32" [attr.width]="width()" [class.light]="isLight()" aria-hidden="true">
      @switch (word()) {
        @case ('knows') {
          <g class="tide">
            <path [attr.d]="shaft()" />
            <path [attr.d]="head()" class="full" />
            <circle cx="6" cy="16" r="2" class="full" />
          </g>
        }
        @case ('works out') {
          <g class="plum">
            <path [attr.d]="shaft()" />
            <path [attr.d]="halfHead()" class="full" />
            <path d="M6 12v8" />
          </g>
        }
        @case ('counts') {
          <g class="lamp">
            <circle cx="8" cy="16" r="4" class="full" />
            @for (bead of beads(); track $index) {
              <circle [attr.cx]="bead.x" [attr.cy]="bead.y" r="3.4" />
            }
          </g>
        }
        @case ('in between') {
          <g class="ink">
            <path d="M6 16l7-6 7 6-7 6z" />
            <path [attr.d]="lean()" class="thin" />
          </g>
        }
        @case ('not yet') {
          <g class="ink"><path d="M12 9l14 14M26 9L12 23" /></g>
        }
        @default {
          <g class="faint">
            <circle cx="19" cy="16" r="2.6" class="full" />
            @if (reading()) {
              <path [attr.d]="hint()" class="thin" />
            }
          </g>
        }
      }
    </svg>
  `,
  styles: `
    :host {
      display: inline-flex;
    }
    g {
      fill: none;
      stroke: currentColor;
      stroke-width: 2.4;
      stroke-linecap: round;
      stroke-linejoin: round;
    }
    .full {
      fill: currentColor;
      stroke-width: 1;
    }
    /* One answer so far, or one day: drawn in outline, and thin. */
    .light g {
      stroke-width: 1.4;
    }
    .light .full {
      fill: none;
      stroke-width: 1.2;
    }
    .thin {
      stroke-width: 1.4;
    }
    .tide {
      color: var(--tide);
    }
    .plum {
      color: var(--plum);
    }
    .lamp {
      color: var(--lamp);
    }
    .ink {
      color: var(--ink);
    }
    .faint {
      color: var(--faint);
    }
  `,
})
export class Needle {
  readonly reading = input<Reading | null>(null);
  /** For the key: a word without a reading. */
  readonly as = input<ReadingWord | null>(null);
  /** For the key: drawn as a word that rests on one answer. */
  readonly light = input(false);
  readonly width = input(40);

  readonly word = computed(() => this.as() ?? this.reading()?.reading ?? 'too few answers');
  /** The word rests on one answer, or on one day. */
  readonly isLight = computed(() => {
    const reading = this.reading();
    return this.light() || (this.as() === null && reading !== null && !isOpen(reading.reading) && !isFirm(reading));
  });
  readonly #tip = computed(() => {
    const reading = this.reading();
    if (reading) return needleTip(reading.lean, reading.certainty);
    return needleTip(
      { knows: 0.8, 'works out': 0.2, 'in between': 0, counts: -0.7, 'not yet': -1, 'too few answers': 0 }[this.word()],
      0.9,
    );
  });
  readonly shaft = computed(() => `M6 16L${this.#tip().x} ${this.#tip().y}`);
  readonly head = computed(() => this.#arrow(1, 1));
  readonly halfHead = computed(() => this.#arrow(1, 0));
  readonly beads = computed(() => {
    const { x, y } = this.#tip();
    return [0.55, 1].map((share) => ({ x: 8 + (Math.max(x, 24) - 8) * share, y: 16 + (y - 16) * share }));
  });
  /** Which way it leans, from the lozenge on. */
  readonly lean = computed(() => {
    const { x, y } = this.#tip();
    return `M23 16L${Math.max(x, 31)} ${16 + 0.7 * (y - 16)}`;
  });
  readonly hint = computed(() => {
    const { x, y } = needleTip(this.reading()?.lean ?? 0, 0);
    return `M19 16l${(x - 6) * 0.9} ${(y - 16) * 0.9}`;
  });

  /** A head at the tip with its upper and lower barb, or only one of them. */
  #arrow(upper: number, lower: number): string {
    const { x, y } = this.#tip();
    const along = Math.atan2(y - 16, x - 6);
    const barb = (turn: number): string => `${x - 9 * Math.cos(along + turn)} ${y - 9 * Math.sin(along + turn)}`;
    return `M${x} ${y}L${barb(0.5 * upper)}L${barb(lower === 0 ? 0.02 : -0.5 * lower)}Z`;
  }
}
