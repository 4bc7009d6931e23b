import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import type { Door } from '@vane/contract';
import { Api, inWords } from '../api/api';
import { Session } from '../signedIn/session';

/** The door. It loads before anything else, so its two fields are the browser's own: without the packages for forms it is a sixth smaller. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, RouterLink],
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
      <form novalidate (submit)="signIn($event)" i18n-aria-label aria-label="Sign in">
        <label>
          <span i18n>E-mail</span>
          <input
            #emailField
            type="email"
            autocomplete="username"
            [value]="email()"
            (input)="email.set(emailField.value)"
            (change)="email.set(emailField.value)"
            [attr.aria-invalid]="missing() === 'email' || null"
            [attr.aria-describedby]="missing() === 'email' ? 'missing' : null"
          />
        </label>
        @if (missing() === 'email') {
          <p i18n id="missing" class="trouble" role="alert">Please enter your e-mail address.</p>
        }
        <label>
          <span i18n>Password</span>
          <input
            #passwordField
            type="password"
            autocomplete="current-password"
            [value]="password()"
            (input)="password.set(passwordField.value)"
            (change)="password.set(passwordField.value)"
            [attr.aria-invalid]="missing() === 'password' || null"
            [attr.aria-describedby]="missing() === 'password' ? 'missing' : null"
          />
        </label>
        @if (missing() === 'password') {
          <p i18n id="missing" class="trouble" role="alert">Please enter your password.</p>
        }
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
            If this address is known here, a letter with a link is on its way. Where Vane sends no e-mail of its own,
            ask the person who looks after it.
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
    label {
      display: grid;
      gap: 4px;
      margin-bottom: 8px;
    }
    input {
      height: 56px;
      padding: 0 16px;
      font: inherit;
      color: inherit;
      background: transparent;
      border: 1px solid var(--faint);
      border-radius: 4px;
    }
    input[aria-invalid] {
      border-color: var(--lamp);
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
  readonly email = signal('');
  readonly password = signal('');
  /** Which field was left empty. */
  readonly missing = signal<'email' | 'password' | null>(null);
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
    this.email.set(demo.email);
    this.password.set(demo.password);
    this.signIn();
  }

  readonly sent = signal(false);
  forgotten(): void {
    const email = this.email();
    this.missing.set(email.trim() === '' ? 'email' : null);
    this.trouble.set('');
    if (this.missing() !== null) return;
    this.#api
      .ask('POST /forgotten', { body: { email } })
      .subscribe({ next: () => this.sent.set(true), error: (error: unknown) => this.trouble.set(inWords(error)) });
  }

  signIn(submitted?: Event): void {
    submitted?.preventDefault();
    const [email, password] = [this.email(), this.password()];
    this.missing.set(email.trim() === '' ? 'email' : password === '' ? 'password' : null);
    this.trouble.set('');
    if (this.missing() !== null) return;
    this.busy.set(true);
    this.#session.signIn(email, password).subscribe({
      next: () => void this.#router.navigateByUrl('/today'),
      error: (error: unknown) => {
        this.busy.set(false);
        this.trouble.set(inWords(error));
      },
    });
  }
}
