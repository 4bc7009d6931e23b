import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef, type MatDialog } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { map, type Observable } from 'rxjs';

/** A question to the adult: what would happen, and, where one is wanted, a line to fill in. */
export interface Question {
  readonly title: string;
  readonly words?: string;
  readonly field?: {
    readonly label: string;
    readonly value: string;
    /** Several lines. */
    readonly lines?: boolean;
    /** Text that must be typed to confirm an act that cannot be undone. */
    readonly must?: string;
  };
  /** What the button says. */
  readonly act: string;
}

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatDialogModule, MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  template: `
    <form (submit)="done($event)">
      <h2 mat-dialog-title>{{ question.title }}</h2>
      <mat-dialog-content>
        @if (question.words) {
          <p>{{ question.words }}</p>
        }
        @if (question.field; as field) {
          <mat-form-field appearance="outline">
            <mat-label>{{ field.label }}</mat-label>
            @if (field.lines) {
              <textarea matInput rows="8" cdkFocusInitial [formControl]="value"></textarea>
            } @else {
              <input matInput cdkFocusInitial autocomplete="off" [formControl]="value" />
            }
          </mat-form-field>
        }
      </mat-dialog-content>
      <mat-dialog-actions>
        <button i18n matButton type="button" [mat-dialog-close]="null">Cancel</button>
        <button matButton="filled" type="submit" [disabled]="!ready()">{{ question.act }}</button>
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-form-field {
      width: min(440px, 100%);
      margin-top: 8px;
    }
  `,
})
class AskDialog {
  readonly question = inject<Question>(MAT_DIALOG_DATA);
  readonly #ref = inject<MatDialogRef<AskDialog, string>>(MatDialogRef);
  readonly value = new FormControl(this.question.field?.must === undefined ? (this.question.field?.value ?? '') : '', {
    nonNullable: true,
  });

  ready(): boolean {
    const { field } = this.question;
    return (
      field === undefined ||
      (field.must === undefined ? this.value.value.trim() !== '' : this.value.value.trim() === field.must)
    );
  }
  done(event: Event): void {
    event.preventDefault();
    if (this.ready()) this.#ref.close(this.value.value.trim());
  }
}

/** Asks; gives what was written (or nothing but the consent, as an empty text), and null when the adult left it. */
export const ask = (dialog: MatDialog, question: Question): Observable<string | null> =>
  dialog
    .open<AskDialog, Question, string>(AskDialog, {
      data: question,
      autoFocus: 'first-tabbable',
      width: '500px',
      maxWidth: '94vw',
    })
    .afterClosed()
    .pipe(map((value) => value ?? null));
