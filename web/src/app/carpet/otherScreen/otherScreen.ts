import { Injectable, Injector, computed, inject, signal, type Signal } from '@angular/core';
import type { ControlState, OpenedScreen, StageState } from '@vane/contract';
import {
  EMPTY,
  ReplaySubject,
  catchError,
  endWith,
  finalize,
  ignoreElements,
  interval,
  map,
  merge,
  of,
  share,
  startWith,
  switchMap,
  takeUntil,
  timer,
  type Observable,
} from 'rxjs';
import { Api, addressOf, inWords } from '../../api/api';
import { countersOf } from '../sitting/counters';
import type { Sitting } from '../sitting/sitting';
import { withinOf, type ClockMatch } from './clock';
import { OtherStage } from './otherStage';
import { statesFrom, writtenTo, type LinkState } from './link';
import { valuesOf } from '../../streams/valuesOf';
import { ServerClock } from './serverClock';

/** Another screen that belongs to a sitting, as the adult's screen shows it. */
export interface OtherScreen {
  /** Code to type there; empty once the screen is connected. */
  readonly code: Signal<string>;
  /** Where another device joins, and the same as a QR code; null where it cannot. */
  readonly join: Signal<OpenedScreen['join']>;
  readonly link: Signal<LinkState>;
  /** How well the clocks are matched, ms; null while that is not known. */
  readonly within: Signal<number | null>;
  readonly trouble: Signal<string>;
  close(): void;
}

const CHECK_MS = 1000;
/** Time for which a child alone sees their answer before the next question, ms. */
const NEXT_MS = 900;

/** What is heard of another screen. */
type News = { readonly opened: OpenedScreen } | { readonly heard: StageState } | { readonly trouble: string };

/** Opens another screen for a sitting: makes it, gives its code, and carries states between the two. */
@Injectable({ providedIn: 'root' })
export class FarScreens {
  readonly #api = inject(Api);
  readonly #clock = inject(ServerClock);
  readonly #injector = inject(Injector);

  open(classId: string, sitting: Sitting): OtherScreen {
    const [code, within, trouble] = [signal(''), signal<number | null>(null), signal('')];
    const join = signal<OpenedScreen['join']>(null);
    const alone = sitting.wish.settings.screens === 'alone';
    let match: ClockMatch | null = null;
    const wanted = new ReplaySubject<ControlState>(1);
    const look = computed(() => lookOf(sitting, alone));
    const stage = new OtherStage(
      (state) => wanted.next(state),
      {
        stopped: () => sitting.stopped(),
        answered: (...told) => sitting.answered(...told),
        lost: () => sitting.lost(),
        joined: () => sitting.joined(),
        pressed: (given, at) => sitting.answer(given, at),
        went: (at) => {
          const builds = sitting.moment() === 'asking' && sitting.ask().want.by === 'board';
          if (builds || (alone && sitting.moment() === 'ready')) sitting.goOn(at);
        },
      },
      () => match,
      () => performance.now(),
      look(),
    );
    stage.begun();
    sitting.attach(stage);
    sitting.attachBoard(() => stage.board);

    const open = this.#news(classId, wanted).subscribe((news) => {
      if ('trouble' in news) return trouble.set(news.trouble);
      if ('opened' in news) {
        code.set(news.opened.code);
        return join.set(news.opened.join);
      }
      code.set('');
      const { clock } = news.heard;
      if (match !== null && clock !== null) within.set(Math.ceil(withinOf(match, clock)));
      stage.heard(news.heard);
    });
    open.add(this.#clock.matches.subscribe((found) => (match = found)));
    open.add(interval(CHECK_MS).subscribe(() => stage.check()));
    open.add(valuesOf(look, this.#injector).subscribe((now) => stage.look(now)));
    if (alone) open.add(this.#seenLongEnough(sitting).subscribe(() => sitting.next()));
    return { code, join, link: stage.link, within, trouble, close: () => open.unsubscribe() };
  }

  /** A screen of the class's, open for as long as somebody listens; what the server cannot be told to close, it takes away after a day. */
  #news(classId: string, wanted: Observable<ControlState>): Observable<News> {
    const told = (why: unknown): News => ({ trouble: inWords(why) });
    return this.#api.ask('POST /classes/:classId/screens', { classId }).pipe(
      switchMap((opened) => {
        const { id } = opened;
        const heard = statesFrom<StageState>(
          () => new EventSource(addressOf('GET /classes/:classId/screens/:id/events', { classId, id })),
        ).pipe(share());
        const ended = heard.pipe(ignoreElements(), endWith(null));
        const unwritten = writtenTo(wanted, 0, (state) =>
          this.#api.ask('PUT /classes/:classId/screens/:id', { classId, id, body: state }),
        );
        return merge(
          heard.pipe(
            map((state): News => ({ heard: state })),
            endWith({ trouble: $localize`The other screen was closed.` }),
          ),
          unwritten.pipe(map(told), takeUntil(ended)),
        ).pipe(
          startWith<News>({ opened }),
          finalize(() =>
            this.#api
              .ask('DELETE /classes/:classId/screens/:id', { classId, id })
              .subscribe({ error: () => undefined }),
          ),
        );
      }),
      catchError((error: unknown) => of(told(error))),
    );
  }

  /** Where a child sits alone, the next question comes by itself. */
  #seenLongEnough(sitting: Sitting): Observable<unknown> {
    const seen = computed(() => sitting.moment() === 'answered' && !sitting.paused());
    return valuesOf(seen, this.#injector).pipe(switchMap((on) => (on ? timer(NEXT_MS) : EMPTY)));
  }
}

const lookOf = (sitting: Sitting, alone: boolean): ControlState['look'] => ({
  moment: sitting.moment(),
  given: sitting.given(),
  firstPart: sitting.firstPart(),
  paused: sitting.paused(),
  alone,
  larger: sitting.child().support?.includes('larger') ?? false,
  choral: sitting.wish.choral,
  options: sitting.wish.settings.options,
  counters: countersOf(sitting.wish.settings),
});
