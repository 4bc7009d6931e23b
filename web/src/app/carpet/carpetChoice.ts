import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { DEFAULT_CARPET, type CarpetSettings, type ChildView } from '@vane/contract';
import { ROUTINES, routineOf, SEEN_LAYOUTS, warmUpNeeded, WORD_CHOICES, type Choice, type RoutineGroup, type WarmUp, type Words } from '@vane/core';
import { inLetters, LAYOUT_WORDS } from '../look/words';
import { DevicePreferences } from '../shell/theme';

export interface Chosen {
  readonly children: readonly ChildView[];
  readonly settings: CarpetSettings;
  readonly warmUpOf: (child: ChildView) => WarmUp;
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

const GROUPS: readonly RoutineGroup[] = ['seeing', 'the frame and ten', 'pairs', 'facts'];
const WORD_NAMES: Record<keyof Words, string> = {
  whole: 'all of it',
  plus: 'plus sign',
  minus: 'minus sign',
  equals: 'equals sign',
  things: 'counters',
};

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
  readonly layouts = SEEN_LAYOUTS;
  readonly groups = GROUPS.map((group) => ({ group, routines: ROUTINES.filter((routine) => routine.group === group) }));
  readonly wholes = [2, 3, 4, 5, 6, 7, 8, 9, 10];
  readonly wordChoices = Object.entries(WORD_CHOICES).map(([word, choices]) => ({ word: word as keyof Words, choices }));
  readonly wordNames = WORD_NAMES;
  readonly routine = computed(() => routineOf(this.form().routine));
  readonly layoutWords = LAYOUT_WORDS;
  readonly lengths = [5, 10, 15, 20];
  readonly chosenId = linkedSignal(() => this.childId() ?? this.children()[0]?.id ?? '');
  readonly form = linkedSignal(() => this.settings() ?? DEFAULT_CARPET);
  readonly wantedWarmUp = signal<WarmUp | 'needed'>('needed');
  /** Others who sit in turn with the first. */
  readonly othersIds = signal<readonly string[]>([]);
  readonly sitters = computed(() => {
    const first = this.chosen();
    return first === null ? [] : [first, ...this.children().filter((c) => c.id !== first.id && this.othersIds().includes(c.id))];
  });
  readonly sitterWords = computed(() => {
    const names = this.sitters().map((c) => c.nickname);
    if (names.length > 3) return `${inLetters(names.length)} children`;
    return names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;
  });
  /** What will be put first to the first child: what was chosen, or what Vane knows too little of. */
  readonly warmUp = computed((): WarmUp => {
    const child = this.chosen();
    return child ? this.#warmUpOf(child) : 'none';
  });
  readonly #warmUpOf = (child: ChildView): WarmUp => {
    const wanted = this.wantedWarmUp();
    return wanted === 'needed' ? warmUpNeeded(child.measures, this.form().answerMode) : wanted;
  };
  readonly warmUpWords = computed(() => WARM_UP_WORDS[this.warmUp()]);
  readonly chosen = computed(() => this.children().find((child) => child.id === this.chosenId()) ?? null);

  has(choice: Choice): boolean {
    return this.routine().choices.includes(choice);
  }

  set(change: Partial<CarpetSettings>): void {
    this.form.update((form) => {
      const next = { ...form, ...change };
      // The smallest whole is never above the largest: the one that was not touched gives way.
      if (next.wholeFrom <= next.wholeTo) return next;
      return change.wholeFrom === undefined ? { ...next, wholeFrom: next.wholeTo } : { ...next, wholeTo: next.wholeFrom };
    });
  }

  setWord(word: keyof Words, value: string): void {
    this.set({ words: { ...this.form().words, [word]: value } });
  }

  start(): void {
    if (this.sitters().length > 0) this.begin.emit({ children: this.sitters(), settings: this.form(), warmUpOf: this.#warmUpOf });
  }
}
