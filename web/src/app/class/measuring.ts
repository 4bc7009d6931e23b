import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { Api } from '../api/api';
import { DevicePreferences } from '../device/devicePreferences';
import { pageWords } from '../language/pageWords';
import { Trouble } from '../parts/trouble';
import { Session } from '../signedIn/session';
import { whenThere } from '../api/whenThere';

/** What Vane has learned of how whoever is signed in, and this device, measure: said to them alone. */
@Component({
  selector: 'vane-measuring',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Trouble],
  template: `
    @if (known.error()) {
      <vane-trouble [of]="known" />
    } @else if (sentences().length > 0) {
      <section aria-labelledby="measuring">
        <h2 i18n id="measuring">How you and this device measure</h2>
        <p i18n class="faint">Only you see this.</p>
        <ul>
          @for (sentence of sentences(); track sentence) {
            <li>{{ sentence }}</li>
          }
        </ul>
      </section>
    }
  `,
  styles: `
    ul {
      list-style: none;
      padding: 0;
      max-width: 44rem;
    }
    li + li {
      margin-top: 0.25rem;
    }
  `,
})
export class Measuring {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #device = inject(DevicePreferences).code;

  readonly known = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params: classId }) =>
      this.#api.ask('GET /classes/:classId/measuring/:device', { classId, device: this.#device }),
  });
  readonly sentences = computed(() => whenThere(this.known, (known) => known.map(pageWords.measured), []));
}
