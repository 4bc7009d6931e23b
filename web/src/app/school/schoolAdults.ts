import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { type FormGroupDirective, NonNullableFormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatSelectModule } from '@angular/material/select';
import type { AdultView, SchoolClassView, SchoolView } from '@vane/contract';
import { switchMap, type Observable } from 'rxjs';
import { ask } from '../parts/askDialog';
import { deleteQuestion } from '../parts/deleteQuestion';
import { Doing } from '../parts/doing';
import { Person } from '../parts/person';
import { timeZones } from '../parts/timeZones';
import { Trouble } from '../parts/trouble';
import { words } from '../language/words';
import { named } from '../parts/plainWords';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';
import { Dates } from '../signedIn/dates';
import { labels } from '../language/labels';
import { DaysOffList } from './daysOff';

/** Who works at the school, who is invited, how long records are kept, and where the school stands. */
@Component({
  selector: 'vane-school-adults',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatMenuModule,
    MatSelectModule,
    ReactiveFormsModule,
    Person,
    Trouble,
    DaysOffList,
  ],
  templateUrl: './schoolAdults.html',
  styleUrl: './school.page.scss',
})
export class SchoolAdults {
  readonly roleWords = { lead: $localize`lead`, teacher: $localize`teacher` };
  readonly labels = labels;
  readonly #dates = inject(Dates);
  readonly #api = inject(Api);
  readonly #dialog = inject(MatDialog);
  readonly session = inject(Session);
  readonly classes = input.required<readonly SchoolClassView[]>();
  readonly wanted = input('');
  readonly changed = output();
  readonly school = rxResource({ stream: () => this.#api.ask('GET /school') });
  readonly adults = computed(() =>
    this.school.hasValue()
      ? this.school.value().adults.filter((one) => named([one.name, one.email], this.wanted()))
      : [],
  );
  readonly invites = computed(() =>
    this.school.hasValue()
      ? this.school.value().invites.filter((one) => named([one.name, one.email], this.wanted()))
      : [],
  );
  readonly zones = computed(() => timeZones(this.session.timeZone()));
  readonly doing = new Doing();
  readonly link = signal('');
  /** Whether a real post took the letter. */
  readonly posted = signal(false);
  readonly #forms = inject(NonNullableFormBuilder);
  readonly wish = this.#forms.group({
    name: ['', [Validators.required, Validators.pattern(/\S/)]],
    email: ['', [Validators.required, Validators.pattern(/\S/)]],
    role: this.#forms.control<AdultView['role']>('teacher'),
    classes: this.#forms.control<string[]>([]),
  });

  classesOf({ role, classes }: AdultView): string {
    if (role === 'lead') return $localize`every class`;
    const names = this.classes()
      .filter((one) => classes.includes(one.id) && !one.archived)
      .map((one) => one.name);
    return names.length === 0 ? $localize`no class yet` : words.listed(names);
  }
  day(iso: string): string {
    return this.#dates.dayOfYear(iso);
  }

  invite(wished: FormGroupDirective): void {
    this.link.set('');
    this.doing.run(this.#api.ask('POST /school/invites', { body: this.wish.getRawValue() }), '', ({ link, posted }) => {
      this.link.set(link);
      this.posted.set(posted);
      // With what the form remembers of having been sent: an empty one is no mistake.
      wished.resetForm();
      this.#again();
    });
  }
  withdraw(id: string): void {
    this.#do(this.#api.ask('DELETE /school/invites/:id', { id }));
  }
  give({ id, classes }: AdultView, classId: string): void {
    this.#do(
      this.#api.ask('PUT /school/adults/:id', {
        id,
        body: {
          classes: classes.includes(classId) ? classes.filter((one) => one !== classId) : [...classes, classId],
        },
      }),
    );
  }
  setRole({ id }: AdultView, role: AdultView['role']): void {
    this.#do(this.#api.ask('PUT /school/adults/:id', { id, body: { role } }));
  }
  remove({ id, name }: AdultView): void {
    ask(this.#dialog, {
      title: $localize`Remove ${name}?`,
      words: $localize`They are signed out at once. Their answers and notes stay.`,
      act: $localize`Remove`,
    }).subscribe((yes) => {
      if (yes !== null) this.#do(this.#api.ask('DELETE /school/adults/:id', { id }));
    });
  }
  standIn(zone: string): void {
    const act = this.#api
      .ask('PUT /school/time-zone', { body: { timeZone: zone } })
      .pipe(switchMap(() => this.session.refresh()));
    this.doing.run(act, $localize`Days and weeks now follow ${zone}.`);
  }
  keepFor(months: number): void {
    this.#do(this.#api.ask('PUT /school/keep', { body: { keepMonths: months } }));
  }
  erase({ id, classId, nickname }: SchoolView['due'][number]): void {
    ask(this.#dialog, deleteQuestion(nickname)).subscribe((yes) => {
      if (yes !== null) this.#do(this.#api.ask('DELETE /classes/:classId/children/:childId', { classId, childId: id }));
    });
  }

  #do(act: Observable<unknown>): void {
    this.doing.run(act, '', () => this.#again());
  }
  #again(): void {
    this.school.reload();
    this.changed.emit();
  }
}
