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
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { ControlState, StageState } from '@vane/contract';
import { USUAL_OPTIONS } from '@vane/core';
import {
  EMPTY,
  type Observable,
  Subject,
  catchError,
  endWith,
  exhaustMap,
  filter,
  fromEvent,
  ignoreElements,
  interval,
  map,
  merge,
  of,
  share,
  switchMap,
  take,
  takeUntil,
} from 'rxjs';
import { AnswerPad } from '../carpet/answers/answerPad';
import { hearPresses } from '../carpet/answers/presses';
import { StageArea } from '../carpet/answers/stageArea';
import type { ClockMatch } from '../carpet/otherScreen/clock';
import { statesFrom, writtenTo } from '../carpet/otherScreen/link';
import { ServerClock } from '../carpet/otherScreen/serverClock';
import { FRAMES } from '../carpet/measurement/frameSource';
import { Api, addressOf, inWords, problemOf } from '../api/api';
import { StagePlayer } from './stagePlayer';

/** A word from here every so often, so that the adult sees that the link stands. Never while a show is on. */
const HERE_MS = 3000;

/** The stage alone, on a board or on a child's own tablet: a code, and then nothing but the thing to see. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AnswerPad, MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule, StageArea],
  templateUrl: './board.page.html',
  styleUrls: ['./board.page.scss'],
})
export class BoardPage {
  readonly #api = inject(Api);
  readonly #frames = inject(FRAMES);
  readonly #host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly #clock = inject(ServerClock);
  readonly #place = inject(DestroyRef);
  /** From the address: the code may stand in it. */
  readonly code = input<string>();
  readonly typed = new FormControl('', {
    nonNullable: true,
    validators: [Validators.required, Validators.pattern(/^\s*\S.{4,}\S\s*$/)],
  });
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
  #match: ClockMatch | null = null;
  readonly #codes = new Subject<string>();
  /** What this side tells the adult's. */
  readonly #told = new Subject<StageState>();

  constructor() {
    afterNextRender(() => this.#begin());
    effect(() => {
      const stage = this.area()?.stage().nativeElement;
      if (!stage || this.#player) return;
      this.#player = new StagePlayer(
        stage,
        this.#frames,
        performance.timeOrigin,
        () => this.#match,
        (state) => this.#told.next(state),
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
    this.#codes.next(this.typed.value);
  }

  #begin(): void {
    const leaving = new AbortController();
    this.#place.onDestroy(() => leaving.abort());
    hearPresses(this.#host.nativeElement, 'number', leaving.signal, (given, at) => this.#player?.press(given, at));
    hearPresses(this.#host.nativeElement, 'go', leaving.signal, (_, at) => this.#player?.go(at));
    merge(
      fromEvent(window, 'blur').pipe(map(() => 'blurred' as const)),
      fromEvent(document, 'visibilitychange').pipe(
        filter(() => document.hidden),
        map(() => 'hidden' as const),
      ),
    )
      .pipe(takeUntilDestroyed(this.#place))
      .subscribe((why) => this.#player?.disturbed(why));
    this.#clock.matches.pipe(takeUntilDestroyed(this.#place)).subscribe((match) => (this.#match = match));
    merge(interval(HERE_MS), this.#clock.matches.pipe(take(1)))
      .pipe(takeUntilDestroyed(this.#place))
      .subscribe(() => {
        if (this.#player?.asking === false) this.#player.here();
      });
    this.#paired()
      .pipe(
        switchMap((seq) => this.#followed(seq)),
        takeUntilDestroyed(this.#place),
      )
      .subscribe((control) => {
        // Acts first, in this very moment; rendering follows.
        if (control === null) this.#player = null;
        else this.#player?.heard(control);
        this.control.set(control);
        this.paired.set(control === null ? 'no' : 'yes');
        if (control === null) this.typed.reset();
      });
  }

  /** Number of the last state that this side has written, each time the device is paired: a reopened page still is; otherwise a code in the address, or one that is typed, pairs it. */
  #paired(): Observable<number> {
    const code = this.code();
    const already = this.#api.ask('GET /board/stage').pipe(
      map(({ seq }) => seq),
      catchError((error: unknown) => {
        if (problemOf(error)?.code !== 'not-paired') this.trouble.set(inWords(error));
        this.paired.set('no');
        return code ? this.#pairedBy(code) : EMPTY;
      }),
    );
    return merge(already, this.#codes.pipe(exhaustMap((typed) => this.#pairedBy(typed))));
  }

  #pairedBy(code: string): Observable<number> {
    this.trouble.set('');
    return this.#api.ask('POST /board/pair', { body: { code } }).pipe(
      map(() => 0),
      catchError((error: unknown) => {
        this.trouble.set(inWords(error));
        return EMPTY;
      }),
    );
  }

  /** Whether this device belongs to no screen any more: the screen may have ended while there was no network. */
  #unpaired(): Observable<boolean> {
    return this.#api.ask('GET /board/stage').pipe(
      map(() => false),
      catchError((error: unknown) => of(problemOf(error)?.code === 'not-paired')),
    );
  }

  /** What the adult's side wants; null once it has ended. */
  #followed(seq: number): Observable<ControlState | null> {
    this.paired.set('yes');
    const wanted = statesFrom<ControlState>(
      () => new EventSource(addressOf('GET /board/events')),
      () => this.#unpaired(),
    ).pipe(share());
    // Whoever is at this screen can do nothing about what cannot be written: the adult's screen says that this one is silent.
    const written = writtenTo(this.#told, seq, (state) => this.#api.ask('PUT /board/stage', { body: state })).pipe(
      ignoreElements(),
      takeUntil(wanted.pipe(ignoreElements(), endWith(null))),
    );
    return merge(wanted.pipe(endWith(null)), written);
  }
}
