import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { toResponse, type ChildRecord } from '@vane/contract';
import { dateOfDay, isNumberFact, parseFact, ROUTINES, schoolDays, sequenceOf, type Happening } from '@vane/core';
import { WeeksPending } from '../charts/weeksPending';
import { carpetWords } from '../language/carpetWords';
import { pageWords } from '../language/pageWords';
import { words } from '../language/words';
import { Trouble } from '../parts/trouble';
import { Dates } from '../signedIn/dates';
import { Session } from '../signedIn/session';
import { pastWeeks } from './pastWeeks';
import { whenThere } from '../api/whenThere';

/** Lines shown at first. */
const FEW = 12;

/** What was done with a fact, or with all facts of a number, and what the readings were at the end of the weeks: one after the other, never one because of the other. */
@Component({
  selector: 'vane-sequence',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatButtonToggleModule, Trouble, WeeksPending],
  template: `
    @if (past.error()) {
      <vane-trouble [of]="past" />
    } @else if (!past.hasValue()) {
      <p i18n role="status">Loading past weeks …</p>
    } @else {
      <vane-weeks-pending [past]="past.value()" />
      @if (whole() !== null) {
        <mat-button-toggle-group
          [value]="about()"
          (change)="about.set($event.value)"
          i18n-aria-label
          aria-label="About"
          hideSingleSelectionIndicator
        >
          <mat-button-toggle value="fact">{{ factWords() }}</mat-button-toggle>
          <mat-button-toggle i18n value="number">everything about {{ whole() }}</mat-button-toggle>
        </mat-button-toggle-group>
      }
      <ol i18n-aria-label aria-label="What was done, newest first">
        @for (line of shown(); track line.key) {
          <li [class.read]="line.read">
            <span class="faint">{{ line.day }}</span> {{ line.words }}
          </li>
        } @empty {
          <li i18n class="faint">Not asked yet.</li>
        }
      </ol>
      @if (lines().length > shown().length) {
        <button i18n matButton type="button" (click)="all.set(true)">Show all {{ lines().length }}</button>
      }
      <p i18n class="faint">Newest first. One thing after another does not mean because of it.</p>
    }
  `,
  styles: `
    ol {
      list-style: none;
      margin: 12px 0;
      padding: 0;
      max-width: 900px;
    }
    li {
      display: flex;
      gap: 16px;
      padding: 5px 0 5px 10px;
      border-left: 3px solid var(--sand);
    }
    li .faint {
      flex: 0 0 130px;
    }
    li.read {
      border-left-color: var(--tide);
      font-weight: 600;
    }
  `,
})
export class Sequence {
  readonly #session = inject(Session);
  readonly #dates = inject(Dates);
  readonly record = input.required<ChildRecord>();
  readonly fact = input.required<string>();

  readonly past = pastWeeks(computed(() => this.record().child.id));
  readonly about = linkedSignal<string, 'fact' | 'number'>({ source: this.fact, computation: () => 'fact' });
  readonly all = linkedSignal<string, boolean>({
    source: () => `${this.fact()} ${this.about()}`,
    computation: () => false,
  });
  readonly factWords = computed(() => words.fact(this.fact()));
  /** The whole of a number fact; null = something seen. */
  readonly whole = computed(() => {
    const fact = parseFact(this.fact());
    return isNumberFact(fact) ? fact.whole : null;
  });
  readonly #facts = computed(() => {
    const whole = this.whole();
    if (this.about() === 'fact' || whole === null) return new Set([this.fact()]);
    const all = new Set(this.record().responses.map((r) => r.fact));
    return new Set(
      [...all].filter((text) => {
        const fact = parseFact(text);
        return isNumberFact(fact) && fact.whole === whole;
      }),
    );
  });
  readonly lines = computed(() => {
    const weeks = whenThere(this.past, (it) => it.weeks, []);
    const dayOf = schoolDays(this.#session.timeZone());
    const routines = new Map(this.record().sittings.map((s) => [s.id, s.routine]));
    return sequenceOf(this.#facts(), this.record().responses.map(toResponse), weeks, dayOf).map((one, i) => ({
      key: i,
      read: one.what === 'read',
      day: this.#dates.date(dateOfDay(one.day)),
      words: this.#wordsOf(one, routines),
    }));
  });
  readonly shown = computed(() => (this.all() ? this.lines() : this.lines().slice(0, FEW)));

  #wordsOf(one: Happening, routines: ReadonlyMap<string, string>): string {
    if (one.what === 'read') return pageWords.evidence.readAtWeekEnd(one);
    const known = ROUTINES.find(({ id }) => id === routines.get(one.sitting));
    return pageWords.evidence.askedIn(one, known ? carpetWords.routines[known.id].title : '');
  }
}
