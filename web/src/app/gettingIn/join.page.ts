import { ChangeDetectionStrategy, Component, effect, inject, input, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { Router } from '@angular/router';
import { Trouble } from '../parts/trouble';
import { Api, inWords } from '../api/api';
import { Session } from '../signedIn/session';
import { whenThere } from '../api/whenThere';

/** Taking up an invitation. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule, Trouble],
  template: `
    <div class="page">
      @if (invitation.error()) {
        <h1 i18n>Join Vane</h1>
        <vane-trouble [of]="invitation" />
      } @else if (invitation.hasValue()) {
        <h1 i18n>Join Vane at {{ invitation.value().school }}</h1>
        <p i18n class="faint">You will sign in with {{ invitation.value().email }}.</p>
        <form [formGroup]="form" (ngSubmit)="join()" i18n-aria-label aria-label="Join">
          <mat-form-field appearance="outline">
            <mat-label i18n>Your name</mat-label>
            <input matInput autocomplete="name" formControlName="name" />
          </mat-form-field>
          <mat-form-field appearance="outline">
            <mat-label i18n>Choose a password</mat-label>
            <input matInput type="password" autocomplete="new-password" formControlName="password" />
            <mat-hint i18n>12 characters or more: use a few words.</mat-hint>
          </mat-form-field>
          @if (trouble()) {
            <p role="alert">{{ trouble() }}</p>
          }
          <button i18n matButton="filled" type="submit" [disabled]="form.invalid">Join</button>
        </form>
      } @else {
        <p i18n role="status">Looking for the invitation …</p>
      }
    </div>
  `,
  styleUrl: './narrow.scss',
})
export class JoinPage {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #router = inject(Router);
  readonly token = input.required<string>();
  readonly invitation = rxResource({
    params: () => this.token(),
    stream: ({ params }) => this.#api.ask('GET /join/:token', { token: params }),
  });
  readonly form = inject(NonNullableFormBuilder).group({
    name: ['', [Validators.required, Validators.pattern(/\S/)]],
    password: ['', [Validators.required, Validators.minLength(12)]],
  });
  readonly trouble = signal('');

  constructor() {
    // The name that the lead has written, until it is changed.
    effect(() => this.form.patchValue({ name: whenThere(this.invitation, (it) => it.name, '') }));
  }

  join(): void {
    this.#session.join({ token: this.token(), ...this.form.getRawValue() }).subscribe({
      next: () => void this.#router.navigateByUrl('/today'),
      error: (error: unknown) => this.trouble.set(inWords(error)),
    });
  }
}
