import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { FormControl, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import { Api, inWords } from '../api/api';

/** A new password, by the link from a letter. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule, RouterLink],
  template: `
    <div class="page">
      <h1 i18n>A new password</h1>
      @if (done()) {
        <p i18n role="status">
          Your new password is set; every other device is signed out. <a routerLink="/sign-in">Sign in</a>
        </p>
      } @else {
        <form (submit)="set($event)" i18n-aria-label aria-label="New password">
          <mat-form-field appearance="outline">
            <mat-label i18n>New password</mat-label>
            <input matInput type="password" autocomplete="new-password" [formControl]="password" />
            <mat-hint i18n>12 characters or more: use a few words.</mat-hint>
          </mat-form-field>
          @if (trouble()) {
            <p role="alert">{{ trouble() }}</p>
          }
          <button i18n matButton="filled" type="submit" [disabled]="password.invalid">Set password</button>
        </form>
      }
    </div>
  `,
  styleUrl: './narrow.scss',
})
export class ResetPage {
  readonly #api = inject(Api);
  readonly token = input.required<string>();
  readonly password = new FormControl('', {
    nonNullable: true,
    validators: [Validators.required, Validators.minLength(12)],
  });
  readonly trouble = signal('');
  readonly done = signal(false);

  set(event: Event): void {
    event.preventDefault();
    this.#api.ask('POST /reset', { body: { token: this.token(), password: this.password.value } }).subscribe({
      next: () => this.done.set(true),
      error: (error: unknown) => this.trouble.set(inWords(error)),
    });
  }
}
