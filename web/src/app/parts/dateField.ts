import { ChangeDetectionStrategy, Component, computed, effect, input, output } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { provideDateFnsAdapter } from '@angular/material-date-fns-adapter';
import { MAT_DATE_LOCALE } from '@angular/material/core';
import { MatDatepickerModule } from '@angular/material/datepicker';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { lightFormat, parseISO } from 'date-fns';
import { enGB } from 'date-fns/locale/en-GB';

const DAY = 'dd/MM/yyyy';
const DAY_OUTSIDE = 'yyyy-MM-dd';
const FORMATS = {
  parse: { dateInput: ['d/M/yy', DAY, 'd/M/yyyy', 'd MMM yyyy', DAY_OUTSIDE] },
  display: { dateInput: DAY, monthYearLabel: 'MMM yyyy', dateA11yLabel: 'PPPP', monthYearA11yLabel: 'MMMM yyyy' },
};

const dateOf = (text: string): Date | null => (text === '' ? null : parseISO(text));

/** A day, typed as day, month and year or chosen from a calendar. Outside it is YYYY-MM-DD, or empty for none. */
@Component({
  selector: 'vane-date-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatDatepickerModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  providers: [provideDateFnsAdapter(FORMATS), { provide: MAT_DATE_LOCALE, useValue: enGB }],
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      <mat-label>{{ label() }}</mat-label>
      <input
        matInput
        i18n-placeholder
        placeholder="day/month/year"
        autocomplete="off"
        [matDatepicker]="calendar"
        [formControl]="day"
        [min]="first()"
        [max]="last()"
        (dateChange)="say()"
      />
      <mat-datepicker-toggle matIconSuffix [for]="calendar" />
      <mat-datepicker #calendar />
      <mat-error>{{ wrong() }}</mat-error>
    </mat-form-field>
  `,
  styles: `
    mat-form-field {
      width: 100%;
    }
  `,
})
export class DateField {
  readonly label = input.required<string>();
  readonly value = input('');
  readonly min = input('');
  readonly max = input('');
  readonly picked = output<string>();
  readonly day = new FormControl<Date | null>(null);
  readonly first = computed(() => dateOf(this.min()));
  readonly last = computed(() => dateOf(this.max()));

  constructor() {
    effect(() => this.day.setValue(dateOf(this.value()), { emitEvent: false }));
  }

  /** Emits a valid day; anything else stays in the field with an error. */
  say(): void {
    const { value, valid } = this.day;
    this.day.markAsTouched();
    if (valid) this.picked.emit(value === null ? '' : lightFormat(value, DAY_OUTSIDE));
  }
  wrong(): string {
    if (this.day.hasError('matDatepickerMin')) return $localize`Not before ${lightFormat(this.first() ?? 0, DAY)}.`;
    if (this.day.hasError('matDatepickerMax')) return $localize`Not after ${lightFormat(this.last() ?? 0, DAY)}.`;
    return $localize`Type a date such as 25/11/2026.`;
  }
}
