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
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { ControlState, StageState } from '@vane/contract';
import { USUAL_OPTIONS } from '@vane/core';
import { firstValueFrom } from 'rxjs';
import { AnswerPad } from '../carpet/answers/answerPad';
import { hearPresses } from '../carpet/answers/presses';
import { StageArea } from '../carpet/answers/stageArea';
import { Clock } from '../carpet/otherScreen/clock';
import { ScreenLink } from '../carpet/otherScreen/link';
import { FRAMES } from '../carpet/measurement/frameSource';
import { Api, inWords, problemOf } from '../api/api';
import { StagePlayer } from './stagePlayer';

/** A word from here every so often, so that the adult sees that the link stands. Never while a show is on. */
const HERE_MS = 3000;

/** The stage alone, on a board or on a child's own tablet: a code, and then nothing but the thing to see. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AnswerPad, MatButtonModule, MatFormFieldModule, MatInputModule, StageArea],
  templateUrl: './board.page.html',
  styleUrls: ['./board.page.scss'],
})
export class BoardPage {
  readonly #api = inject(Api);
  readonly #frames = inject(FRAMES);
  readonly #host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly #clock = new Clock(
    () => firstValueFrom(this.#api.clock()).then(({ at }) => at),
    () => performance.now(),
  );
  /** From the address: the code may stand in it. */
  readonly code = input<string>();
  readonly typed = signal('');
  readonly trouble = signal('');
  readonly paired = signal<'unknown' | 'no' | 'yes'>('unknown');
  readonly control = signal<ControlState | null>(null);
  readonly area = viewChild(StageArea);

  readonly usual = USUAL_OPTIONS;
  readonly look = computed(() => this.control()?.look ?? null);
  readonly ask = computed(() => this.control()?.show?.ask ?? null);
  readonly answering = computed(() => {
    const moment = this.look()?.moment;
    return moment === 'asking' || moment === 'answered';
  });
  /** The child shows the next itself. */
  readonly mayGo = computed(
    () => this.look()?.alone === true && this.look()?.moment === 'ready' && !this.look()?.paused,
  );
  /** Numbers lie at the edge where the child answers with them; where an adult marks, there is the thing to see alone. */
  readonly padded = computed(() => this.control()?.show?.answerMode === 'tap' && this.look()?.choral === false);
  readonly mayFinish = computed(() => this.look()?.moment === 'asking' && this.ask()?.want.by === 'board');
  #player: StagePlayer | null = null;
  #link: ScreenLink<StageState, ControlState> | null = null;

  constructor() {
    const leaving = new AbortController();
    inject(DestroyRef).onDestroy(() => {
      leaving.abort();
      this.#clock.stop();
      this.#link?.close();
    });
    afterNextRender(() => {
      void this.#open();
      hearPresses(this.#host.nativeElement, 'number', leaving.signal, (given, at) => this.#player?.press(given, at));
      hearPresses(this.#host.nativeElement, 'go', leaving.signal, (_, at) => this.#player?.go(at));
      window.addEventListener('blur', () => this.#player?.disturbed('blurred'), { signal: leaving.signal });
      document.addEventListener('visibilitychange', () => document.hidden && this.#player?.disturbed('hidden'), {
        signal: leaving.signal,
      });
      const timer = setInterval(() => this.#player && !this.#player.asking && this.#player.here(), HERE_MS);
      leaving.signal.addEventListener('abort', () => clearInterval(timer));
    });
    effect(() => {
      const stage = this.area()?.stage().nativeElement;
      if (!stage || this.#player) return;
      this.#player = new StagePlayer(
        stage,
        this.#frames,
        performance.timeOrigin,
        () => this.#clock.match,
        (state) => this.#link?.tell(state),
      );
      // What was wanted before the stage stood.
      const wanted = untracked(this.control);
      if (wanted) this.#player.heard(wanted);
    });
    effect(() => {
      const board = this.area()?.board()?.board() ?? null;
      if (board !== null) this.#player?.built(board);
    });
  }

  pair(event: Event): void {
    event.preventDefault();
    void this.#pair(this.typed());
  }

  /** A reopened page is still paired; otherwise a code in the address pairs it. */
  async #open(): Promise<void> {
    try {
      const { seq } = await firstValueFrom(this.#api.ownScreen());
      return this.#follow(seq);
    } catch (error) {
      if (problemOf(error)?.code !== 'not-paired') this.trouble.set(inWords(error));
    }
    this.paired.set('no');
    const code = this.code();
    if (code) await this.#pair(code);
  }

  async #pair(code: string): Promise<void> {
    this.trouble.set('');
    try {
      await firstValueFrom(this.#api.pairScreen(code));
      this.#follow(0);
    } catch (error) {
      this.trouble.set(inWords(error));
    }
  }

  #follow(seq: number): void {
    this.paired.set('yes');
    this.#link = new ScreenLink<StageState, ControlState>(
      (state) => firstValueFrom(this.#api.tellStage(state)),
      this.#api.stageEvents(),
      {
        heard: (control) => {
          // Acts first, in this very moment; rendering follows.
          this.#player?.heard(control);
          this.control.set(control);
        },
        ended: () => {
          this.control.set(null);
          this.#player = null;
          this.paired.set('no');
          this.typed.set('');
        },
        // Whoever is at this screen can do nothing about it: the adult's screen says that this one is silent.
        unsent: () => undefined,
      },
    );
    this.#link.start(seq);
    void this.#clock.start().then(() => this.#player?.here());
  }
}
