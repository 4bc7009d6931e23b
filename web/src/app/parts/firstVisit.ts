import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, input, signal } from '@angular/core';

const VISITED_KEY = 'vane-visited';

/** What each place answers, in one line. */
const ANSWERS = {
  today: $localize`Today says what to do in the minutes you have, with whom, and why; one press begins.`,
  carpet: $localize`Carpet runs a routine with a child, a group or the class, times every answer and keeps the record.`,
  children: $localize`Here is everyone in the class: open one to see what they know, how Vane knows it, and what comes next.`,
  child: $localize`A child’s page says what they are learning, what to do next, and what Vane’s view of each fact rests on.`,
  class: $localize`Class shows who needs the same thing, who was not heard, who needs another way and who can go on.`,
  log: $localize`The log is every answer as it was given; what went wrong is corrected here, and nothing is lost.`,
  prints: $localize`Prints makes cards, mats and sheets, and what you hand to parents and to the next teacher.`,
  week: $localize`The week spreads the sessions over the next teaching days, so that each child is heard as often as you wish.`,
} as const;
type VisitedPlace = keyof typeof ANSWERS;

const visited = (): string[] => (localStorage.getItem(VISITED_KEY) ?? '').split(' ');

/** On the first visit to a place on this device: what it answers, and where to read more. */
@Component({
  selector: 'vane-first-visit',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!closed() && first()) {
      <p role="note">
        {{ words() }}
        <a i18n [href]="'/guide#' + place()" target="_blank">How it works</a>
        <button i18n type="button" (click)="closed.set(true)">Close</button>
      </p>
    }
  `,
  styles: `
    p {
      margin: 6px 0;
      padding: 2px 12px;
      border-left: 3px solid var(--tide);
    }
    button {
      min-height: 44px;
      font: inherit;
      color: var(--tide);
      background: none;
      border: 0;
      cursor: pointer;
    }
  `,
})
export class FirstVisit {
  readonly place = input.required<VisitedPlace>();
  readonly closed = signal(false);
  readonly #before = visited();
  readonly first = computed(() => !this.#before.includes(this.place()));
  readonly words = computed(() => ANSWERS[this.place()]);

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      const now = visited();
      if (!now.includes(this.place())) localStorage.setItem(VISITED_KEY, [...now, this.place()].join(' ').trim());
    });
  }
}
