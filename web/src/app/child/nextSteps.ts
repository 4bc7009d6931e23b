import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import type { ChildRecord } from '@vane/contract';
import { routinesFor, workingNumber, type PairSoFar } from '@vane/core';
import { Session } from '../signedIn/session';
import { ChosenPlan } from '../plan/chosenPlan';
import { sittingsFor } from '../plan/classPlan';
import { carpetWords } from '../language/carpetWords';
import { words } from '../language/words';

/** The child's working number with what speaks for it, and what to try next. */
@Component({
  selector: 'vane-next-steps',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    <section aria-labelledby="number-title">
      <h2 i18n id="number-title">Working number</h2>
      <p>{{ sentence() }}</p>
      @for (row of rows(); track row.whole) {
        <p class="row">
          <b>{{ row.whole }}</b>
          @for (pair of row.pairs; track pair.words) {
            <span [class.faint]="!pair.known">{{ pair.words }} {{ pair.mark }}</span>
          }
        </p>
      }
      @if (rows().length > 0) {
        <p i18n class="faint">✓ known, ↗ nearly known, · not yet, ? not asked</p>
      }
    </section>
    <section aria-labelledby="next-title">
      <h2 i18n id="next-title">What to try next</h2>
      @if (next(); as n) {
        <p>
          <b>{{ n.title }}.</b> {{ n.reason }}
        </p>
        <p class="begin">
          <button i18n matButton="outlined" type="button" (click)="begin()">As planned</button>
          @for (routine of n.routines; track routine.id) {
            <button matButton type="button" (click)="open(routine.id)">{{ routine.title }}</button>
          }
        </p>
      }
    </section>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
      gap: 16px 56px;
    }
    h2 {
      font-size: 22px;
      margin-bottom: 6px;
    }
    .row {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 18px;
    }
    .row b {
      width: 24px;
      font-family: var(--numeral);
    }
    .begin {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 8px;
    }
  `,
})
export class NextSteps {
  readonly #session = inject(Session);
  readonly #router = inject(Router);
  readonly #chosen = inject(ChosenPlan);
  readonly record = input.required<ChildRecord>();

  readonly #number = computed(() => workingNumber(this.record().readings));
  readonly sentence = computed(() => words.plan.workingNumber(this.#number(), this.record().child.nickname));
  /** The whole that is worked at, and its neighbours. */
  readonly rows = computed(() => {
    const { number, pairs } = this.#number();
    return number === null
      ? []
      : [number - 1, number, number + 1].flatMap((whole) => {
          const own = pairs.get(whole);
          return own
            ? [
                {
                  whole,
                  pairs: own.map((p) => ({ known: p.known, words: `${p.first} + ${p.second}`, mark: markOf(p) })),
                },
              ]
            : [];
        });
  });
  readonly #sitting = computed(() => {
    const { child, readings, responses } = this.record();
    const asked = responses
      .filter((r) => r.void === '')
      .map((r) => ({ child: child.id, fact: r.fact, at: Date.parse(r.shown_at) }));
    return sittingsFor([child], { readings, asked }, 'practise', Date.now(), this.#session.timeZone())[0] ?? null;
  });
  readonly next = computed(() => {
    const sitting = this.#sitting();
    return (
      sitting && {
        title: words.plan.title(sitting.needs),
        reason: `${words.capital(words.plan.reason(sitting.children[0]!))}.`,
        routines: routinesFor(sitting.needs[0]!).map((id) => ({ id, title: carpetWords.routines[id].title })),
      }
    );
  });

  begin(): void {
    const sitting = this.#sitting();
    if (!sitting) return;
    this.#chosen.take(sitting);
    this.open('planned');
  }
  open(routine: string): void {
    void this.#router.navigate(['/carpet'], { queryParams: { child: this.record().child.id, routine } });
  }
}

const markOf = ({ known, leaning, asked }: PairSoFar): string => (known ? '✓' : leaning ? '↗' : asked ? '·' : '?');
