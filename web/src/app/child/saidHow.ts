import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { toResponse, type RecordRow } from '@vane/contract';
import { DAY_MS, helped, saidHow } from '@vane/core';
import { words } from '../language/words';

const LATELY_MS = 28 * DAY_MS;

/** How the child said that they did it, and how that changes; and what helped when a first answer was not right. */
@Component({
  selector: 'vane-said-how',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (ways().length > 0) {
      <h2 i18n id="said-title">How they say they do it</h2>
      <table aria-labelledby="said-title">
        <thead>
          <tr>
            <td></td>
            <th i18n scope="col">last four weeks</th>
            <th i18n scope="col">before</th>
          </tr>
        </thead>
        <tbody>
          @for (one of ways(); track one.words) {
            <tr>
              <th scope="row">{{ one.words }}</th>
              <td>{{ one.lately }}</td>
              <td>{{ one.before }}</td>
            </tr>
          }
        </tbody>
      </table>
    } @else {
      <p i18n class="faint">Not noted yet. After a right answer on the carpet, one tap says how they did it.</p>
    }
    @if (helps(); as list) {
      <p i18n>After a first answer that was not right: {{ list }}.</p>
    }
    @if (ways().length > 0 || helps()) {
      <p i18n class="faint">As noted on the carpet. The readings do not use it.</p>
    }
  `,
  styles: `
    h2 {
      font-size: 22px;
      margin: 24px 0 4px;
    }
    th,
    td {
      text-align: left;
      font-weight: 400;
      padding: 4px 24px 4px 0;
    }
    thead th {
      color: var(--faint);
    }
  `,
})
export class SaidHow {
  readonly responses = input.required<readonly RecordRow[]>();
  /** Milliseconds since 1970: the page may look back from an earlier day. */
  readonly now = input.required<number>();
  readonly #read = computed(() => this.responses().map(toResponse));
  readonly ways = computed(() =>
    saidHow(this.#read(), this.now() - LATELY_MS).map((one) => ({
      ...one,
      words: words.record.explanations[one.explanation],
    })),
  );
  /** What helped, in one list; empty when nothing did. */
  readonly helps = computed(() =>
    words.listed(
      helped(this.#read()).map(
        ({ help, times, putRight }) => $localize`${words.record.helps[help]} (${times}, right afterwards ${putRight})`,
      ),
    ),
  );
}
