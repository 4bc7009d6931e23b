import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { DEFAULT_CARPET, type CarpetSettings, type ChildView } from '@vane/contract';
import { warmUpNeeded, type WarmUp } from '@vane/core';
import { LAYOUT_WORDS } from '../look/words';
import { DevicePreferences } from '../shell/theme';

export interface Chosen {
  readonly child: ChildView;
  readonly settings: CarpetSettings;
  readonly warmUp: WarmUp;
}

const EXPOSURES: readonly { readonly ms: number | null; readonly words: string }[] = [
  { ms: 200, words: '0.2 s' },
  { ms: 350, words: '0.35 s' },
  { ms: 500, words: '0.5 s' },
  { ms: 750, words: '0.75 s' },
  { ms: 1000, words: '1 s' },
  { ms: 1500, words: '1.5 s' },
  { ms: 2000, words: '2 s' },
  { ms: 3000, words: '3 s' },
  { ms: null, words: 'it stays until the answer' },
];

const WARM_UP_WORDS: Record<WarmUp, string> = {
  copies: 'Four numbers to copy come first: they measure this child’s hand. Without it, a slow hand looks like counting.',
  counts: 'Four sets to count come first: they measure this child’s own counting pace.',
  none: 'No warm-up: Vane goes by what it has measured of this child before.',
};

/** Who sits, and how: each choice with its reason. */
@Component({
  selector: 'vane-carpet-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatButtonToggleModule, MatFormFieldModule, MatSelectModule],
  templateUrl: './carpetChoice.html',
  styleUrl: './carpetChoice.scss',
})
export class CarpetChoice {
  readonly device = inject(DevicePreferences);
  readonly children = input.required<readonly ChildView[]>();
  readonly settings = input.required<CarpetSettings | null>();
  readonly childId = input<string>();
  readonly begin = output<Chosen>();

  readonly exposures = EXPOSURES;
  readonly layouts = ['five', 'frame-fives', 'frame-pairs'] as const;
  readonly layoutWords = LAYOUT_WORDS;
  readonly lengths = [5, 10, 15, 20];
  readonly chosenId = linkedSignal(() => this.childId() ?? this.children()[0]?.id ?? '');
  readonly form = linkedSignal(() => this.settings() ?? DEFAULT_CARPET);
  readonly wantedWarmUp = signal<WarmUp | 'needed'>('needed');
  /** What will be put first: what was chosen, or what Vane knows too little of. */
  readonly warmUp = computed((): WarmUp => {
    const wanted = this.wantedWarmUp();
    const child = this.chosen();
    if (wanted !== 'needed') return wanted;
    return child ? warmUpNeeded(child.measures, this.form().answerMode) : 'none';
  });
  readonly warmUpWords = computed(() => WARM_UP_WORDS[this.warmUp()]);
  readonly chosen = computed(() => this.children().find((child) => child.id === this.chosenId()) ?? null);

  set(change: Partial<CarpetSettings>): void {
    this.form.update((form) => ({ ...form, ...change }));
  }

  start(): void {
    const child = this.chosen();
    if (child) this.begin.emit({ child, settings: this.form(), warmUp: this.warmUp() });
  }
}
