import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { Router } from '@angular/router';
import { rightAnswer, tellsAnswer, type Prompt } from '@vane/core';
import { viewOf } from '../sail/sail';
import { carpetWords } from '../language/carpetWords';
import { svgSource } from '../parts/svgSource';
import { words } from '../language/words';
import { DevicePreferences } from '../device/devicePreferences';
import { Waiting } from '../shell/waiting';
import { AnswerPad } from './answers/answerPad';
import { hearPresses } from './answers/presses';
import { StageArea } from './answers/stageArea';
import { Devices } from './devices/devices';
import type { OtherScreen } from './otherScreen/otherScreen';
import { countersOf } from './sitting/counters';
import { KEYS, READ_KEY, THEN_KEYS } from './keys';
import { FRAMES } from './measurement/frameSource';
import { StageRunner } from './measurement/stageRunner';
import { isKept, nextWords, repliesTelling } from './prompts';
import { CHOICE_WORDS, SLIP_WORDS } from './answers/answerWords';
import { FINER_WORDS, SIGN_WORDS } from './answers/signWords';
import type { Sitting } from './sitting/sitting';
import { labels } from '../language/labels';
import type { Sitter } from './sitting/turns';

/** Notes that tell no answer: children may read them. */
const PLAIN_NOTES: readonly Prompt['say'][] = ['warm-up', 'said-already', 'silent'];

/** The running sitting: stage, numbers at its edge, and the adult's strip. Presses are heard by plain listeners, so that nothing is drawn before they are timed. */
@Component({
  selector: 'vane-carpet-run',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AnswerPad, MatButtonModule, MatMenuModule, NgTemplateOutlet, StageArea, Waiting],
  templateUrl: './carpetRun.html',
  providers: [Devices],
  styleUrls: ['./signs.scss', './carpetRun.scss', './pad.scss'],
  host: {
    '[class.left]': "device.side() === 'left'",
    '[attr.data-want]': 'sitting().ask().want.by',
    '[class.larger]': 'larger()',
  },
})
export class CarpetRun {
  readonly labels = labels;
  readonly #host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly #frames = inject(FRAMES);
  readonly #dialog = inject(MatDialog);
  readonly #router = inject(Router);
  readonly device = inject(DevicePreferences);
  readonly sitting = input.required<Sitting>();
  /** A simulated child: the end is the caller's. */
  readonly practice = input(false);
  /** What a planned session is for; empty without a plan. */
  readonly title = input('');
  /** The part of carpet time that comes after this one; empty when it is the last, or stands alone. */
  readonly next = input('');
  readonly onward = output();
  readonly again = output();
  readonly left = output();
  /** The other screen does not come: this one alone is enough. */
  readonly leftOut = output();

  /** The stage on this page; none when it is on another screen. */
  readonly area = viewChild(StageArea);
  /** The other screen, when there is one. */
  readonly far = input<OtherScreen | null>(null);
  /** With the picture elsewhere, what to say now is in the middle of this screen. */
  readonly saysFar = computed(() => this.far()?.code() === '');
  readonly boardAddress = `${location.host}/board`;
  readonly picture = svgSource;
  readonly inPrint = computed(() => {
    const { fact } = this.sitting().ask();
    return fact === null ? '' : words.fact(fact);
  });
  readonly devices = inject(Devices);
  readonly spoken = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10];
  readonly main = viewChild.required<ElementRef<HTMLElement>>('main');

  readonly child = computed(() => this.sitting().child());
  readonly group = computed(() => this.sitting().wish.children.length > 1);
  readonly choral = computed(() => this.sitting().wish.choral);
  readonly options = computed(() => this.sitting().wish.settings.options);
  readonly counters = computed(() => countersOf(this.sitting().wish.settings));
  readonly signs = SIGN_WORDS;
  readonly finerSigns = FINER_WORDS;
  /** The children see this part too: no words, no answers and no tallies stand here, but while they are asked for. */
  readonly inView = computed(() => this.far() === null && !this.practice());
  readonly #peeking = signal(false);
  readonly readable = computed(() => !this.inView() || this.#peeking());
  /** The question is always there to be read; a reply that tells an answer only where no child sees it. */
  readonly sayable = computed(
    () => this.readable() || this.sitting().moment() !== 'answered' || !repliesTelling(this.sitting()),
  );
  /** Something stands here that is read by holding. */
  readonly hidden = computed(
    () =>
      !this.sayable() || (this.sitting().moment() === 'answered' && this.sitting().helps().length > 0) || this.group(),
  );
  readonly words = computed(() => {
    const sitting = this.sitting();
    if (sitting.paused()) return '';
    const pair = sitting.firstPart();
    if (pair !== null) return $localize`${pair} and …`;
    const said = nextWords(sitting, this.child().nickname);
    return this.group() && sitting.moment() === 'ready' ? $localize`${this.child().nickname}’s turn. ${said}` : said;
  });
  /** What is said after that. */
  readonly then = computed(() => {
    const { then } = this.sitting().reply();
    const answered = this.sitting().moment() === 'answered' && this.sitting().marks().help.length === 0;
    if (!answered || then === null || this.sitting().paused() || !isKept(this.sitting())) return '';
    return this.readable() || !tellsAnswer(then) ? carpetWords.prompt(then, this.sitting().wish.settings.words) : '';
  });
  /** For the adult alone: what was there and what was said, how counters were laid, or what belongs to the question. */
  readonly note = computed(() => {
    const sitting = this.sitting();
    const slip = sitting.slip();
    const { note } = sitting.ask();
    if (!this.readable()) return note !== null && PLAIN_NOTES.includes(note.say) ? this.#noted(note) : '';
    if (slip !== null && sitting.moment() === 'answered') return SLIP_WORDS[slip];
    if (sitting.helps().length > 0) return this.#thereWas();
    return note === null ? '' : this.#noted(note);
  });
  #noted(note: Prompt): string {
    return carpetWords.prompt(note, this.sitting().wish.settings.words);
  }
  readonly larger = computed(() => this.child().support?.includes('larger') ?? false);
  /** What the adult does differently for this child. */
  readonly reminder = computed(() =>
    (this.child().support ?? []).map((one) => carpetWords.reminders[one](this.child().nickname)).join(' '),
  );
  #thereWas(): string {
    const there = rightAnswer(this.sitting().ask());
    const given = this.sitting().given() ?? '';
    const shown = (answer: string): string => CHOICE_WORDS[answer] ?? answer;
    if (there === null) return '';
    const { nickname } = this.child();
    return given === ''
      ? $localize`It is ${shown(there)}; ${nickname} gave no answer.`
      : $localize`It is ${shown(there)}; ${nickname} answered ${shown(given)}.`;
  }
  /** After an answer: what would help, or how the child may have done it. */
  readonly helpful = computed(() => {
    const marks = this.sitting().marks();
    const helped = this.sitting()
      .helps()
      .map((help) => ({ words: words.record.helps[help], on: marks.help.includes(help) }));
    const explained = this.sitting()
      .explanations()
      .map((one) => ({ words: words.record.explanations[one], on: marks.explanation === one }));
    return [...helped, ...explained].map((one, i) => ({ ...one, key: THEN_KEYS[i] ?? '' }));
  });
  readonly total = computed(() => this.sitting().line().turns.length);
  readonly warming = computed(() => this.sitting().ask().warmUp);
  /** The child's progress: in their warm-up, or in the routine's own questions. Adaptive routines have no total. */
  readonly place = computed(() => {
    const { turns, index } = this.sitting().line();
    const own = turns.filter((t) => t.child === this.child().id);
    const had = turns.slice(0, index + 1).filter((t) => t.child === this.child().id).length;
    const warm = own.filter((t) => t.ask.warmUp).length;
    const warmed = turns.slice(0, index + 1).filter((t) => t.child === this.child().id && t.ask.warmUp).length;
    if (this.warming()) return $localize`warm-up, ${words.inLetters(warmed)} of ${words.inLetters(warm)}`;
    return this.sitting().wish.open ? String(had - warmed) : $localize`${had - warmed} of ${own.length - warm}`;
  });
  /** One for each card, with all that is asked of it; done when its last question is. */
  readonly ticks = computed(() => {
    const { turns, index } = this.sitting().line();
    if (this.sitting().wish.open) return [];
    const starts = turns.flatMap(({ ask }, i) => (ask.goesOn ? [] : [i]));
    const done = (card: number): boolean => (starts[card + 1] ?? this.total()) <= index;
    return starts.map((_, card) => done(card) || this.sitting().moment() === 'done');
  });
  readonly mainWords = computed(() => {
    if (this.sitting().paused()) return $localize`Continue`;
    switch (this.sitting().moment()) {
      case 'ready':
        if (this.sitting().waiting()) return $localize`Waiting for the other screen`;
        return this.sitting().coming() ? $localize`Here it comes …` : $localize`Show`;
      case 'asking':
        return this.#askingWords();
      case 'stopped':
        return ['number', 'pair'].includes(this.sitting().ask().want.by)
          ? $localize`Enter the number`
          : $localize`Enter the answer`;
      default:
        return this.sitting().wish.open || this.sitting().line().index + 1 < this.total()
          ? $localize`Next`
          : $localize`Finish`;
    }
  });
  readonly spaceWorks = computed(() => {
    const moment = this.sitting().moment();
    if (moment === 'ready') return !this.sitting().waiting();
    if (moment !== 'asking') return moment !== 'stopped';
    const { by } = this.sitting().ask().want;
    return this.choral() || by === 'talk' || by === 'board' || (this.sitting().entered() && by !== 'cut');
  });
  /** Who has something to see afterwards. */
  readonly changed = computed(() => (this.choral() ? [] : this.sitting().line().children));
  /** Who else may have answered: the group first. */
  readonly others = computed(() => {
    const { children, classmates } = this.sitting().wish;
    const sits = (one: Sitter): boolean => children.some(({ id }) => id === one.id);
    const others = classmates.filter((one) => one.id !== this.child().id);
    return [...others.filter(sits), ...others.filter((one) => !sits(one))];
  });

  turnName({ nickname, had, now, away }: ReturnType<Sitting['turnCounts']>[number]): string {
    if (away) return $localize`${nickname}, had ${had}, away: bring back`;
    return now
      ? $localize`${nickname}, had ${had}, to go now: mark as away`
      : $localize`${nickname}, had ${had}:had:: mark as away`;
  }
  #askingWords(): string {
    const { by } = this.sitting().ask().want;
    if (this.choral() || by === 'talk') return $localize`Continue`;
    if (by === 'board') return $localize`Done`;
    if (by === 'cut') return $localize`Waiting for a cut`;
    const { nickname } = this.child();
    switch (this.sitting().mode()) {
      case 'spoken':
      case 'voice':
        return $localize`${nickname} speaks`;
      case 'show':
        return $localize`${nickname} shows`;
      case 'write':
        return $localize`${nickname} writes`;
      case 'pad':
        return $localize`Waiting for the pad`;
      case 'tap':
      case 'build':
        return $localize`Waiting for a tap`;
    }
  }

  constructor() {
    const destroy = inject(DestroyRef);
    const listening = new AbortController();
    destroy.onDestroy(() => listening.abort());
    afterNextRender(() => this.#listen(listening.signal));
    effect(() => {
      const sitting = this.sitting();
      untracked(() => this.devices.attach(sitting));
    });
    // The voice is waited for from before the show on: nothing is done between onset and answer.
    effect(() => {
      if (this.sitting().moment() === 'asking') untracked(() => this.devices.listen());
    });
    effect(() => {
      const sitting = this.sitting();
      const area = this.area();
      if (!area) return;
      sitting.attachBoard(() => untracked(() => area.board()?.board() ?? null));
      // The sitting begins with its stage: what it reads then is no reason for another stage.
      const stage = area.stage().nativeElement;
      untracked(() => sitting.attach(new StageRunner(stage, this.#frames, sitting, performance.timeOrigin)));
    });
  }

  /** Listeners outside the framework: the press is timed by its own stamp and handled at once. */
  #listen(signal: AbortSignal): void {
    const answer = (given: string, at: number): void => this.sitting().answer(given, at);
    hearPresses(this.#host.nativeElement, 'number', signal, answer);
    hearPresses(this.#host.nativeElement, 'pad', signal, (place, at) => this.devices.pressSimulated(Number(place), at));
    hearPresses(this.main().nativeElement, null, signal, (_, at) => this.#main(at));
    window.addEventListener('keydown', (event) => this.#key(event), { signal });
    window.addEventListener('keyup', ({ key }) => key.toLowerCase() === READ_KEY && this.peek(false), { signal });
    window.addEventListener(
      'blur',
      () => {
        // The key's release goes elsewhere.
        this.peek(false);
        this.sitting().disturbed('blurred');
      },
      { signal },
    );
    document.addEventListener('visibilitychange', () => document.hidden && this.sitting().disturbed('hidden'), {
      signal,
    });
  }

  #main(at: number): void {
    if (this.sitting().paused()) this.sitting().togglePause();
    else this.sitting().goOn(at);
  }

  #key(event: KeyboardEvent): void {
    // What closed a dialog was for the dialog, though it may be gone by now.
    if (event.defaultPrevented) return;
    if (
      event.repeat ||
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      this.#dialog.openDialogs.length > 0 ||
      this.sitting().moment() === 'done'
    )
      return;
    if (event.key === '?') return this.showKeys();
    if (event.key.toLowerCase() === READ_KEY) return this.peek(true);
    // Space always belongs to the carpet; Enter is the focused button's own, and reaches it as a click.
    // Past ten a digit is the teen it ends; with Shift it is itself.
    const { want } = this.sitting().ask();
    const pastTen = want.by === 'number' && want.to > 10 && event.shiftKey && !/^\d$/.test(event.key);
    const low = pastTen ? /^Digit(\d)$/.exec(event.code) : null;
    if (low) {
      event.preventDefault();
      return this.sitting().answer(low[1]!, event.timeStamp);
    }
    const entry = KEYS.find((known) => known.key === (event.key.length === 1 ? event.key.toLowerCase() : event.key));
    if (!entry) return;
    event.preventDefault();
    entry.run(this.sitting(), event.timeStamp);
  }

  showKeys(): void {
    void import('./keysDialog').then(({ KeysDialog }) => this.#dialog.open(KeysDialog, { width: '480px' }));
  }

  peek(on: boolean): void {
    this.#peeking.set(on);
  }
  /** From the keyboard or a screen reader there is no holding: one press shows, the next hides. */
  togglePeek({ detail }: MouseEvent): void {
    if (detail === 0) this.#peeking.update((on) => !on);
  }
  showLast(): void {
    const data = this.sitting();
    data.waitByHand();
    void import('./lastAnswers').then(({ LastAnswers }) => this.#dialog.open(LastAnswers, { width: '720px', data }));
  }

  seeChild(id: string): void {
    void this.#router.navigate(['/children', id], { queryParams: { see: viewOf(this.sitting().lastFact()) } });
  }
  toToday(): void {
    void this.#router.navigateByUrl('/today');
  }
}
