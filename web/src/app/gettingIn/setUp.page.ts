import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { Router, RouterLink } from '@angular/router';
import { ownTimeZone, timeZones } from '../parts/timeZones';
import { linesOf } from '../parts/plainWords';
import { Api, inWords } from '../api/api';
import { Session } from '../signedIn/session';

/** First start without the demo, or in its place: one short form from nothing to a class. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ReactiveFormsModule, MatFormFieldModule, MatInputModule, MatButtonModule, RouterLink],
  template: `
    <div class="page">
      @if (demo()) {
        <h1>Start your own school</h1>
        <p>
          The demo makes way for it: its invented children and everything that was tried with them are deleted. You will
          be the administrator. <a [routerLink]="back()">Back to the demo</a>
        </p>
      } @else {
        <h1>Set up Vane</h1>
        <p class="faint">Nobody uses this Vane yet. You will be the administrator.</p>
      }
      <form [formGroup]="form" (ngSubmit)="setUp()" aria-label="Set up">
        <mat-form-field appearance="outline"
          ><mat-label>School</mat-label><input matInput formControlName="school" /><mat-error
            >Please name the school.</mat-error
          ></mat-form-field
        >
        <mat-form-field appearance="outline"
          ><mat-label>Class</mat-label><input matInput formControlName="className" /><mat-error
            >Please name the class.</mat-error
          ></mat-form-field
        >
        <mat-form-field appearance="outline"
          ><mat-label>Your name</mat-label><input matInput formControlName="name" autocomplete="name" /><mat-error
            >Please give your name.</mat-error
          ></mat-form-field
        >
        <mat-form-field appearance="outline"
          ><mat-label>E-mail</mat-label
          ><input matInput type="email" formControlName="email" autocomplete="username" /><mat-error
            >Please give an e-mail address.</mat-error
          ></mat-form-field
        >
        <mat-form-field appearance="outline">
          <mat-label>Password</mat-label
          ><input matInput type="password" formControlName="password" autocomplete="new-password" />
          <mat-hint>12 characters or more: a few words.</mat-hint>
          <mat-error>At least 12 characters.</mat-error>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label>Time zone of the school</mat-label>
          <select matNativeControl formControlName="timeZone">
            @for (zone of zones; track zone) {
              <option [value]="zone">{{ zone }}</option>
            }
          </select>
          <mat-hint>Vane counts days and weeks by it.</mat-hint>
        </mat-form-field>
        <mat-form-field appearance="outline" class="wide">
          <mat-label>Children, one nickname or number a line</mat-label>
          <textarea matInput rows="8" formControlName="children"></textarea>
          <mat-hint>Not full names: Vane needs only what you call out on the carpet.</mat-hint>
        </mat-form-field>
        @if (trouble()) {
          <p class="wide" role="alert">{{ trouble() }}</p>
        }
        <div class="wide">
          <button matButton="filled" type="submit" [disabled]="busy()">
            {{ busy() ? 'Setting up …' : demo() ? 'Delete the demo and start' : 'Set up' }}
          </button>
        </div>
      </form>
    </div>
  `,
  styles: `
    .page {
      max-width: 860px;
      padding-top: 40px;
    }
    form {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
      gap: 14px 24px;
      margin-top: 24px;
    }
    .wide {
      grid-column: 1 / -1;
    }
  `,
})
export class SetUpPage {
  readonly #session = inject(Session);
  readonly #router = inject(Router);
  readonly zones = timeZones(ownTimeZone());
  readonly form = inject(FormBuilder).nonNullable.group({
    school: ['', Validators.required],
    className: ['', Validators.required],
    name: ['', Validators.required],
    email: ['', [Validators.required, Validators.email]],
    password: ['', [Validators.required, Validators.minLength(12)]],
    timeZone: [ownTimeZone(), Validators.required],
    children: [''],
  });
  readonly busy = signal(false);
  readonly trouble = signal('');
  /** There is a demo to take the place of. */
  readonly demo = signal(false);
  readonly back = computed(() => (this.#session.me() === null ? '/sign-in' : '/today'));

  constructor() {
    inject(Api)
      .door()
      .subscribe({
        next: ({ needsSetUp, demo }) => {
          this.demo.set(demo !== null);
          if (!needsSetUp && demo === null) void this.#router.navigateByUrl('/sign-in');
        },
        error: (error: unknown) => this.trouble.set(inWords(error)),
      });
  }

  setUp(): void {
    if (this.form.invalid) return this.form.markAllAsTouched();
    const { children, ...rest } = this.form.getRawValue();
    this.busy.set(true);
    this.#session.setUp({ ...rest, children: linesOf(children) }).subscribe({
      next: () => void this.#router.navigateByUrl('/today'),
      error: (error: unknown) => {
        this.busy.set(false);
        this.trouble.set(inWords(error));
      },
    });
  }
}
