import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

const WORDS = {
  prints: ['Prints', 'This place will make flash cards, mats, sheets and the home sheet as PDF, in your class’s own words.'],
} as const;

/** A place that is not built yet says in one sentence what it will do. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="page">
      <h1>{{ words()[0] }}</h1>
      <p>{{ words()[1] }} It is not there yet.</p>
    </div>
  `,
  styles: `
    p {
      max-width: 36em;
      margin-top: 12px;
    }
  `,
})
export class LaterPage {
  readonly place = input.required<keyof typeof WORDS>();
  readonly words = computed(() => WORDS[this.place()]);
}
