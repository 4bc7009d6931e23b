import { Location } from '@angular/common';
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
        <h1 i18n>Start your own school</h1>
        <p i18n>
          This replaces the demo: its invented children and everything you tried with them are deleted. You will be the
          administrator. <a [routerLink]="back()">Back to the demo</a>
        </p>
      } @else {
        <h1 i18n>Set up Vane</h1>
        <p i18n class="faint">Nobody uses this copy of Vane yet. You will be the administrator.</p>
      }
      <form [formGroup]="form" (ngSubmit)="setUp()" i18n-aria-label aria-label="Set up">
        @if (codeCame === '' || trouble()) {
          <mat-form-field appearance="outline" class="wide"
            ><mat-label i18n>Code</mat-label
            ><input matInput formControlName="code" autocomplete="off" autocapitalize="characters" /><mat-hint i18n
              >It is shown in the window where Vane was started.</mat-hint
            ><mat-error i18n>Please enter the code.</mat-error></mat-form-field
          >
        }
        <mat-form-field appearance="outline"
          ><mat-label i18n>School</mat-label><input matInput formControlName="school" /><mat-error i18n
            >Please enter the school’s name.</mat-error
          ></mat-form-field
        >
        <mat-form-field appearance="outline"
          ><mat-label i18n>Class</mat-label><input matInput formControlName="className" /><mat-error i18n
            >Please enter the class’s name.</mat-error
          ></mat-form-field
        >
        <mat-form-field appearance="outline"
          ><mat-label i18n>Your name</mat-label><input matInput formControlName="name" autocomplete="name" /><mat-error
            i18n
            >Please enter your name.</mat-error
          ></mat-form-field
        >
        <mat-form-field appearance="outline"
          ><mat-label i18n>E-mail</mat-label
          ><input matInput type="email" formControlName="email" autocomplete="username" /><mat-error i18n
            >Please enter an e-mail address.</mat-error
          ></mat-form-field
        >
        <mat-form-field appearance="outline">
          <mat-label i18n>Password</mat-label
          ><input matInput type="password" formControlName="password" autocomplete="new-password" />
          <mat-hint i18n>12 characters or more: use a few words.</mat-hint>
          <mat-error i18n>At least 12 characters.</mat-error>
        </mat-form-field>
        <mat-form-field appearance="outline">
          <mat-label i18n>Time zone of the school</mat-label>
          <select matNativeControl formControlName="timeZone">
            @for (zone of zones; track zone) {
              <option [value]="zone">{{ zone }}</option>
            }
          </select>
          <mat-hint i18n>Vane counts days and weeks by this.</mat-hint>
        </mat-form-field>
        <mat-form-field appearance="outline" class="wide">
          <mat-label i18n>Children, one nickname or number on each line</mat-label>
          <textarea matInput rows="8" formControlName="children"></textarea>
          <mat-hint i18n>Not full names: Vane only needs what you call out on the carpet.</mat-hint>
        </mat-form-field>
        @if (trouble()) {
          <p class="wide" role="alert">{{ trouble() }}</p>
        }
        <div class="wide">
          <button matButton="filled" type="submit" [disabled]="busy()">
            @if (busy()) {
              <ng-container i18n>Setting up …</ng-container>
            } @else if (demo()) {
              <ng-container i18n>Delete the demo and start</ng-container>
            } @else {
              <ng-container i18n>Set up</ng-container>
            }
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
  /** The address that the window shows has the code behind its #, where neither a server nor its log sees it. */
  readonly codeCame = inject(Location).path(true).split('#')[1] ?? '';
  readonly form = inject(FormBuilder).nonNullable.group({
    code: [this.codeCame, Validators.required],
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
      .ask('GET /door')
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
