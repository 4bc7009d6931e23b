import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
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
  imports: [MatButtonModule, MatFormFieldModule, MatInputModule],
  template: `
    <form class="page" (submit)="unlock($event)" aria-label="Locked">
      <h1>Locked</h1>
      <p>
        Give the pin of {{ session.me()?.adult?.name }}. Five wrong ones sign this device out; what was marked on it
        stays here and is sent later.
      </p>
      <mat-form-field appearance="outline">
        <mat-label>Pin</mat-label>
        <input
          #line
          matInput
          type="password"
          inputmode="numeric"
          autocomplete="off"
          [value]="pin()"
          (input)="pin.set(line.value)"
        />
      </mat-form-field>
      @if (trouble()) {
        <p role="alert">{{ trouble() }}</p>
      }
      <p>
        <button matButton="filled" type="submit" [disabled]="pin() === ''">Unlock</button>
        <button matButton type="button" (click)="signOut()">Sign out</button>
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
  readonly pin = signal('');
  readonly trouble = signal('');

  unlock(event: Event): void {
    event.preventDefault();
    this.trouble.set('');
    this.session.unlock(this.pin()).subscribe({
      error: (error: unknown) => {
        this.pin.set('');
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
