import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { Router } from '@angular/router';
import { inWords, problemOf } from '../api/api';
import { Session } from './session';

/** The device waits for its adult. Nothing of any child is on the page meanwhile. */
@Component({
  selector: 'vane-locked',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  template: `
    <form class="page" (submit)="unlock($event)" i18n-aria-label aria-label="Locked">
      <h1 i18n>Locked</h1>
      <p i18n>
        Enter {{ session.me()?.adult?.name }}’s PIN. After five wrong tries this device is signed out; answers saved on
        it stay and are sent later.
      </p>
      <mat-form-field appearance="outline">
        <mat-label i18n>PIN</mat-label>
        <input matInput type="password" inputmode="numeric" autocomplete="off" [formControl]="pin" />
      </mat-form-field>
      @if (trouble()) {
        <p role="alert">{{ trouble() }}</p>
      }
      <p>
        <button i18n matButton="filled" type="submit" [disabled]="pin.invalid">Unlock</button>
        <button i18n matButton type="button" (click)="signOut()">Sign out</button>
      </p>
    </form>
  `,
  styles: `
    form {
      max-width: 480px;
      padding-top: 15vh;
    }
    mat-form-field {
      width: 100%;
    }
  `,
})
export class Locked {
  readonly session = inject(Session);
  readonly #router = inject(Router);
  readonly pin = new FormControl('', { nonNullable: true, validators: Validators.required });
  readonly trouble = signal('');

  unlock(event: Event): void {
    event.preventDefault();
    this.trouble.set('');
    this.session.unlock(this.pin.value).subscribe({
      error: (error: unknown) => {
        this.pin.reset();
        if (problemOf(error)?.code === 'not-signed-in') return this.#out();
        this.trouble.set(inWords(error));
      },
    });
  }
  signOut(): void {
    this.session
      .signOut()
      .subscribe({ next: () => this.#out(), error: (error: unknown) => this.trouble.set(inWords(error)) });
  }
  #out(): void {
    this.session.forget();
    void this.#router.navigateByUrl('/sign-in');
  }
}
