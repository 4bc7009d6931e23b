import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule } from '@angular/material/dialog';
import { KEYS, THEN_KEYS } from './keys';

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatDialogModule, MatButtonModule],
  template: `
    <h2 i18n mat-dialog-title>Keys on the carpet</h2>
    <mat-dialog-content tabindex="0">
      <dl>
        @for (entry of keys; track entry.key) {
          <div>
            <dt>
              <kbd>{{ entry.shown }}</kbd>
            </dt>
            <dd>{{ entry.does }}</dd>
          </div>
        }
      </dl>
    </mat-dialog-content>
    <mat-dialog-actions><button i18n matButton="filled" mat-dialog-close>Close</button></mat-dialog-actions>
  `,
  styles: `
    div {
      display: grid;
      grid-template-columns: 110px 1fr;
      padding: 3px 0;
    }
    dd {
      margin: 0;
    }
    kbd {
      font: 16px var(--plain);
    }
  `,
})
export class KeysDialog {
  /** Digits 1 to 9 do what 0 does: one line says it. */
  readonly keys = KEYS.filter((entry) => entry.does !== '').map((entry) =>
    entry.key === '0'
      ? { ...entry, shown: '0 … 9' }
      : entry.key === THEN_KEYS[0]
        ? { ...entry, shown: THEN_KEYS.join(' ') }
        : entry,
  );
}
