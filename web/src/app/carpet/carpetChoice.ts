import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { DEFAULT_CARPET, type CarpetSettings, type ChildView } from '@vane/contract';
import {
  cautionsOf,
  OPTION_NAMES,
  OPTIONS,
  ROUTINE_GROUPS,
  ROUTINES,
  routineOf,
  SEEN_LAYOUTS,
  warmUpNeeded,
  WORD_CHOICES,
  CAUTION_WORDS,
  LAYOUT_WORDS,
  type Choice,
  type OptionName,
  type WarmUp,
  type Words,
} from '@vane/core';
import { NoChildren } from '../parts/noChildren';
import { inLetters, listed } from '../parts/plainWords';
import { DevicePreferences } from '../device/devicePreferences';
import type { Chosen } from './sitting/sittingWish';

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

const WORD_NAMES: Record<keyof Words, string> = {
  whole: 'all of it',
  part: 'some of it',
  pair: 'two parts of it',
  plus: 'plus sign',
  minus: 'minus sign',
  equals: 'equals sign',
  things: 'counters',
  frame: 'frame',
};

const MODES: readonly { readonly mode: CarpetSettings['answerMode']; readonly words: string; readonly why: string }[] =
  [
    {
      mode: 'tap',
      words: 'the child taps',
      why: 'The numbers are in view from the start, so finding one costs the same every time.',
    },
    {
      mode: 'spoken',
      words: 'speaks, you mark',
      why: 'Press Space, or the wide button, at the moment the child speaks; then the number. Your own delay is measured with the child’s hand.',
    },
    {
      mode: 'show',
      words: 'shows fingers, you mark',
      why: 'Press when the fingers are out, then the number. Fingers are an answer here, not a sign of counting.',
    },
    {
      mode: 'write',
      words: 'writes, you mark',
      why: 'Press when the child begins to write, then the number. A numeral turned round is a slip of the pen, not of the number.',
    },
    {
      mode: 'pad',
      words: 'presses an answer pad',
      why: 'Eleven buttons, 0 to 10: a controller or keyboard in front of the child, or the simulated pad. Its delay is measured with the child’s hand.',
    },
    {
      mode: 'voice',
      words: 'speaks to the voice key',
      why: 'The microphone hears when the child begins, by level alone, and stops the clock; you mark what was said. Nothing is recorded or sent. A simulated voice is there to try it.',
    },
  ];

const WARM_UP_WORDS: Record<WarmUp, string> = {
  copies:
    'Four numbers to copy come first: they measure this child’s hand. Without it, a slow hand looks like counting.',
  counts: 'Four sets to count come first: they measure this child’s own counting pace.',
  none: 'No warm-up: Vane goes by what it has measured of this child before.',
};

const SCREEN_WORDS: Record<CarpetSettings['screens'], string> = {
  one: 'The stage and your controls lie side by side.',
  two: 'The other screen shows the stage alone, and measures there. A code joins the two; what you mark here is carried to its clock.',
  alone:
    'The child shows each question itself and answers by tapping or building. You see what comes, and can mark, pause and end.',
};

/** Who sits, and how: each choice with its reason. */
@Component({
  selector: 'vane-carpet-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatButtonToggleModule, MatFormFieldModule, MatSelectModule, NoChildren],
  templateUrl: './carpetChoice.html',
  styleUrl: './carpetChoice.scss',
})
export class CarpetChoice {
  readonly device = inject(DevicePreferences);
  readonly children = input.required<readonly ChildView[]>();
  readonly settings = input.required<CarpetSettings | null>();
  readonly childId = input<string>();
  /** Who else sits, as the plan has it, and whether there is a plan to follow. */
  readonly others = input<readonly string[]>([]);
  readonly planned = input(false);
  readonly begin = output<Chosen>();

  readonly exposures = EXPOSURES;
  readonly layouts = SEEN_LAYOUTS;
  readonly groups = computed(() =>
    ROUTINE_GROUPS.map((group) => ({
      group,
      routines: ROUTINES.filter((one) => one.group === group && (one.id !== 'planned' || this.planned())),
    })),
  );
  readonly wholes = [2, 3, 4, 5, 6, 7, 8, 9, 10];
  readonly wordChoices = Object.entries(WORD_CHOICES).map(([word, choices]) => ({
    word: word as keyof Words,
    choices,
  }));
  readonly wordNames = WORD_NAMES;
  readonly routine = computed(() => routineOf(this.form().routine));
  readonly modes = MODES;
  readonly modeWhy = computed(() => MODES.find(({ mode }) => mode === this.form().answerMode)?.why ?? '');
  /** The options of this routine, each with its values and its reason. */
  readonly options = computed(() =>
    OPTION_NAMES.filter((name) => this.has(name)).map((name) => ({
      name,
      ...OPTIONS[name],
      values: Object.entries(OPTIONS[name].values).map(([value, words], i) => ({
        value,
        words: i === 0 ? `${words} (usual)` : words,
      })),
    })),
  );
  readonly cautions = computed(() =>
    cautionsOf(this.routine(), this.form().options).map((caution) => CAUTION_WORDS[caution]),
  );
  readonly choral = signal(false);
  readonly layoutWords = LAYOUT_WORDS;
  readonly lengths = [5, 10, 15, 20];
  readonly chosenId = linkedSignal(() => this.childId() ?? this.children()[0]?.id ?? '');
  readonly form = linkedSignal(() => this.settings() ?? DEFAULT_CARPET);
  readonly wantedWarmUp = signal<WarmUp | 'needed'>('needed');
  /** Others who sit in turn with the first. */
  readonly othersIds = linkedSignal((): readonly string[] => this.others());
  readonly sitters = computed(() => {
    const first = this.chosen();
    return first === null
      ? []
      : [first, ...this.children().filter((c) => c.id !== first.id && this.othersIds().includes(c.id))];
  });
  readonly sitterWords = computed(() => {
    if (this.choral()) return 'the whole class';
    const names = this.sitters().map((c) => c.nickname);
    if (names.length > 3) return `${inLetters(names.length)} children`;
    return listed(names);
  });
  /** What will be put first to the first child: what was chosen, or what Vane knows too little of. */
  readonly warmUp = computed((): WarmUp => {
    const child = this.chosen();
    return child ? this.#warmUpOf(child) : 'none';
  });
  readonly #warmUpOf = (child: ChildView): WarmUp => {
    const wanted = this.wantedWarmUp();
    if (this.routine().untimed) return 'none';
    return wanted === 'needed' ? warmUpNeeded(child.measures, this.form().answerMode) : wanted;
  };
  readonly screenWhy = computed(() => SCREEN_WORDS[this.form().screens]);
  readonly warmUpWords = computed(() => WARM_UP_WORDS[this.warmUp()]);
  readonly chosen = computed(() => this.children().find((child) => child.id === this.chosenId()) ?? null);

  has(choice: Choice): boolean {
    return this.routine().choices.includes(choice);
  }

  set(change: Partial<CarpetSettings>): void {
    this.form.update((form) => {
      const next = { ...form, ...change };
      // Pad and voice key belong to the device they are joined to.
      if (next.screens !== 'one' && (next.answerMode === 'pad' || next.answerMode === 'voice'))
        return change.screens === undefined
          ? { ...next, screens: 'one' as const }
          : { ...next, answerMode: next.answerMode === 'pad' ? 'tap' : 'spoken' };
      // The smallest whole is never above the largest: the one that was not touched gives way.
      if (next.wholeFrom <= next.wholeTo) return next;
      return change.wholeFrom === undefined
        ? { ...next, wholeFrom: next.wholeTo }
        : { ...next, wholeTo: next.wholeFrom };
    });
  }

  setOption(name: OptionName, value: string): void {
    this.set({ options: { ...this.form().options, [name]: value } });
  }

  setWord(word: keyof Words, value: string): void {
    this.set({ words: { ...this.form().words, [word]: value } });
  }

  start(): void {
    if (this.sitters().length > 0)
      this.begin.emit({
        children: this.sitters(),
        settings: this.form(),
        choral: this.choral(),
        warmUpOf: this.#warmUpOf,
      });
  }
}
