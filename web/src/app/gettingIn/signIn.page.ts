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
        @for (field of fields; track field.name) {
          <label>
            {{ field.label }}
            <input
              #typed
              [type]="field.name"
              [autocomplete]="field.completed"
              [value]="given()[field.name]"
              (input)="give(field.name, typed.value)"
              (change)="give(field.name, typed.value)"
              [attr.aria-invalid]="missing() === field.name || null"
              [attr.aria-describedby]="missing() === field.name ? 'missing' : null"
            />
          </label>
          @if (missing() === field.name) {
            <p id="missing" class="trouble" role="alert">{{ field.wanted }}</p>
          }
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
            If this address is known here, Vane sends a letter with a link. Where it sends no e-mail of its own, ask the
            person who looks after it.
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
  readonly fields = [
    {
      name: 'email',
      completed: 'username',
      label: $localize`E-mail`,
      wanted: $localize`Please enter your e-mail address.`,
    },
    {
      name: 'password',
      completed: 'current-password',
      label: $localize`Password`,
      wanted: $localize`Please enter your password.`,
    },
  ] as const;
  readonly given = signal({ email: '', password: '' });
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
    this.given.set(demo);
    this.signIn();
  }

  give(field: 'email' | 'password', value: string): void {
    this.given.update((given) => ({ ...given, [field]: value }));
    this.missing.set(null);
  }

  readonly sent = signal(false);
  forgotten(): void {
    const { email } = this.given();
    this.missing.set(email.trim() === '' ? 'email' : null);
    this.trouble.set('');
    if (this.missing() !== null) return;
    this.#api
      .ask('POST /forgotten', { body: { email } })
      .subscribe({ next: () => this.sent.set(true), error: (error: unknown) => this.trouble.set(inWords(error)) });
  }

  signIn(submitted?: Event): void {
    submitted?.preventDefault();
    const { email, password } = this.given();
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
