import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { factInPrint, type Ask } from '@vane/core';
import { CHOICE_WORDS } from './answerWords';

/** Numbers or choices at the edge of the stage. The parent listens for presses. */
@Component({
  selector: 'vane-answer-pad',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="pad" [class]="kind()" role="group" [attr.aria-label]="padName()">
      @switch (kind()) {
        @case ('choice') {
          @for (one of among(); track one.given) {
            <button
              type="button"
              [attr.data-number]="simulated() ? null : one.given"
              [attr.data-pad]="simulated() ? $index + 1 : null"
              [class.given]="given() === one.given"
            >
              {{ one.words }}
            </button>
          }
        }
        @case ('none') {}
        @default {
          @for (n of numbers(); track n.n) {
            <button
              type="button"
              [attr.data-number]="simulated() ? null : n.n"
              [attr.data-pad]="simulated() ? n.place : null"
              [class]="'n' + n.n"
              [class.given]="isGiven(n.n)"
            >
              {{ n.n }}
            </button>
          }
        }
      }
    </div>
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
  styleUrl: '../pad.scss',
})
export class AnswerPad {
  readonly padName = computed(() => (this.simulated() ? $localize`Simulated answer pad` : $localize`Numbers`));
  readonly ask = input.required<Ask | null>();
  readonly given = input.required<string | null>();
  readonly firstPart = input.required<string | null>();
  /** The buttons stand for those of a pad: a press goes the pad's way. */
  readonly simulated = input(false);

  readonly kind = computed((): 'number' | 'numbers' | 'choice' | 'none' => {
    const want = this.ask()?.want;
    const by = want?.by;
    if (by === 'choice') return 'choice';
    if (want?.by === 'number' && want.to > 10 && !this.simulated()) return 'numbers';
    return by === 'number' || by === 'pair' ? 'number' : 'none';
  });
  readonly among = computed(() => {
    const want = this.ask()?.want;
    return want?.by === 'choice'
      ? want.among.map((given) => ({ given, words: CHOICE_WORDS[given] ?? factInPrint(given) }))
      : [];
  });
  readonly numbers = computed(() => {
    const want = this.ask()?.want;
    const teens = want?.by === 'number' && want.to > 10;
    const places = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 0];
    if (!teens) return places.map((place) => ({ place, n: place }));
    // The places of a pad stand for ten to twenty; on the screen every number can be said.
    const high = places.map((place) => ({ place, n: place + 10 }));
    const low = this.simulated() ? [] : places.filter((n) => n < 10).map((n) => ({ place: n, n }));
    return [...low, ...high].sort((a, b) => (a.n || 100) - (b.n || 100));
  });

  isGiven(n: number): boolean {
    return this.given() === String(n) || this.firstPart() === String(n);
  }
}
