import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from '@angular/core';
import { FormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { SupportView } from '@vane/contract';
import { SUPPORTS, type Support } from '@vane/core';
import { Api } from '../api/api';
import { pageWords } from '../language/pageWords';
import { Doing } from '../parts/doing';
import { Dates } from '../signedIn/dates';
import { Session } from '../signedIn/session';

/** Adjustments for the child, ticked and in a line: never why. */
@Component({
  selector: 'vane-support',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ReactiveFormsModule, MatButtonModule, MatCheckboxModule, MatFormFieldModule, MatInputModule],
  template: `
    <p i18n class="faint">
      Only what to do, never why, and no diagnosis. The carpet follows it, the plan leaves out what does not suit, and
      the times are compared with this child’s own in the same way of answering. Only adults of this class and leads see
      it; it is printed only where you tick it.
    </p>
    <form [formGroup]="form" (ngSubmit)="save()" i18n-aria-label aria-label="Adjustments">
      @for (one of all; track one) {
        <mat-checkbox [formControlName]="one">{{ wordsOf[one] }}</mat-checkbox>
      }
      <mat-form-field appearance="outline">
        <mat-label i18n>In your own words: what to do</mat-label>
        <input matInput formControlName="words" maxlength="200" autocomplete="off" />
      </mat-form-field>
      <button i18n matButton="outlined" type="submit" [disabled]="doing.busy() || form.pristine">Save</button>
    </form>
    @if (support().by) {
      <p i18n class="faint">{{ support().by }}, {{ said() }}</p>
    }
    <p role="status">{{ doing.told() }}</p>
    @if (doing.trouble()) {
      <p role="alert">{{ doing.trouble() }}</p>
    }
  `,
  styles: `
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0 16px;
    }
    mat-form-field {
      flex: 1 1 320px;
      max-width: 560px;
    }
    form button {
      margin-bottom: 20px;
    }
    p {
      max-width: 60em;
    }
  `,
})
export class SupportForm {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #dates = inject(Dates);
  readonly childId = input.required<string>();
  readonly support = input.required<SupportView>();
  readonly changed = output();

  readonly all = SUPPORTS;
  readonly wordsOf = pageWords.supports;
  readonly doing = new Doing();
  readonly form = inject(FormBuilder).nonNullable.group({
    ...(Object.fromEntries(SUPPORTS.map((one) => [one, false])) as Record<Support, boolean>),
    words: '',
  });

  /** As it was said last: the form follows it only where that changes, so that what is being ticked and typed outlives a record that is loaded again. */
  readonly #said = computed(() => this.support(), { equal: (a, b) => a.madeAt === b.madeAt && a.by === b.by });

  constructor() {
    effect(() => {
      const { supports, words } = this.#said();
      this.form.reset({ ...Object.fromEntries(SUPPORTS.map((one) => [one, supports.includes(one)])), words });
    });
  }

  said(): string {
    return this.#dates.dayOfYear(this.support().madeAt ?? 0);
  }

  save(): void {
    const { words, ...ticked } = this.form.getRawValue();
    const support = { supports: SUPPORTS.filter((one) => ticked[one]), words: words.trim() };
    this.doing.run(
      this.#api.ask('PUT /classes/:classId/children/:childId', {
        classId: this.#session.classId(),
        childId: this.childId(),
        body: { support },
      }),
      $localize`Saved.`,
      () => this.changed.emit(),
    );
  }
}
