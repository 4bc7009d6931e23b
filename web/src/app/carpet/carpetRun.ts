import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  type ElementRef,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { Router } from '@angular/router';
import { WARM_UPS, type Sign } from '@vane/core';
import { inLetters } from '../look/words';
import { DevicePreferences } from '../shell/theme';
import { Waiting } from '../shell/waiting';
import { KEYS } from './keys';
import { FRAMES } from './measurement/frameSource';
import { StageRunner } from './measurement/stageRunner';
import { nextWords } from './prompts';
import { FINER_SIGNS, type Sitting } from './sitting';

const SIGN_WORDS: readonly { readonly sign: Sign; readonly words: string; readonly key: string }[] = [
  { sign: 'knew', words: 'saw it', key: 'j' },
  { sign: 'derived', words: 'worked it out', key: 'w' },
  { sign: 'counted', words: 'counted', key: 'k' },
  { sign: 'guessed', words: 'guessed', key: 'g' },
];

/** The running sitting: stage, numbers at its edge, and the adult's strip. Presses are heard by plain listeners, so that nothing is drawn before they are timed. */
@Component({
  selector: 'vane-carpet-run',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, Waiting],
  templateUrl: './carpetRun.html',
  styleUrl: './carpetRun.scss',
  host: { '[class.left]': "device.side() === 'left'" },
})
export class CarpetRun {
  readonly #frames = inject(FRAMES);
  readonly #dialog = inject(MatDialog);
  readonly #router = inject(Router);
  readonly device = inject(DevicePreferences);
  readonly sitting = input.required<Sitting>();
  /** A simulated child: the end is the caller's. */
  readonly practice = input(false);
  readonly again = output();
  readonly left = output();

  readonly stage = viewChild.required<ElementRef<HTMLElement>>('stage');
  readonly pad = viewChild.required<ElementRef<HTMLElement>>('pad');
  readonly main = viewChild.required<ElementRef<HTMLElement>>('main');

  readonly child = computed(() => this.sitting().child());
  readonly group = computed(() => this.sitting().wish.children.length > 1);
  readonly numbers = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 0];
  readonly signs = SIGN_WORDS;
  readonly finerSigns = FINER_SIGNS;
  readonly spoken = computed(() => this.sitting().wish.settings.answerMode === 'spoken');
  readonly words = computed(() => {
    const { wish } = this.sitting();
    const said = nextWords(this.sitting().ask(), this.sitting().moment(), this.child().nickname, wish.settings.words);
    return this.group() && this.sitting().moment() === 'ready' ? `${this.child().nickname}’s turn. ${said}` : said;
  });
  readonly total = computed(() => this.sitting().turns().length);
  readonly warming = computed(() => this.sitting().ask().warmUp);
  readonly canLookAgain = computed(() => this.sitting().ask().flash && this.sitting().moment() !== 'ready');
  /** How far this child is: in its warm-up, or in the routine's own questions. */
  readonly place = computed(() => {
    const at = this.sitting().index();
    const own = this.sitting()
      .turns()
      .filter((t) => t.child === this.child().id);
    const had = this.sitting()
      .turns()
      .slice(0, at + 1)
      .filter((t) => t.child === this.child().id).length;
    const warm = own.filter((t) => t.ask.warmUp).length;
    return this.warming() ? `warm-up, ${inLetters(had)} of ${inLetters(WARM_UPS)}` : `${had - warm} of ${own.length - warm}`;
  });
  readonly ticks = computed(() => Array.from({ length: this.total() }, (_, i) => i < this.sitting().index() || this.sitting().moment() === 'done'));
  readonly mainWords = computed(() => {
    if (this.sitting().paused()) return 'Go on';
    switch (this.sitting().moment()) {
      case 'ready':
        return 'Show';
      case 'asking':
        return this.spoken() ? `${this.child().nickname} speaks` : 'Waiting for a tap';
      case 'stopped':
        return 'Mark the number';
      default:
        return this.sitting().index() + 1 < this.total() ? 'Next' : 'Finish';
    }
  });
  readonly spaceWorks = computed(() => {
    const moment = this.sitting().moment();
    return moment === 'ready' || moment === 'answered' || (moment === 'asking' && this.spoken());
  });
  readonly given = computed(() => this.sitting().row()?.given ?? null);

  constructor() {
    const destroy = inject(DestroyRef);
    const listening = new AbortController();
    destroy.onDestroy(() => listening.abort());
    afterNextRender(() => this.#listen(listening.signal));
    effect(() => {
      const sitting = this.sitting();
      sitting.attach(new StageRunner(this.stage().nativeElement, this.#frames, sitting, performance.timeOrigin));
    });
  }

  /** Listeners outside the framework: the press is timed by its own stamp and handled at once. */
  #listen(signal: AbortSignal): void {
    // A press counts when the finger comes down. Clicks without a pointer come from the Enter key and from screen readers.
    const isPress = (event: Event): boolean =>
      event instanceof PointerEvent && event.type === 'pointerdown' ? event.isPrimary : (event as UIEvent).detail === 0;
    const onPad = (event: Event): void => {
      const button = (event.target as Element).closest<HTMLElement>('[data-number]');
      if (button && isPress(event)) this.sitting().answer(button.dataset['number'] ?? '', event.timeStamp);
    };
    const onMain = (event: Event): void => {
      if (isPress(event)) this.#main(event.timeStamp);
    };
    for (const type of ['pointerdown', 'click']) {
      this.pad().nativeElement.addEventListener(type, onPad, { signal });
      this.main().nativeElement.addEventListener(type, onMain, { signal });
    }
    window.addEventListener('keydown', (event) => this.#key(event), { signal });
    window.addEventListener('blur', () => this.sitting().disturbed('blurred'), { signal });
    document.addEventListener('visibilitychange', () => document.hidden && this.sitting().disturbed('hidden'), { signal });
  }

  #main(at: number): void {
    if (this.sitting().paused()) this.sitting().togglePause();
    else this.sitting().goOn(at);
  }

  #key(event: KeyboardEvent): void {
    if (event.repeat || event.ctrlKey || event.metaKey || event.altKey || this.#dialog.openDialogs.length > 0 || this.sitting().moment() === 'done') return;
    if (event.key === '?') return this.showKeys();
    // Space always belongs to the carpet; Enter is the focused button's own, and reaches it as a click.
    const entry = KEYS.find((known) => known.key === (event.key.length === 1 ? event.key.toLowerCase() : event.key));
    if (!entry) return;
    event.preventDefault();
    entry.run(this.sitting(), event.timeStamp);
  }

  showKeys(): void {
    void import('./keysDialog').then(({ KeysDialog }) => this.#dialog.open(KeysDialog, { width: '480px' }));
  }

  seeChild(id: string): void {
    void this.#router.navigate(['/children', id], { queryParams: { see: 'seeing' } });
  }
  toToday(): void {
    void this.#router.navigateByUrl('/today');
  }
}
