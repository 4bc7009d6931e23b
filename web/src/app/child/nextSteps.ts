import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import type { ChildRecord, ChildWeek } from '@vane/contract';
import {
  anotherWay,
  routinesFor,
  schoolDays,
  sessionOf,
  standingOf,
  stuckOn,
  workingNumber,
  type ChildNeed,
} from '@vane/core';
import { ChosenPlan } from '../plan/chosenPlan';
import { carpetWords } from '../language/carpetWords';
import { pageWords } from '../language/pageWords';
import { words } from '../language/words';
import { Needle } from '../sail/needle';
import { Session } from '../signedIn/session';

/** The child's working number with the pairs that are still to be learned, and what to do next: the plan's own words, and one press. */
@Component({
  selector: 'vane-next-steps',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, Needle],
  template: `
    <section aria-labelledby="number-title">
      <h2 i18n id="number-title">Working number</h2>
      <p>{{ sentence() }}</p>
      @if (rows().length > 0) {
        <ul i18n-aria-label aria-label="Pairs">
          @for (row of rows(); track row.whole) {
            <li [class.own]="row.own">
              @for (pair of row.pairs; track pair.words) {
                <span
                  >{{ pair.words }}<vane-needle [reading]="pair.reading" [width]="30" /><span class="aloud"
                    >, {{ pair.standing }}</span
                  ></span
                >
              }
            </li>
          }
        </ul>
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
        @if (noChange(); as said) {
          <p>{{ said.words }}</p>
          @if (said.way; as way) {
            <p class="with">
              <ng-container i18n>Try another way:</ng-container>
              <button type="button" (click)="open(way.id, { straight: true })">{{ way.title }}</button>
            </p>
          }
        }
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
    ul {
      list-style: none;
      margin: 4px 0;
      padding: 0;
      font-size: 15px;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      gap: 0 10px;
      color: var(--faint);
    }
    li.own {
      color: var(--ink);
    }
    li > span {
      display: inline-flex;
      align-items: center;
      gap: 2px;
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
  readonly #session = inject(Session);
  readonly #chosen = inject(ChosenPlan);
  readonly record = input.required<ChildRecord>();
  /** What the class's plan has for the child; null = nothing, as for a child who is archived. */
  readonly planned = input.required<ChildNeed | null>();
  /** What past weeks left, as far as it is there. */
  readonly weeks = input<readonly ChildWeek[]>([]);
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
    const reading = this.record().readings.find(({ fact }) => fact === parts.join('+')) ?? null;
    return { words: parts.join(' + '), reading, standing: words.readings.standings[standingOf(reading)] };
  }
  /** What has not changed for weeks, and another routine to try; null where something has. */
  readonly noChange = computed(() => {
    const planned = this.planned();
    const { child, readings } = this.record();
    const stuck = planned && stuckOn(this.weeks(), readings, schoolDays(this.#session.timeZone())(Date.now()));
    if (!stuck) return null;
    const way = anotherWay(planned.need, child.routinesUsed);
    return {
      words: pageWords.classPage.noChange(stuck),
      way: way && { id: way, title: carpetWords.routines[way].title },
    };
  });
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
