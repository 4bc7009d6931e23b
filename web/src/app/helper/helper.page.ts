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
  readonly #send = new Subject<void>();
  /** Sends all that waits; nothing where nothing does. */
  readonly #delivered = defer((): Observable<unknown> => {
    const kept = this.#kept();
    const answers = kept?.all() ?? [];
    if (kept === null || answers.length === 0) return EMPTY;
    return this.#api.ask('POST /helper/answers', { body: { answers, sent_at: new Date().toISOString() } }).pipe(
      tap(() => {
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
    const deliver = this.#delivered.pipe(
      tap({ error: (error: unknown) => this.trouble.set(inWords(error)) }),
      retry(exponentialBackoff(again)),
    );
    merge(toObservable(this.#kept), this.#send)
      .pipe(
        concatMap(() => deliver),
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
    this.seen.set('now');
    if (turn.exposureMs !== null) this.#shown.next({ turn, ms: turn.exposureMs });
  }
  /** What the child said, on its way to the log; or on to the next without it. */
  next({ child, place }: HelperTurn, asked: boolean): void {
    const given = this.given();
    const kept = this.#kept();
    if (asked && given !== null && kept !== null) {
      kept.add({ child, place, given, counted: this.counted(), at: new Date().toISOString() });
      this.waiting.set(kept.all());
      this.#send.next();
    }
    this.given.set(null);
    this.counted.set(false);
    this.at.update((at) => at + 1);
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
