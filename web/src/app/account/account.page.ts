import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { Router } from '@angular/router';
import { switchMap } from 'rxjs';
import { Doing } from '../parts/doing';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';

/** An adult's own sign-in: password, pin, and the way out everywhere. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  templateUrl: './account.page.html',
  styles: `
    section {
      border-top: 1px solid var(--sand);
      padding: 16px 0;
      max-width: 720px;
    }
    h2 {
      font-size: 22px;
      margin-bottom: 6px;
    }
    form {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 16px;
      align-items: flex-start;
    }
    form button {
      margin-top: 6px;
    }
    .told:empty {
      display: none;
    }
  `,
})
export class AccountPage {
  readonly #api = inject(Api);
  readonly #router = inject(Router);
  readonly session = inject(Session);
  readonly #forms = inject(NonNullableFormBuilder);
  readonly passwords = this.#forms.group({
    old: ['', Validators.required],
    password: ['', [Validators.required, Validators.minLength(12)]],
  });
  /** `now` is the one that is to be changed or taken away. */
  readonly pins = this.#forms.group({ now: '', pin: ['', [Validators.required, Validators.minLength(4)]] });
  readonly doing = new Doing();

  changePassword(): void {
    const { old, password } = this.passwords.getRawValue();
    this.doing.run(
      this.#api.ask('PUT /me/password', { body: { old, password } }),
      $localize`Your password has been changed; every other device is signed out.`,
      () => this.passwords.reset(),
    );
  }
  setPin(pin: string | null): void {
    const { now } = this.pins.getRawValue();
    const body = { pin, ...(now === '' ? {} : { old: now }) };
    const act = this.#api.ask('PUT /me/pin', { body }).pipe(switchMap(() => this.session.refresh()));
    this.doing.run(
      act,
      pin === null ? $localize`Your PIN has been removed: devices no longer lock.` : $localize`Your PIN is set.`,
      () => this.pins.reset(),
    );
  }
  lock(): void {
    this.doing.run(this.session.lock());
  }
  leaveAll(): void {
    this.doing.run(this.#api.ask('POST /me/sign-out-everywhere'), '', () => {
      this.session.forget();
      void this.#router.navigateByUrl('/sign-in');
    });
  }
}
