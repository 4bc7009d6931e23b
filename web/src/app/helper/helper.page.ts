import {
  ChangeDetectionStrategy,
  Component,
  type ElementRef,
  computed,
  effect,
  inject,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import { rxResource, takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { ActivatedRoute, Router } from '@angular/router';
import type { HelperAnswer } from '@vane/contract';
import {
  EMPTY,
  Subject,
  concatMap,
  defer,
  filter,
  fromEvent,
  map,
  merge,
  of,
  retry,
  switchMap,
  tap,
  timer,
  type Observable,
} from 'rxjs';
import { Api, inWords } from '../api/api';
import { stagePicture } from '../carpet/measurement/stagePictures';
import { carpetWords } from '../language/carpetWords';
import { words } from '../language/words';
import { Trouble } from '../parts/trouble';
import { exponentialBackoff } from '../streams/exponentialBackoff';
import { KeptAnswers, turnsOf, type HelperTurn } from './helperTurns';
import { whenThere } from '../api/whenThere';

/** So long an answer waits on the phone for a second thought, ms. */
const CHANGEABLE_MS = 15_000;

const nameOf = ({ child, place }: Pick<HelperAnswer, 'child' | 'place'>): string => `${child} ${place}`;

/** A helper's phone: one group's questions, one after another, and what each child says. Nobody is signed in. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatButtonToggleModule, Trouble],
  templateUrl: './helper.page.html',
  styleUrl: './helper.page.scss',
})
export class HelperPage {
  readonly #api = inject(Api);
  readonly #router = inject(Router);
  /** Stands behind the `#` of the link, where no server and no log sees it; taken out of the address once it is used. */
  readonly #token = inject(ActivatedRoute).snapshot.fragment ?? '';

  readonly sheet = rxResource({
    stream: () =>
      (this.#token === '' ? of(undefined) : this.#api.ask('POST /helper/open', { body: { token: this.#token } })).pipe(
        switchMap(() => this.#api.ask('GET /helper/sheet')),
        tap(() => void this.#router.navigate([], { replaceUrl: true })),
      ),
  });
  readonly #kept = computed(() => whenThere(this.sheet, ({ code }) => new KeptAnswers(code), null));
  readonly #turns = computed(() => whenThere(this.sheet, (sheet) => turnsOf(sheet, this.#kept()?.all() ?? []), []));
  readonly begun = signal(false);
  readonly at = linkedSignal<readonly HelperTurn[], number>({ source: this.#turns, computation: () => 0 });
  readonly turn = computed(() => (this.begun() ? this.#turns()[this.at()] : undefined));
  readonly left = computed(() => this.#turns().length - this.at());
  readonly given = signal<string | null>(null);
  readonly counted = signal(false);
  /** The picture was shown once more. */
  readonly again = signal(false);
  readonly numbers = Array.from({ length: 11 }, (_, n) => String(n));

  /** Where the picture of a question stands: not shown yet, to be seen, or covered. What is not flashed is seen at once. */
  readonly seen = linkedSignal<HelperTurn | undefined, 'not yet' | 'now' | 'covered'>({
    source: this.turn,
    computation: (turn) => (turn?.ask.flash ? 'not yet' : 'now'),
  });
  readonly #shown = new Subject<{ turn: HelperTurn; ms: number }>();
  readonly stage = viewChild<ElementRef<HTMLElement>>('stage');
  readonly prompt = computed(() => {
    const turn = this.turn();
    return turn ? whenThere(this.sheet, ({ ways }) => carpetWords.prompt(turn.ask.prompt, ways.words), '') : '';
  });
  readonly session = computed(() => {
    if (!this.sheet.hasValue()) return null;
    const { session, children } = this.sheet.value();
    const opener = session?.opener ?? null;
    return {
      title: session ? words.plan.title(session.needs) : $localize`A group sheet`,
      minutes: session ? words.counted.minutes(session.minutes) : '',
      who: words.listed(children.map(({ nickname }) => nickname)),
      opener: opener === null ? null : carpetWords.routines[opener],
      flashes: this.#turns().some(({ ask, exposureMs }) => ask.flash && exposureMs !== null),
    };
  });
  readonly close = carpetWords.routines.close;
  readonly caution = carpetWords.cautions.flash;

  /** Answers that wait on this phone, and why. */
  readonly waiting = signal<readonly HelperAnswer[]>([]);
  readonly trouble = signal('');
  /** Turns whose answer has left this phone. */
  readonly #gone = new Set<string>();
  /** The question before this one with its answer, if it has one, while both are on this phone alone. */
  readonly back = computed(() => {
    const [all, before] = [this.waiting(), this.#turns()[this.at() - 1]];
    if (before === undefined || this.#gone.has(nameOf(before))) return null;
    return { answer: all.find((one) => nameOf(one) === nameOf(before)) ?? null };
  });
  /** Something is to be sent: all of it, or all but the newest, which may still be changed. */
  readonly #send = new Subject<'all' | 'older'>();
  /** Sends what waits; nothing where nothing does. */
  readonly #delivered = (which: 'all' | 'older') =>
    defer((): Observable<unknown> => {
      const kept = this.#kept();
      const all = kept?.all() ?? [];
      const answers = which === 'all' ? all : all.slice(0, -1);
      if (kept === null || answers.length === 0) return EMPTY;
      return this.#api.ask('POST /helper/answers', { body: { answers, sent_at: new Date().toISOString() } }).pipe(
        tap(() => {
          for (const one of answers) this.#gone.add(nameOf(one));
          kept.drop(answers);
          this.waiting.set(kept.all());
          this.trouble.set('');
        }),
      );
    });

  constructor() {
    effect(() => this.waiting.set(this.#kept()?.all() ?? []));
    effect(() => {
      const [stage, turn, seen] = [this.stage()?.nativeElement, this.turn(), this.seen()];
      if (stage === undefined || turn === undefined) return;
      const { picture, cover } = stagePicture(turn.ask.picture);
      stage.replaceChildren(...(seen === 'not yet' ? [] : [seen === 'now' ? picture : cover]));
    });
    const again = { first: 2_000, longest: 60_000, sooner: merge(this.#send, fromEvent(window, 'online')) };
    // The newest goes out when there was time to change it, when it was the last, and when the page is put away.
    const late = this.#send.pipe(
      switchMap(() => timer(CHANGEABLE_MS)),
      map(() => 'all' as const),
    );
    const away = fromEvent(document, 'visibilitychange').pipe(
      filter(() => document.hidden),
      map(() => 'all' as const),
    );
    const opened = toObservable(this.#kept).pipe(map(() => 'all' as const));
    merge(opened, this.#send, late, away)
      .pipe(
        concatMap((which) =>
          this.#delivered(which).pipe(
            tap({ error: (error: unknown) => this.trouble.set(inWords(error)) }),
            retry(exponentialBackoff(again)),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe();
    // A show is covered again; the next question has one of its own.
    this.#shown
      .pipe(
        switchMap(({ turn, ms }) => timer(ms).pipe(map(() => turn))),
        takeUntilDestroyed(),
      )
      .subscribe((turn) => {
        if (this.turn() === turn) this.seen.set('covered');
      });
  }

  show(turn: HelperTurn): void {
    if (this.seen() === 'covered') this.again.set(true);
    this.seen.set('now');
    if (turn.exposureMs !== null) this.#shown.next({ turn, ms: turn.exposureMs });
  }
  /** What the child said, on its way to the log; or on to the next without it. */
  next({ child, place }: HelperTurn, asked: boolean): void {
    const given = this.given();
    const kept = this.#kept();
    if (asked && given !== null && kept !== null) {
      kept.add({ child, place, given, counted: this.counted(), again: this.again(), at: new Date().toISOString() });
      this.waiting.set(kept.all());
    }
    this.#turnTo(this.at() + 1);
    this.#send.next(this.turn() !== undefined && this.back()?.answer ? 'older' : 'all');
  }
  /** To the question before; its answer is taken back, to be given anew. */
  goBack(answer: HelperAnswer | null): void {
    if (answer !== null) this.#kept()?.drop([answer]);
    this.waiting.set(this.#kept()?.all() ?? []);
    this.#turnTo(this.at() - 1);
    this.given.set(answer?.given ?? null);
    this.counted.set(answer?.counted ?? false);
    this.again.set(answer?.again ?? false);
  }
  #turnTo(at: number): void {
    this.given.set(null);
    this.counted.set(false);
    this.again.set(false);
    this.at.set(at);
  }
  /** An answer in words, to be read to the teacher where it can no longer be sent. */
  inWords({ child, place, given, counted }: HelperAnswer): string {
    const who = whenThere(this.sheet, ({ children }) => children.find(({ id }) => id === child), undefined);
    const fact = words.fact(who?.asks[place]?.fact ?? '');
    const nickname = who?.nickname ?? '';
    return counted
      ? $localize`${nickname} said ${given} to ${fact}, and counted`
      : $localize`${nickname} said ${given} to ${fact}`;
  }
}
