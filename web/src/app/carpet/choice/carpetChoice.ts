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
import { MatExpansionModule } from '@angular/material/expansion';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { DEFAULT_CARPET, type CarpetSettings, type ChildView } from '@vane/contract';
import {
  putFor,
  cautionsOf,
  OPTION_NAMES,
  routineOf,
  SEEN_LAYOUTS,
  shelfEntry,
  warmUpNeeded,
  WORD_CHOICES,
  valuesOf,
  type Choice,
  type OptionName,
  type WarmUp,
  type Need,
  type Words,
} from '@vane/core';
import { FirstVisit } from '../../parts/firstVisit';
import { NoChildren } from '../../parts/noChildren';
import { carpetWords } from '../../language/carpetWords';
import { words } from '../../language/words';
import { DevicePreferences } from '../../device/devicePreferences';
import type { Chosen } from '../sitting/sittingWish';
import { differences, EXPOSURES, MODES, READIES, SCREEN_WORDS } from './differences';
import { Shelf } from './shelf';
import { ShelfPicture } from './shelfPicture';

const WORD_NAMES: Record<keyof Words, string> = {
  whole: $localize`the whole`,
  part: $localize`some of it`,
  pair: $localize`two parts of it`,
  plus: $localize`plus sign`,
  minus: $localize`minus sign`,
  equals: $localize`equals sign`,
  things: 'counters',
  frame: 'frame',
};

const WARM_UP_WORDS: Record<WarmUp, string> = {
  copies: $localize`Four numbers to copy come first: they measure this child’s hand time. Without it, a slow hand looks like counting.`,
  counts: $localize`Four sets to count come first: they measure this child’s own counting pace.`,
  none: $localize`No warm-up: Vane uses what it measured for this child before.`,
};

/** Who sits, and how: each choice with its reason. */
@Component({
  selector: 'vane-carpet-choice',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FirstVisit,
    MatButtonModule,
    MatButtonToggleModule,
    MatExpansionModule,
    MatFormFieldModule,
    MatSelectModule,
    NoChildren,
    Shelf,
    ShelfPicture,
  ],
  templateUrl: './carpetChoice.html',
  styleUrl: './carpetChoice.scss',
})
export class CarpetChoice {
  readonly device = inject(DevicePreferences);
  readonly children = input.required<readonly ChildView[]>();
  readonly settings = input.required<CarpetSettings | null>();
  readonly childId = input<string>();
  /** Who else works in the planned session, and what it is for; null without a plan. */
  readonly others = input<readonly string[]>([]);
  readonly planned = input<readonly Need[] | null>(null);
  /** Routines of the class, the last used first. */
  readonly used = input<readonly string[]>([]);
  readonly className = input('');
  readonly begin = output<Chosen>();

  readonly exposures = EXPOSURES;
  readonly readies = READIES;
  readonly layouts = SEEN_LAYOUTS;
  readonly wholes = [2, 3, 4, 5, 6, 7, 8, 9, 10];
  readonly wordChoices = Object.entries(WORD_CHOICES).map(([word, choices]) => ({
    word: word as keyof Words,
    choices,
  }));
  readonly wordNames = WORD_NAMES;
  readonly routine = computed(() => routineOf(this.form().routine));
  readonly told = computed(() => {
    const own = carpetWords.routines[this.routine().id];
    const needs = this.planned();
    return needs !== null && this.routine().id === 'planned' ? { ...own, title: words.plan.title(needs) } : own;
  });
  /** What stands on the stage, and whether what comes back is judged, as things are set. */
  readonly entry = computed(() => {
    const form = this.form();
    const own = { facts: [], sitters: 1, workingNumber: null, times: null, warmUp: 'none' as const };
    return shelfEntry(this.routine(), { ...form, ...own, things: form.words.things });
  });
  readonly steps = computed(() =>
    words.capital(
      this.entry()
        .steps.map((step) => carpetWords.steps[step])
        .join(' · '),
    ),
  );
  /** What is set otherwise than usual, in words. */
  readonly differs = computed(() => words.listed(differences(this.form(), this.routine())));
  readonly modes = MODES;
  readonly modeWhy = computed(() => MODES.find(({ mode }) => mode === this.form().answerMode)?.why ?? '');
  /** The options of this routine, each with its values and its reason. */
  readonly options = computed(() =>
    OPTION_NAMES.filter((name) => this.has(name)).map((name) => ({
      name,
      title: carpetWords.options[name].title,
      why: carpetWords.options[name].why,
      values: valuesOf(name).map((value, i) => {
        const own = (carpetWords.options[name].values as Readonly<Record<string, string>>)[value];
        return { value, words: i === 0 ? $localize`${own} (usual)` : own };
      }),
    })),
  );
  readonly cautions = computed(() =>
    cautionsOf(this.routine(), this.form().options).map((caution) => carpetWords.cautions[caution]),
  );
  readonly choral = signal(false);
  readonly layoutWords = words.layouts;
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
    if (this.choral()) return $localize`the whole class`;
    const names = this.sitters().map((c) => c.nickname);
    if (names.length > 3) return words.counted.children(names.length);
    return words.listed(names);
  });
  /** What will be put first to the first child: what was chosen, or what Vane knows too little of. */
  readonly warmUp = computed((): WarmUp => {
    const child = this.chosen();
    return child ? this.#warmUpOf(child) : 'none';
  });
  readonly #warmUpOf = (child: ChildView): WarmUp => {
    const wanted = this.wantedWarmUp();
    if (this.routine().untimed) return 'none';
    return wanted === 'needed' ? warmUpNeeded(child.measures, putFor(this.form(), child.support).answerMode) : wanted;
  };
  readonly screenWhy = computed(() => SCREEN_WORDS[this.form().screens].why);
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
