import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import type { OverruleView } from '@vane/contract';
import type { Observable } from 'rxjs';
import { isOpen, READING_WORDS, type ReadingWord } from '@vane/core';
import { Doing } from '../parts/doing';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';
import { Dates } from '../signedIn/dates';
import { words } from '../language/words';

/** The teacher's own word on a fact: what stands, with who said it, when and why; or a short form to say it. */
@Component({
  selector: 'vane-overrule',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ReactiveFormsModule, MatButtonModule, MatFormFieldModule, MatInputModule, MatSelectModule],
  template: `
    @if (standing(); as own) {
      <p class="own">
        <b i18n>{{ own.by }} says: {{ readingWord(own.reading) }}.</b> “{{ own.reason }}”
        <span i18n class="faint">{{ said() }}. Vane’s own reading stays above.</span>
        <button i18n matButton type="button" [disabled]="doing.busy()" (click)="takeBack(own.id)">Undo override</button>
      </p>
    } @else if (!open()) {
      <button i18n matButton type="button" class="say" (click)="open.set(true)">Override Vane’s view …</button>
    } @else {
      <form [formGroup]="form" (ngSubmit)="say()" i18n-aria-label aria-label="Your own judgement">
        <mat-form-field appearance="outline" class="word">
          <mat-label i18n>This child</mat-label>
          <mat-select formControlName="reading">
            @for (word of choices; track word) {
              <mat-option [value]="word">{{ readingWord(word) }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field appearance="outline" class="reason">
          <mat-label i18n>Why: what you saw or heard</mat-label>
          <input matInput formControlName="reason" maxlength="300" />
          <mat-error i18n>A few words, so that others understand.</mat-error>
        </mat-form-field>
        <button i18n matButton="outlined" type="submit" [disabled]="doing.busy()">Save</button>
        <button i18n matButton type="button" (click)="open.set(false)">Cancel</button>
      </form>
    }
    @if (doing.trouble()) {
      <p role="alert">{{ doing.trouble() }}</p>
    }
  `,
  styles: `
    .own {
      border-left: 3px solid var(--plum);
      padding-left: 12px;
    }
    .say {
      margin-left: -12px;
    }
    form {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 10px;
      align-items: flex-start;
    }
    .word {
      width: 160px;
    }
    .reason {
      flex: 1 1 260px;
    }
    form button {
      margin-top: 6px;
    }
  `,
})
export class OverruleForm {
  readonly #dates = inject(Dates);
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly childId = input.required<string>();
  readonly fact = input.required<string>();
  readonly overrules = input.required<readonly OverruleView[]>();
  readonly changed = output<readonly OverruleView[]>();

  readonly readingWord = (code: ReadingWord): string => words.readings.readings[code];
  readonly choices = READING_WORDS.filter((word) => !isOpen(word));
  /** Closed again whenever another fact is chosen. */
  readonly open = linkedSignal({ source: () => this.fact(), computation: () => false });
  readonly doing = new Doing();
  readonly standing = computed(() => this.overrules().find((o) => o.fact === this.fact()) ?? null);
  readonly said = computed(() => this.#dates.dayOfYear(this.standing()?.madeAt ?? 0));
  readonly form = inject(FormBuilder).nonNullable.group({
    reading: ['knows' as ReadingWord, Validators.required],
    reason: ['', [Validators.required, Validators.minLength(3)]],
  });

  say(): void {
    if (this.form.invalid) return this.form.markAllAsTouched();
    this.#send(
      this.#api.ask('POST /classes/:classId/children/:childId/overrules', {
        classId: this.#session.classId(),
        childId: this.childId(),
        body: { fact: this.fact(), ...this.form.getRawValue() },
      }),
    );
  }
  takeBack(id: string): void {
    this.#send(
      this.#api.ask('DELETE /classes/:classId/children/:childId/overrules/:id', {
        classId: this.#session.classId(),
        childId: this.childId(),
        id,
      }),
    );
  }

  #send(act: Observable<readonly OverruleView[]>): void {
    this.doing.run(act, '', (overrules) => {
      this.open.set(false);
      this.form.reset();
      this.changed.emit(overrules);
    });
  }
}
