import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, untracked } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatExpansionModule } from '@angular/material/expansion';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { map, merge } from 'rxjs';
import { DEFAULT_CARPET, type CarpetSettings, type ChildView } from '@vane/contract';
import {
  applySupport,
  cautionsOf,
  OPTION_NAMES,
  routineOf,
  SEEN_LAYOUTS,
  shelfEntry,
  warmUpNeeded,
  WORD_CHOICES,
  valuesOf,
  type Choice,
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
import { SetUps } from './setUps';
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
  copies: $localize`A few numbers to name come between the questions: they measure how long an answer takes this child with nothing to work out.`,
  counts: $localize`Four sets to count come between the questions: they measure this child’s own counting pace.`,
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
    ReactiveFormsModule,
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

  readonly #setUps = inject(SetUps);
  readonly #fill = inject(NonNullableFormBuilder);
  readonly fields = this.#fill.group({
    ...DEFAULT_CARPET,
    words: this.#fill.group(DEFAULT_CARPET.words),
    options: this.#fill.group(DEFAULT_CARPET.options),
  });
  readonly form = toSignal(this.fields.valueChanges.pipe(map((): CarpetSettings => this.fields.getRawValue())), {
    initialValue: DEFAULT_CARPET,
  });
  /** Who sits: one child, and others in turn; or all at once. */
  readonly who = this.#fill.group({
    choral: false,
    child: '',
    others: this.#fill.control<readonly string[]>([]),
    warmUp: this.#fill.control<WarmUp | 'needed'>('needed'),
  });
  readonly wanted = toSignal(this.who.valueChanges.pipe(map(() => this.who.getRawValue())), {
    initialValue: this.who.getRawValue(),
  });

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
  readonly layoutWords = words.layouts;
  /** Numbers of cards to choose from: fewer where one card is several questions. */
  readonly lengths = computed(() => (this.routine().usualCards === undefined ? [5, 10, 15, 20] : [1, 2, 3, 4, 5, 8]));
  readonly sitters = computed(() => {
    const first = this.chosen();
    return first === null
      ? []
      : [first, ...this.children().filter((c) => c.id !== first.id && this.wanted().others.includes(c.id))];
  });
  readonly sitterWords = computed(() => {
    if (this.wanted().choral) return $localize`the whole class`;
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
    const wanted = this.wanted().warmUp;
    if (this.routine().untimed) return 'none';
    return wanted === 'needed'
      ? warmUpNeeded(child.measures, applySupport(this.form(), child.support).answerMode)
      : wanted;
  };
  readonly screenWhy = computed(() => SCREEN_WORDS[this.form().screens].why);
  readonly warmUpWords = computed(() => WARM_UP_WORDS[this.warmUp()]);
  readonly chosen = computed(() => this.children().find((child) => child.id === this.wanted().child) ?? null);

  constructor() {
    const { answerMode, screens, wholeFrom, wholeTo } = this.fields.controls;
    // What the class uses, until the teacher has touched anything: its record may be loaded again in between. Another class begins anew.
    let of: string | null = null;
    effect(() => {
      const settings = this.settings() ?? DEFAULT_CARPET;
      const [child, others] = [this.childId() ?? this.children()[0]?.id ?? '', this.others()];
      const another = of !== this.className();
      of = this.className();
      untracked(() => {
        if (another || this.fields.pristine) this.fields.reset({ ...settings, ...this.#setUps.last(settings.routine) });
        if (another || this.who.pristine) this.who.reset({ child, others });
      });
    });
    // The smallest whole is never above the largest: the one that was not touched gives way.
    const wholes = merge(
      wholeFrom.valueChanges.pipe(map((from) => [wholeTo, from, wholeTo.value < from] as const)),
      wholeTo.valueChanges.pipe(map((to) => [wholeFrom, to, wholeFrom.value > to] as const)),
    );
    wholes.pipe(takeUntilDestroyed()).subscribe(([other, n, crossed]) => crossed && other.setValue(n));
    // Pad and voice key belong to the device they are joined to.
    const joined = (): boolean => answerMode.value === 'pad' || answerMode.value === 'voice';
    answerMode.valueChanges
      .pipe(takeUntilDestroyed())
      .subscribe(() => joined() && screens.value !== 'one' && screens.setValue('one'));
    screens.valueChanges
      .pipe(takeUntilDestroyed())
      .subscribe(
        () => joined() && screens.value !== 'one' && answerMode.setValue(answerMode.value === 'pad' ? 'tap' : 'spoken'),
      );
  }

  has(choice: Choice): boolean {
    return this.routine().choices.includes(choice);
  }

  choose(routine: string): void {
    this.fields.patchValue({ routine, ...this.#setUps.of(routine) });
    this.fields.controls.routine.markAsDirty();
  }

  start(): void {
    this.#setUps.keep(this.form());
    if (this.sitters().length > 0)
      this.begin.emit({
        children: this.sitters(),
        settings: this.form(),
        choral: this.wanted().choral,
        warmUpOf: this.#warmUpOf,
      });
  }
}
