import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { inWords } from '../api/api';

/** The one way in which a page says that it could not fetch what it shows. */
@Component({
  selector: 'vane-trouble',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule],
  template: `
    <div role="alert">
      <p>{{ words() }}</p>
      <button i18n matButton="outlined" type="button" (click)="again.emit()">Try again</button>
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
  readonly error = input<unknown>();
  readonly again = output();
  readonly words = computed(() => {
    const error: unknown = this.error();
    // A resource wraps what was thrown.
    return inWords(error instanceof Error && error.cause !== undefined ? error.cause : error);
  });
}
