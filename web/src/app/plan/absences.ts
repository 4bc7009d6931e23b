import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import type { ChildView, WeekSettings } from '@vane/contract';
import { dateOfDay, dayOfDate, schoolDays } from '@vane/core/time/schoolDay';
import { labels } from '../language/labels';
import { DateField } from '../parts/dateField';
import { Dates } from '../signedIn/dates';
import { Session } from '../signedIn/session';

/** Who is away from when to when: the plan does without them, and they come first when they are back. */
@Component({
  selector: 'vane-absences',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DateField, MatButtonModule, MatFormFieldModule, MatSelectModule],
  template: `
    <details>
      <summary i18n>Away: {{ listed().length }}</summary>
      <ul i18n-aria-label aria-label="Away">
        @for (one of listed(); track one.key) {
          <li>
            {{ one.words }}
            <button i18n matButton type="button" [attr.aria-label]="labels.remove(one.words)" (click)="remove(one.at)">
              Remove
            </button>
          </li>
        }
      </ul>
      <div class="add">
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label i18n>Who</mat-label>
          <mat-select [value]="child()" (valueChange)="child.set($event)">
            @for (one of children(); track one.id) {
              <mat-option [value]="one.id">{{ one.nickname }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <vane-date-field i18n-label label="From" [min]="today" [value]="from()" (picked)="from.set($event || today)" />
        <vane-date-field i18n-label label="To" [min]="from()" [value]="last()" (picked)="to.set($event)" />
        <button i18n matButton="outlined" type="button" [disabled]="!child()" (click)="add()">Add</button>
      </div>
    </details>
  `,
  styles: `
    summary {
      min-height: 44px;
      line-height: 44px;
      cursor: pointer;
      color: var(--tide);
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    .add {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 12px;
      padding: 4px 0 12px;
    }
    mat-form-field,
    vane-date-field {
      width: 200px;
    }
  `,
})
export class Absences {
  readonly labels = labels;
  readonly #dates = inject(Dates);
  readonly #todayNumber = schoolDays(inject(Session).timeZone())(Date.now());
  readonly today = dateOfDay(this.#todayNumber);
  readonly children = input.required<readonly ChildView[]>();
  readonly away = input.required<WeekSettings['away']>();
  readonly changed = output<WeekSettings['away']>();

  readonly child = signal('');
  readonly from = signal(this.today);
  readonly to = signal('');
  /** Never before the first day. */
  readonly last = computed(() => (this.to() > this.from() ? this.to() : this.from()));
  /** Those that are not over, the next first. */
  readonly listed = computed(() => {
    const names = new Map(this.children().map(({ id, nickname }) => [id, nickname]));
    return this.away()
      .map((one, at) => ({ ...one, at, name: names.get(one.child) }))
      .filter(({ name, to }) => name !== undefined && to >= this.#todayNumber)
      .sort((a, b) => a.from - b.from)
      .map(({ at, name, from, to }) => ({ at, key: `${name} ${from} ${to}`, words: this.#said(name!, from, to) }));
  });

  add(): void {
    const one = { child: this.child(), from: dayOfDate(this.from()), to: dayOfDate(this.last()) };
    this.changed.emit([...this.away().filter(({ to }) => to >= this.#todayNumber), one]);
    this.child.set('');
  }
  remove(at: number): void {
    this.changed.emit(this.away().filter((_, i) => i !== at));
  }

  #said(name: string, from: number, to: number): string {
    const [first, last] = [from, to].map((day) => this.#dates.longDate(dateOfDay(day)));
    return from === to
      ? $localize`${name}:name:: ${first}:day:`
      : $localize`${name}:name:: ${first}:from: to ${last}:to:`;
  }
}
