import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import type { RecordRow } from '@vane/contract';
import { parseObserved, type Sign } from '@vane/core';
import { labels } from '../language/labels';
import { words } from '../language/words';
import { FINER_WORDS, SIGN_WORDS } from './answers/signWords';
import { withFiner, withSign, type FinerSign } from './sitting/marks';
import type { Sitting } from './sitting/sitting';

/** The last few answers: their signs can be corrected once the children are talking and there is time. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatDialogModule],
  template: `
    <h2 i18n mat-dialog-title>Last answers</h2>
    <mat-dialog-content tabindex="0">
      @if (rows().length === 0) {
        <p i18n>No answers yet.</p>
      }
      <ul>
        @for (one of rows(); track one.row.response_id) {
          <li>
            <p [class.void]="one.row.void !== ''">
              <b>{{ one.who }}</b> {{ one.fact }} → {{ one.given }}
              @if (one.row.void !== '') {
                <span i18n class="faint">(void)</span>
              }
            </p>
            <div class="signs" role="group" [attr.aria-label]="labels.signsOf(one.who, one.fact)">
              @for (entry of signs; track entry.sign) {
                <button
                  type="button"
                  [attr.aria-pressed]="one.sign === entry.sign"
                  (click)="toggleSign(one.row, entry.sign)"
                >
                  {{ entry.words }}
                </button>
              }
              @for (entry of finer; track entry.code) {
                <button
                  type="button"
                  [attr.aria-pressed]="one.finer.includes(entry.code)"
                  (click)="toggleFiner(one.row, entry.code)"
                >
                  {{ entry.words }}
                </button>
              }
            </div>
          </li>
        }
      </ul>
    </mat-dialog-content>
    <mat-dialog-actions><button i18n matButton="filled" mat-dialog-close>Close</button></mat-dialog-actions>
  `,
  styleUrl: './signs.scss',
  styles: `
    ul {
      list-style: none;
      padding: 0;
      margin: 0;
    }
    li {
      padding: 8px 0 12px;
      border-bottom: 1px solid var(--sand);
    }
    p {
      margin: 0 0 8px;
      font-size: 18px;
    }
    .void {
      text-decoration: line-through;
    }
  `,
})
export class LastAnswers {
  readonly labels = labels;
  readonly signs = SIGN_WORDS;
  readonly finer = FINER_WORDS;
  readonly #sitting = inject<Sitting>(MAT_DIALOG_DATA);
  readonly rows = computed(() =>
    this.#sitting.last().map((row) => {
      const { sign, finerSigns: finer } = parseObserved(row.observed) ?? { sign: null, finerSigns: [] };
      const who = this.#sitting.wish.classmates.find(({ id }) => id === row.child)?.nickname ?? '';
      return {
        row,
        who,
        sign,
        finer: finer,
        fact: words.fact(row.fact),
        given: row.given === '' ? $localize`no answer` : row.given,
      };
    }),
  );

  toggleSign(row: RecordRow, sign: Sign): void {
    this.#sitting.markEarlier(row.response_id, (marks) => withSign(marks, sign));
  }
  toggleFiner(row: RecordRow, sign: FinerSign): void {
    this.#sitting.markEarlier(row.response_id, (marks) => withFiner(marks, sign));
  }
}
