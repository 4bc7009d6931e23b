import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
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
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule],
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
  readonly old = signal('');
  readonly password = signal('');
  readonly pin = signal('');
  /** The one that is to be changed or taken away. */
  readonly pinNow = signal('');
  readonly doing = new Doing();

  changePassword(event: Event): void {
    event.preventDefault();
    this.doing.run(
      this.#api.changePassword(this.old(), this.password()),
      $localize`Your password has been changed; every other device is signed out.`,
      () => {
        this.old.set('');
        this.password.set('');
      },
    );
  }
  setPin(event: Event, pin: string | null): void {
    event.preventDefault();
    const act = this.#api.setPin(pin, this.pinNow()).pipe(switchMap(() => this.session.refresh()));
    this.doing.run(
      act,
      pin === null ? $localize`Your PIN has been removed: devices no longer lock.` : $localize`Your PIN is set.`,
      () => [this.pin, this.pinNow].forEach((field) => field.set('')),
    );
  }
  lock(): void {
    this.doing.run(this.session.lock());
  }
  leaveAll(): void {
    this.doing.run(this.#api.signOutEverywhere(), '', () => {
      this.session.forget();
      void this.#router.navigateByUrl('/sign-in');
    });
  }
}
