import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef, type MatDialog } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { RollOverRequest } from '@vane/contract';
import { map, type Observable } from 'rxjs';
import { words } from '../language/words';

interface YearEnd {
  readonly from: string;
  readonly children: readonly { readonly id: string; readonly nickname: string }[];
}

/** The end of a year: who goes on to the new class, with the whole record. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatButtonModule,
    MatCheckboxModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    ReactiveFormsModule,
  ],
  template: `
    <form (submit)="done($event)">
      <h2 i18n mat-dialog-title>End of the year for {{ year.from }}</h2>
      <mat-dialog-content>
        <p i18n>
          Children who move up take their records with them. {{ year.from }} is archived, with the children who do not.
          Nothing is deleted.
        </p>
        <mat-form-field appearance="outline">
          <mat-label i18n>Name of the new class</mat-label>
          <input matInput cdkFocusInitial autocomplete="off" [formControl]="name" />
        </mat-form-field>
        <div class="children" role="group" i18n-aria-label aria-label="Who moves up">
          @for (child of year.children; track child.id) {
            <mat-checkbox [formControl]="going.controls[child.id]!">{{ child.nickname }}</mat-checkbox>
          }
        </div>
      </mat-dialog-content>
      <mat-dialog-actions>
        <button i18n matButton type="button" [mat-dialog-close]="null">Cancel</button>
        <button matButton="filled" type="submit" [disabled]="name.invalid">{{ act() }}</button>
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-form-field {
      width: min(440px, 100%);
      margin-top: 8px;
    }
    .children {
      columns: 180px;
    }
    mat-checkbox {
      display: block;
    }
  `,
})
class RollOverDialog {
  readonly year = inject<YearEnd>(MAT_DIALOG_DATA);
  readonly #ref = inject<MatDialogRef<RollOverDialog, RollOverRequest>>(MatDialogRef);
  readonly name = new FormControl('', {
    nonNullable: true,
    validators: [Validators.required, Validators.pattern(/\S/)],
  });
  readonly going = inject(NonNullableFormBuilder).record(
    Object.fromEntries(this.year.children.map((child) => [child.id, true])),
  );
  readonly #ids = toSignal(this.going.valueChanges.pipe(map(() => this.#ticked())), { initialValue: this.#ticked() });
  readonly act = computed(() => $localize`Move up ${words.counted.children(this.#ids().length)}`);

  #ticked(): string[] {
    return Object.entries(this.going.getRawValue()).flatMap(([id, ticked]) => (ticked ? [id] : []));
  }
  done(event: Event): void {
    event.preventDefault();
    this.#ref.close({ name: this.name.value.trim(), children: this.#ids() });
  }
}

export const askRollOver = (dialog: MatDialog, year: YearEnd): Observable<RollOverRequest | null> =>
  dialog
    .open<RollOverDialog, YearEnd, RollOverRequest>(RollOverDialog, { data: year, maxWidth: 'min(640px, 94vw)' })
    .afterClosed()
    .pipe(map((wish) => wish ?? null));
