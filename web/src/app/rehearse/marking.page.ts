import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { DEFAULT_CARPET, type ChildView, type RecordRow } from '@vane/contract';
import {
  answerFact,
  dealTurns,
  HARBOUR_CHILDREN,
  makeChild,
  median,
  parseFact,
  pick,
  routineOf,
  seeded,
  shuffled,
  sittingAsks,
  TODAY,
  type SimulatedAnswer,
} from '@vane/core';
import { CarpetRun } from '../carpet/carpetRun';
import type { Keeper } from '../carpet/sitting/recorder';
import { Sitting } from '../carpet/sitting/sitting';
import { words } from '../language/words';
import { WholeScreen } from '../device/wholeScreen';

const SHOWS = 6;
const WAY_WORDS: Record<SimulatedAnswer['strategy'], string> = {
  copy: 'copied',
  retrieve: $localize`knew it`,
  derive: $localize`worked it out`,
  count: 'counted',
  guess: 'guessed',
};
const SIGN_WORDS: Record<string, string> = {
  knew: $localize`knew it`,
  derived: $localize`worked it out`,
  counted: 'counted',
  guessed: 'guessed',
};
/** What an adult might see and hear of each way, to mark by. */
const SEEN: Record<SimulatedAnswer['strategy'], readonly string[]> = {
  copy: [''],
  retrieve: [$localize`at once`, $localize`looking straight at you`],
  derive: [$localize`after a moment’s thought`, $localize`“five and … ”, half aloud`],
  count: [$localize`lips moving`, $localize`a finger tapping the carpet`, $localize`nodding along the row`],
  guess: [$localize`shrugging`, $localize`looking at the others first`],
};

/** The child of the carpet that sits here. */
const NOBODY: ChildView = {
  id: '',
  nickname: '',
  lastAskedAt: null,
  measures: { copies: {}, counts: 0 },
  times: null,
  workingNumber: null,
  halfLifeDays: null,
  routinesUsed: [],
  support: [],
};

/** One simulated child's sitting, to practise entering answers: it speaks, the adult stops the clock, marks, and says what it saw; then the truth. Nothing is kept. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, CarpetRun],
  template: `
    @if (sitting().moment() !== 'done') {
      <vane-carpet-run [sitting]="sitting()" [practice]="true" />
      <p class="bubble" aria-live="polite" data-testid="says"></p>
    } @else {
      <div class="page">
        <h1 i18n>How did it go?</h1>
        <p class="sum">{{ summary() }}</p>
        <table>
          <thead>
            <tr>
              <th i18n scope="col">Shown</th>
              <th i18n scope="col">{{ child().nickname }} said</th>
              <th i18n scope="col">You entered</th>
              <th i18n scope="col">Your delay</th>
              <th i18n scope="col">You saw</th>
              <th i18n scope="col">Actually</th>
            </tr>
          </thead>
          <tbody>
            @for (row of rows(); track row.id) {
              <tr>
                <td>{{ row.shown }}</td>
                <td>{{ row.said }}</td>
                <td>{{ row.marked }}</td>
                <td>{{ row.delay }}</td>
                <td>{{ row.saw }}</td>
                <td>{{ row.truth }}</td>
              </tr>
            }
          </tbody>
        </table>
        <p class="buttons">
          <button i18n matButton="filled" type="button" (click)="again()">Another child</button>
          <button i18n matButton="outlined" type="button" (click)="leave()">Back to Rehearse</button>
        </p>
      </div>
    }
  `,
  styles: `
    .bubble {
      position: fixed;
      left: 50%;
      bottom: 200px;
      transform: translateX(-50%);
      margin: 0;
      padding: 10px 26px;
      border: 2px solid #22303c;
      border-radius: 26px;
      background: #fffefa;
      color: #22303c;
      font: 26px var(--reading);
      pointer-events: none;
    }
    .bubble:empty {
      display: none;
    }
    .sum {
      font: 20px/1.5 var(--reading);
      max-width: 46em;
    }
    table {
      border-collapse: collapse;
      margin: 12px 0 24px;
    }
    th,
    td {
      text-align: left;
      font-weight: 400;
      padding: 8px 32px 8px 0;
      border-bottom: 1px solid var(--sand);
    }
    th {
      color: var(--faint);
    }
    .buttons {
      display: flex;
      gap: 10px;
    }
  `,
})
export class MarkingPage {
  readonly #host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly #wholeScreen = inject(WholeScreen);
  readonly #router = inject(Router);
  #speaking: ReturnType<typeof setTimeout> | null = null;
  #random = seeded(crypto.getRandomValues(new Uint32Array(1))[0] ?? 1);
  #simulated = makeChild('', 'mixed', this.#random);
  readonly #answers = new Map<string, SimulatedAnswer>();
  readonly #kept = signal<ReadonlyMap<string, RecordRow>>(new Map());

  readonly child = signal<ChildView>(NOBODY);
  readonly sitting = signal(this.#newSitting());

  readonly rows = computed(() => [...this.#kept().values()].map((row) => this.#compared(row)));
  readonly summary = computed(() => {
    const rows = this.rows().filter((row) => row.counts);
    const delay = median(rows.flatMap((row) => (row.delayMs === null ? [] : [row.delayMs])));
    const signed = rows.filter((row) => row.saw !== '');
    const right = signed.filter((row) => row.saw === row.truth).length;
    const steady = $localize`Vane measures this with the numbers to copy, so a steady delay does no harm; an unsteady one does.`;
    const clock =
      delay === null
        ? $localize`You did not stop the clock when the child spoke: press Space, or the wide button, at that moment.`
        : delay < 0
          ? $localize`You stopped the clock before the child spoke. ${steady}`
          : $localize`You stopped the clock about ${words.seconds(delay)} after the child spoke. ${steady}`;
    const signs =
      signed.length === 0
        ? $localize`You entered no signs: one tap after the answer tells more than a second more or less.`
        : $localize`You entered ${signed.length} signs, ${right} of them correctly.`;
    return `${clock} ${signs}`;
  });

  constructor() {
    this.#wholeScreen.taken.set(true);
    const watching = new MutationObserver(() => this.#stageChanged());
    afterNextRender(() =>
      watching.observe(this.#host, { subtree: true, attributes: true, attributeFilter: ['data-phase'] }),
    );
    inject(DestroyRef).onDestroy(() => {
      watching.disconnect();
      this.#hush();
      this.#wholeScreen.taken.set(false);
    });
  }

  again(): void {
    this.#wholeScreen.taken.set(true);
    this.sitting.set(this.#newSitting());
  }
  leave(): void {
    void this.#router.navigateByUrl('/rehearse');
  }

  #newSitting(): Sitting {
    this.#simulated = makeChild('', 'mixed', this.#random);
    this.#answers.clear();
    this.#kept.set(new Map());
    this.child.set({ ...NOBODY, id: 'practice', nickname: shuffled(this.#random, HARBOUR_CHILDREN)[0]! });
    const settings = { ...DEFAULT_CARPET, answerMode: 'spoken' as const, shows: SHOWS };
    const asks = sittingAsks(this.#random, routineOf('flash-and-say'), {
      ...settings,
      things: settings.words.things,
      facts: [],
      sitters: 1,
      workingNumber: null,
      times: null,
      warmUp: 'none',
    });
    const wish = {
      classId: '',
      children: [this.child()],
      classmates: [],
      settings,
      turns: dealTurns([{ child: 'practice', asks }]),
      choral: false,
      open: false,
      shared: false,
    };
    return new Sitting({ ...wish, follow: () => [] }, this.#memory(), () => Date.now());
  }

  /** Keeps the last state of each response in memory alone. */
  #memory(): Keeper {
    const nothing = (): Promise<void> => Promise.resolve();
    return {
      keepSitting: nothing,
      keepOpen: (_, row) => {
        this.#kept.update((kept) => new Map(kept).set(row.response_id, row));
        return nothing();
      },
      closeAll: nothing,
      hold: () => undefined,
      release: () => undefined,
    };
  }

  /** The simulated child speaks when its answer time is over; the text is written directly to the DOM, so that nothing is rendered again. */
  #stageChanged(): void {
    const phase = this.#host.querySelector<HTMLElement>('[data-testid=stage]')?.dataset['phase'];
    if (phase === 'ready' || phase === 'feedback') this.#hush();
    if (phase !== 'show' || this.#speaking !== null) return;
    const { fact } = this.sitting().ask();
    if (fact === null) return;
    const answer = answerFact(this.#simulated, parseFact(fact), 'tap', TODAY, this.#random);
    this.#answers.set(fact, answer);
    this.#speaking = setTimeout(() => {
      const seen = pick(this.#random, SEEN[answer.strategy]);
      this.#bubble(`“${answer.given}!” (${seen})`);
    }, answer.responseMs);
  }

  #hush(): void {
    if (this.#speaking !== null) clearTimeout(this.#speaking);
    this.#speaking = null;
    this.#bubble('');
  }
  #bubble(text: string): void {
    const bubble = this.#host.querySelector('.bubble');
    if (bubble) bubble.textContent = text;
  }

  #compared(row: RecordRow) {
    const answer = this.#answers.get(row.fact);
    const delayMs = answer === undefined || row.response_ms === null ? null : row.response_ms - answer.responseMs;
    return {
      id: row.response_id,
      counts: row.void === '' && row.aid === 'none' && row.outcome !== 'none',
      shown: words.fact(row.fact),
      said: answer ? String(answer.given) : '',
      marked: row.given === '' ? $localize`no answer` : row.given,
      delayMs,
      delay: delayMs === null ? $localize`not stopped` : words.seconds(delayMs),
      saw: SIGN_WORDS[row.observed.split(':')[0] ?? ''] ?? '',
      truth: answer ? WAY_WORDS[answer.strategy] : '',
    };
  }
}
