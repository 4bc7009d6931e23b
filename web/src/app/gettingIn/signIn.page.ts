import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { Router, RouterLink } from '@angular/router';
import type { Door } from '@vane/contract';
import { Api, inWords } from '../api/api';
import { Session } from '../signedIn/session';

@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ReactiveFormsModule, MatFormFieldModule, MatInputModule, MatButtonModule, RouterLink],
  template: `
    <div class="door">
      <section class="say">
        <svg viewBox="0 0 32 32" width="64" height="64" aria-hidden="true">
          <path
            d="M16 29V4M3 11h25M23 6l6 5-6 5M3 6v10M10 29h12"
            fill="none"
            stroke="currentColor"
            stroke-width="1.6"
            stroke-linejoin="round"
            stroke-linecap="round"
          />
        </svg>
        <h1 i18n>Vane</h1>
        <p i18n>
          Which facts within ten does a child know, and which are still counted? Vane shows which way each one leans.
        </p>
      </section>
      <form [formGroup]="form" (ngSubmit)="signIn()" i18n-aria-label aria-label="Sign in">
        <mat-form-field appearance="outline">
          <mat-label i18n>E-mail</mat-label>
          <input matInput type="email" formControlName="email" autocomplete="username" />
          <mat-error i18n>Please enter your e-mail address.</mat-error>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label i18n>Password</mat-label>
          <input matInput type="password" formControlName="password" autocomplete="current-password" />
          <mat-error i18n>Please enter your password.</mat-error>
        </mat-form-field>
        @if (trouble()) {
          <p class="trouble" role="alert">{{ trouble() }}</p>
        }
        <button matButton="filled" type="submit" [disabled]="busy()">
          @if (busy()) {
            <ng-container i18n>Signing in …</ng-container>
          } @else {
            <ng-container i18n>Sign in</ng-container>
          }
        </button>
        @if (sent()) {
          <p i18n role="status">
            If this address is known here, an e-mail with a link has been sent. Vane’s e-mail is simulated: ask the
            person who looks after it for the letter.
          </p>
        } @else {
          <button i18n matButton type="button" (click)="forgotten()">I have forgotten my password</button>
        }
        @if (door()?.demo; as demo) {
          <div class="demo">
            <p i18n>This is the harbour demo: invented children, made-up results.</p>
            <button i18n matButton="outlined" type="button" (click)="useDemo(demo)" [disabled]="busy()">
              Use the demo sign-in
            </button>
            <a i18n matButton routerLink="/set-up">Start your own school</a>
          </div>
        }
      </form>
    </div>
  `,
  styles: `
    .door {
      min-height: 100vh;
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 420px);
      gap: 32px 80px;
      align-items: center;
      max-width: 1060px;
      margin: 0 auto;
      padding: 24px 40px;
    }
    .say {
      color: var(--ink);
    }
    .say svg {
      color: var(--tide);
    }
    h1 {
      font-size: 56px;
      margin: 8px 0 12px;
    }
    .say p {
      font: 22px/1.5 var(--reading);
      max-width: 24em;
    }
    form {
      display: grid;
      gap: 8px;
    }
    .trouble {
      color: var(--lamp);
    }
    .demo {
      margin-top: 20px;
      color: var(--faint);
    }
    @media (max-width: 820px) {
      .door {
        grid-template-columns: 1fr;
        align-content: center;
        padding: 24px 20px;
      }
    }
  `,
})
export class SignInPage {
  readonly #session = inject(Session);
  readonly #router = inject(Router);
  readonly #api = inject(Api);
  readonly form = inject(FormBuilder).nonNullable.group({
    email: ['', Validators.required],
    password: ['', Validators.required],
  });
  readonly door = signal<Door | null>(null);
  readonly busy = signal(false);
  readonly trouble = signal('');

  constructor() {
    this.#api.ask('GET /door').subscribe({
      next: (door) => {
        this.door.set(door);
        if (door.needsSetUp) void this.#router.navigateByUrl('/set-up');
      },
      error: (error: unknown) => this.trouble.set(inWords(error)),
    });
  }

  useDemo(demo: NonNullable<Door['demo']>): void {
    this.form.setValue(demo);
    this.signIn();
  }

  readonly sent = signal(false);
  forgotten(): void {
    const { email } = this.form.getRawValue();
    if (email.trim() === '') return this.form.controls.email.markAsTouched();
    this.trouble.set('');
    this.#api
      .ask('POST /forgotten', { body: { email } })
      .subscribe({ next: () => this.sent.set(true), error: (error: unknown) => this.trouble.set(inWords(error)) });
  }

  signIn(): void {
    if (this.form.invalid) return this.form.markAllAsTouched();
    const { email, password } = this.form.getRawValue();
    this.busy.set(true);
    this.trouble.set('');
    this.#session.signIn(email, password).subscribe({
      next: () => void this.#router.navigateByUrl('/today'),
      error: (error: unknown) => {
        this.busy.set(false);
        this.trouble.set(inWords(error));
      },
    });
  }
}
