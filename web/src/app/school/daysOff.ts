import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { DaysOff } from '@vane/core';
import { dateOfDay, schoolDays } from '@vane/core/time/schoolDay';
import { switchMap } from 'rxjs';
import { Api } from '../api/api';
import { labels } from '../language/labels';
import { DateField } from '../parts/dateField';
import { Doing } from '../parts/doing';
import { Dates } from '../signedIn/dates';
import { Session } from '../signedIn/session';

/** Holidays and other days without school: nobody is planned for then. Those that are over are not shown. */
@Component({
  selector: 'vane-days-off',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DateField, MatButtonModule],
  template: `
    <h3 i18n id="days-off">Days without school</h3>
    <p i18n class="faint">Holidays, training days and the like. The plan for a week leaves them out.</p>
    <ul aria-labelledby="days-off">
      @for (one of coming(); track one.from + one.to) {
        <li>
          <span>{{ inWords(one) }}</span>
          <button type="button" class="more" [attr.aria-label]="labels.remove(inWords(one))" (click)="remove(one)">
            ✕
          </button>
        </li>
      } @empty {
        <li i18n class="faint">None yet.</li>
      }
    </ul>
    <div class="add" role="group" i18n-aria-label aria-label="Add days without school">
      <vane-date-field i18n-label label="First day" [value]="from()" [min]="today" (picked)="from.set($event)" />
      <vane-date-field i18n-label label="Last day" [value]="to()" [min]="from() || today" (picked)="to.set($event)" />
      <button i18n matButton="outlined" type="button" [disabled]="!complete()" (click)="add()">Add</button>
    </div>
    @if (doing.trouble()) {
      <p role="alert">{{ doing.trouble() }}</p>
    }
  `,
  styles: `
    h3 {
      font-size: 18px;
      margin: 18px 0 0;
    }
    .faint {
      margin: 2px 0 8px;
    }
    ul {
      list-style: none;
      margin: 0 0 12px;
      padding: 0;
      max-width: 520px;
      border-top: 1px solid var(--sand);
    }
    li {
      display: flex;
      align-items: center;
      justify-content: space-between;
      min-height: 44px;
      border-bottom: 1px solid var(--sand);
    }
    .more {
      width: 44px;
      height: 44px;
      font: inherit;
      color: inherit;
      background: none;
      border: 0;
      cursor: pointer;
    }
    .add {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
      margin-bottom: 20px;
    }
    vane-date-field {
      width: 220px;
    }
  `,
})
export class DaysOffList {
  readonly #api = inject(Api);
  readonly #dates = inject(Dates);
  readonly #session = inject(Session);
  readonly labels = labels;
  readonly doing = new Doing();
  readonly today = dateOfDay(schoolDays(this.#session.timeZone())(Date.now()));
  readonly from = signal('');
  readonly to = signal('');
  readonly complete = computed(() => this.from() !== '' && (this.to() === '' || this.to() >= this.from()));
  readonly coming = computed(() => this.#session.daysOff().filter(({ to }) => to >= this.today));

  inWords({ from, to }: DaysOff): string {
    const [first, last] = [this.#dates.longDate(from), this.#dates.longDate(to)];
    return from === to ? first : $localize`${first} to ${last}`;
  }
  /** One day, where no last day is given. */
  add(): void {
    this.#keep([...this.#session.daysOff(), { from: this.from(), to: this.to() || this.from() }], () => {
      this.from.set('');
      this.to.set('');
    });
  }
  remove(one: DaysOff): void {
    this.#keep(this.#session.daysOff().filter((other) => other !== one));
  }

  #keep(daysOff: readonly DaysOff[], then?: () => void): void {
    const act = this.#api.ask('PUT /school/days-off', { body: { daysOff } });
    this.doing.run(act.pipe(switchMap(() => this.#session.refresh())), '', then);
  }
}
