import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { inWords, problemOf } from '../api/api';

/** The one way in which a page says that it could not fetch what it shows. */
@Component({
  selector: 'vane-trouble',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    <div role="alert">
      <p>{{ words() }}</p>
      @if (!isRefused()) {
        <button i18n matButton="outlined" type="button" (click)="of().reload()">Try again</button>
      }
    </div>
  `,
  styles: `
    div {
      padding: 24px 0;
      border-top: 1px solid var(--sand);
    }
  `,
})
export class Trouble {
  readonly of = input.required<{ error(): unknown; reload(): unknown }>();
  readonly #thrown = computed((): unknown => {
    const error: unknown = this.of().error();
    // A resource wraps the error.
    return error instanceof Error && error.cause !== undefined ? error.cause : error;
  });
  readonly words = computed(() => inWords(this.#thrown()));
  /** To try again would be refused again. */
  readonly isRefused = computed(() => problemOf(this.#thrown())?.code === 'not-allowed');
}
