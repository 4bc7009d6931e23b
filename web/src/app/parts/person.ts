import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { ReactiveFormsModule, type FormGroup } from '@angular/forms';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';

/** Who is to be invited: the fields `name` and `email` of a form. */
@Component({
  selector: 'vane-person',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  template: `
    <ng-container [formGroup]="of()">
      <mat-form-field appearance="outline">
        <mat-label>{{ label() }}</mat-label>
        <input matInput autocomplete="off" formControlName="name" />
      </mat-form-field>
      <mat-form-field appearance="outline">
        <mat-label i18n>E-mail</mat-label>
        <input matInput type="email" autocomplete="off" formControlName="email" />
      </mat-form-field>
    </ng-container>
  `,
  styles: `
    :host {
      display: contents;
    }
    mat-form-field {
      width: var(--field, auto);
    }
  `,
})
export class Person {
  readonly of = input.required<FormGroup>();
  readonly label = input($localize`Name`);
}
