import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { rxResource, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import type { SchoolClassView } from '@vane/contract';
import { switchMap, type Observable } from 'rxjs';
import { ask } from '../parts/askDialog';
import { Doing } from '../parts/doing';
import { Trouble } from '../parts/trouble';
import { words } from '../language/words';
import { named } from '../parts/plainWords';
import { Api, inWords } from '../api/api';
import { Session } from '../signedIn/session';
import { SchoolAdults } from './schoolAdults';
import { SchoolAudit } from './schoolAudit';
import { SchoolWork } from './schoolWork';
import { askRollOver } from './rollOverDialog';
import { labels } from '../language/labels';
import { whenThere } from '../api/whenThere';

/** The school, for its lead: its classes, and the end of a year. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatMenuModule,
    ReactiveFormsModule,
    SchoolAdults,
    SchoolAudit,
    SchoolWork,
    Trouble,
  ],
  templateUrl: './school.page.html',
  styleUrl: './school.page.scss',
})
export class SchoolPage {
  readonly labels = labels;
  readonly #api = inject(Api);
  readonly #dialog = inject(MatDialog);
  readonly session = inject(Session);
  readonly classes = rxResource({ stream: () => this.#api.ask('GET /school/classes') });
  readonly doing = new Doing();
  readonly search = new FormControl('', { nonNullable: true });
  readonly wanted = toSignal(this.search.valueChanges, { initialValue: '' });
  readonly found = computed(() =>
    whenThere(this.classes, (it) => it, []).filter((one) =>
      named([one.name, ...one.adults.map((a) => a.name)], this.wanted()),
    ),
  );

  adults({ adults }: SchoolClassView): string {
    return adults.length === 0
      ? $localize`no adult yet`
      : $localize`${words.listed(adults.map((a) => a.name))}’s class`;
  }
  size({ children }: SchoolClassView): string {
    return words.counted.children(children);
  }

  add(): void {
    ask(this.#dialog, {
      title: $localize`A new class`,
      field: { label: $localize`Name`, value: '' },
      act: $localize`Add`,
    }).subscribe((name) => {
      if (name !== null)
        this.#do(
          this.#api.ask('POST /school/classes', { body: { name } }),
          $localize`${name} has been added. Choose it beside the name Vane to add its children.`,
        );
    });
  }
  rename({ id, name }: SchoolClassView): void {
    ask(this.#dialog, {
      title: $localize`Rename ${name}`,
      field: { label: $localize`Name`, value: name },
      act: $localize`Rename`,
    }).subscribe((to) => {
      if (to !== null) this.#do(this.#api.ask('PUT /school/classes/:id', { id, body: { name: to } }));
    });
  }
  archive({ id, name }: SchoolClassView, archived: boolean): void {
    this.#do(
      this.#api.ask('PUT /school/classes/:id', { id, body: { archived } }),
      archived ? $localize`${name} is archived. Its record is kept.` : '',
    );
  }
  erase({ id, name }: SchoolClassView): void {
    const question = {
      title: $localize`Delete ${name}?`,
      words: $localize`The class, its settings and its empty sessions are deleted for good. You cannot delete a class with children in it: move or delete them first.`,
      field: { label: $localize`Type ${name} to continue`, value: '', must: name },
      act: $localize`Delete for good`,
    };
    ask(this.#dialog, question).subscribe((yes) => {
      if (yes !== null)
        this.#do(this.#api.ask('DELETE /school/classes/:id', { id }), $localize`${name} has been deleted.`);
    });
  }
  rollOver(one: SchoolClassView): void {
    this.#api.ask('GET /classes/:classId', { classId: one.id }).subscribe({
      next: ({ children }) => {
        askRollOver(this.#dialog, { from: one.name, children }).subscribe((wish) => {
          if (wish !== null)
            this.#do(
              this.#api.ask('POST /school/classes/:id/roll-over', { id: one.id, body: wish }),
              $localize`${wish.name} has been added, with ${words.counted.children(wish.children.length)}. ${one.name} is archived. Give the new class to its teachers under “Adults”.`,
            );
        });
      },
      error: (error: unknown) => this.doing.trouble.set(inWords(error)),
    });
  }

  #do(act: Observable<unknown>, told = ''): void {
    this.doing.run(act.pipe(switchMap(() => this.session.refresh())), told, () => this.classes.reload());
  }
}
