import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from '@angular/core';
import { FormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import type { ChildRecord } from '@vane/contract';
import { strengths, USUAL_WORDS, type Need, type Words } from '@vane/core';
import { Api } from '../api/api';
import { pageWords } from '../language/pageWords';
import { Doing } from '../parts/doing';
import { Session } from '../signedIn/session';

/** Two sentences for the parents at the door: drawn from the record, and the teacher's own once they are changed. */
@Component({
  selector: 'vane-door',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ReactiveFormsModule, RouterLink, MatButtonModule, MatFormFieldModule, MatInputModule],
  template: `
    <form [formGroup]="form" (ngSubmit)="save(form.getRawValue().text)" i18n-aria-label aria-label="At the door">
      <mat-form-field appearance="outline">
        <mat-label i18n>To say to parents, without times or scores</mat-label>
        <textarea matInput formControlName="text" rows="3" maxlength="400"></textarea>
      </mat-form-field>
      <p>
        <button i18n matButton="outlined" type="submit" [disabled]="doing.busy() || form.pristine">Save</button>
        @if (record().door) {
          <button i18n matButton type="button" [disabled]="doing.busy()" (click)="save('')">
            From the record again
          </button>
        }
        <a i18n matButton routerLink="/prints" [queryParams]="{ what: 'evening', child: record().child.id }"
          >A page for a parents’ evening</a
        >
        <a i18n matButton routerLink="/prints" [queryParams]="{ what: 'home-sheet', child: record().child.id }"
          >Home sheet</a
        >
      </p>
    </form>
    <p class="faint">
      @if (record().door) {
        <ng-container i18n>Your own words. They stay until you change them.</ng-container>
      } @else {
        <ng-container i18n>From the record as it is today. Change it as you like.</ng-container>
      }
    </p>
    <p role="status">{{ doing.told() }}</p>
    @if (doing.trouble()) {
      <p role="alert">{{ doing.trouble() }}</p>
    }
  `,
  styles: `
    mat-form-field {
      width: 100%;
      max-width: 860px;
    }
    p {
      margin: 0;
    }
  `,
})
export class Door {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly record = input.required<ChildRecord>();
  /** What the plan has for the child. */
  readonly need = input.required<Need>();
  /** The class's words; the usual ones until they are known. */
  readonly words = input<Words>(USUAL_WORDS);
  readonly changed = output();

  readonly doing = new Doing();
  readonly form = inject(FormBuilder).nonNullable.group({ text: '' });
  readonly #drawn = computed(() => {
    const { child, readings } = this.record();
    return pageWords.door(child.nickname, strengths(readings), this.need(), this.words());
  });

  /** As it stands: the form follows it only where it changes, so that what is being typed outlives a record that is loaded again. */
  readonly #text = computed(() => this.record().door || this.#drawn());

  constructor() {
    effect(() => this.form.reset({ text: this.#text() }));
  }

  save(text: string): void {
    this.doing.run(
      this.#api.ask('PUT /classes/:classId/children/:childId', {
        classId: this.#session.classId(),
        childId: this.record().child.id,
        body: { door: text.trim() },
      }),
      $localize`Saved.`,
      () => this.changed.emit(),
    );
  }
}
