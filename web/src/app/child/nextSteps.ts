import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import type { ChildRecord } from '@vane/contract';
import { routinesFor, sessionOf, standingOf, workingNumber, type ChildNeed } from '@vane/core';
import { ChosenPlan } from '../plan/chosenPlan';
import { carpetWords } from '../language/carpetWords';
import { words } from '../language/words';

/** The child's working number with the pairs that are still to be learned, and what to do next: the plan's own words, and one press. */
@Component({
  selector: 'vane-next-steps',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    <section aria-labelledby="number-title">
      <h2 i18n id="number-title">Working number</h2>
      <div class="number">
        @if (number().number; as n) {
          <b aria-hidden="true">{{ n }}</b>
        }
        <p>{{ sentence() }}</p>
      </div>
      @if (rows().length > 0) {
        <ul i18n-aria-label aria-label="Pairs">
          @for (row of rows(); track row.whole) {
            <li [class.own]="row.own">
              @for (pair of row.pairs; track pair.words) {
                <span [class.open]="!pair.known">{{ pair.words }} {{ pair.mark }}</span>
              }
            </li>
          }
        </ul>
        <p i18n class="faint key">
          As sums, both ways round: ✓&nbsp;known, ↗&nbsp;nearly&nbsp;known, ·&nbsp;not&nbsp;known&nbsp;yet,
          ?&nbsp;not&nbsp;asked
        </p>
      }
    </section>
    <section aria-labelledby="next-title">
      <h2 i18n id="next-title">What to do next</h2>
      @if (next(); as n) {
        <p>
          <b>{{ n.title }}.</b> {{ n.reason }}
        </p>
        <p class="begin">
          <button i18n matButton="filled" type="button" (click)="begin(true)">
            Begin with {{ record().child.nickname }}
          </button>
          <button i18n matButton type="button" (click)="begin(false)">Change …</button>
        </p>
        <p class="faint with">
          <ng-container i18n>Or with</ng-container>
          @for (routine of n.routines; track routine.id) {
            <button type="button" (click)="open(routine.id)">{{ routine.title }}</button>
          }
        </p>
      } @else {
        @switch (plan()) {
          @case ('loading') {
            <p i18n role="status">Loading the plan …</p>
          }
          @case ('failed') {
            <p i18n role="alert">The plan cannot be loaded just now.</p>
          }
          @default {
            <p i18n class="faint">Nothing is planned for a child who is archived.</p>
          }
        }
      }
    </section>
  `,
  styles: `
    :host {
      display: contents;
    }
    h2 {
      font-size: 22px;
      margin-bottom: 6px;
    }
    p {
      margin: 0 0 6px;
    }
    .number {
      display: flex;
      gap: 16px;
      align-items: flex-start;
    }
    .number b {
      font: 44px/1 var(--numeral);
      color: var(--tide);
    }
    ul {
      list-style: none;
      margin: 4px 0;
      padding: 0;
      font-size: 15px;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 16px;
      padding: 2px 0;
      color: var(--faint);
    }
    li.own {
      color: var(--ink);
      font-weight: 600;
    }
    .key {
      font-size: 14px;
    }
    .begin {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 8px;
    }
    .with {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0 12px;
    }
    .with button {
      min-height: 44px;
      padding: 0;
      font: inherit;
      color: var(--tide);
      background: none;
      border: 0;
      cursor: pointer;
    }
  `,
})
export class NextSteps {
  readonly #router = inject(Router);
  readonly #chosen = inject(ChosenPlan);
  readonly record = input.required<ChildRecord>();
  /** What the class's plan has for the child; null = nothing, as for a child who is archived. */
  readonly planned = input.required<ChildNeed | null>();
  /** Whether the plan is still loading, or could not be loaded. */
  readonly plan = input.required<'loading' | 'failed' | 'there'>();

  readonly number = computed(() => workingNumber(this.record().readings));
  readonly sentence = computed(() => words.plan.workingNumber(this.number(), this.record().child.nickname));
  /** The whole that is worked at, and its neighbours. */
  readonly rows = computed(() => {
    const { number, pairs } = this.number();
    return number === null
      ? []
      : [number - 1, number, number + 1].flatMap((whole) => {
          const own = pairs.get(whole);
          return own
            ? [
                {
                  whole,
                  own: whole === number,
                  pairs: own.flatMap(({ first, second }) =>
                    (first === second
                      ? [[first, second]]
                      : [
                          [first, second],
                          [second, first],
                        ]
                    ).map((parts) => this.#sum(parts)),
                  ),
                },
              ]
            : [];
        });
  });
  /** A sum as it is asked, and how it stands. */
  #sum(parts: readonly number[]) {
    const standing = standingOf(this.record().readings.find(({ fact }) => fact === parts.join('+')));
    return { known: standing === 'known', words: parts.join(' + '), mark: words.plan.marks[standing] };
  }
  readonly #sitting = computed(() => {
    const planned = this.planned();
    return planned && sessionOf([planned]);
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

  /** The planned session: at once as the class answered last, or with its settings first. */
  begin(straight: boolean): void {
    const sitting = this.#sitting();
    if (!sitting) return;
    this.#chosen.take(sitting);
    this.open('planned', straight ? { straight: true } : {});
  }
  open(routine: string, more: { readonly straight?: true } = {}): void {
    void this.#router.navigate(['/carpet'], { queryParams: { child: this.record().child.id, routine, ...more } });
  }
}
