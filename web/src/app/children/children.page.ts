import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { rxResource, toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import type { Observable } from 'rxjs';
import { ask } from '../parts/askDialog';
import { deleteQuestion } from '../parts/deleteQuestion';
import { Doing } from '../parts/doing';
import { FirstVisit } from '../parts/firstVisit';
import { Trouble } from '../parts/trouble';
import { linesOf, named } from '../parts/plainWords';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';
import { Dates } from '../signedIn/dates';
import { labels } from '../language/labels';
import { whenThere } from '../api/whenThere';
import { words } from '../language/words';
import type { Need } from '@vane/core';
import { needsFor } from '../plan/classPlan';
import { mondayOf, schoolDays } from '@vane/core/time/schoolDay';

interface Named {
  readonly id: string;
  readonly nickname: string;
}

/** Everybody in the class, by name; and who joins, moves, goes or comes back. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FirstVisit,
    RouterLink,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatMenuModule,
    ReactiveFormsModule,
    Trouble,
  ],
  templateUrl: './children.page.html',
  styleUrl: './children.page.scss',
})
export class ChildrenPage {
  readonly labels = labels;
  readonly #dates = inject(Dates);
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #dialog = inject(MatDialog);
  readonly search = new FormControl('', { nonNullable: true });
  readonly wanted = toSignal(this.search.valueChanges, { initialValue: '' });
  readonly doing = new Doing();
  readonly view = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params }) => this.#api.ask('GET /classes/:classId', { classId: params }),
  });
  readonly otherClasses = computed(() =>
    (this.#session.me()?.classes ?? []).filter((one) => one.id !== this.#session.classId()),
  );
  readonly #judged = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params }) => this.#api.readings(params),
  });
  /** What each practises next: names stand before it is known. */
  readonly #needs = computed(() => {
    if (!this.view.hasValue() || !this.#judged.hasValue()) return new Map<string, Need>();
    const of = {
      children: this.view.value().children,
      judged: this.#judged.value(),
      timeZone: this.#session.timeZone(),
    };
    return new Map(needsFor(of, Date.now()).map(({ child, need }) => [child, need]));
  });
  readonly unheard = $localize`not asked this week`;
  readonly found = computed(() => {
    const children = whenThere(this.view, (it) => it.children, []);
    const dayOf = schoolDays(this.#session.timeZone());
    const monday = mondayOf(dayOf(Date.now()));
    return children
      .map(({ id, nickname, lastAskedAt, workingNumber }) => {
        const need = this.#needs().get(id);
        return {
          id,
          nickname,
          next: [
            ...(workingNumber === null ? [] : [$localize`working on ${workingNumber}`]),
            ...(need ? [words.plan.title([need])] : []),
          ].join(' · '),
          asked: lastAskedAt === null ? $localize`not asked yet` : $localize`asked ${this.#dates.ago(lastAskedAt)}`,
          unheard: lastAskedAt === null || dayOf(Date.parse(lastAskedAt)) < monday,
        };
      })
      .filter((one) => named([one.nickname], this.wanted()) || (one.unheard && this.#isUnheard(this.wanted())));
  });

  /** Whether somebody is looking for those who were not asked: so many letters of it cannot be a part of a name. */
  readonly #isUnheard = (wanted: string): boolean =>
    wanted.length >= 5 && this.unheard.startsWith(wanted.trim().toLocaleLowerCase());

  add(): void {
    const question = {
      title: $localize`Add children`,
      words: $localize`Nicknames or numbers, not full names: Vane only needs what you call out on the carpet.`,
      field: { label: $localize`One nickname on each line`, value: '', lines: true },
      act: $localize`Add`,
    };
    ask(this.#dialog, question).subscribe((text) => {
      if (text !== null)
        this.#do((classId) =>
          this.#api.ask('POST /classes/:classId/children', { classId, body: { nicknames: linesOf(text) } }),
        );
    });
  }
  rename({ id, nickname }: Named): void {
    ask(this.#dialog, {
      title: $localize`Rename ${nickname}`,
      field: { label: $localize`Nickname`, value: nickname },
      act: $localize`Rename`,
    }).subscribe((name) => {
      if (name !== null)
        this.#do((classId) =>
          this.#api.ask('PUT /classes/:classId/children/:childId', { classId, childId: id, body: { nickname: name } }),
        );
    });
  }
  move({ id, nickname }: Named, to: { id: string; name: string }): void {
    const question = {
      title: $localize`Move ${nickname} to ${to.name}?`,
      words: $localize`Their whole record moves too: answers, Vane’s views, notes.`,
      act: $localize`Move`,
    };
    ask(this.#dialog, question).subscribe((yes) => {
      if (yes !== null)
        this.#do(
          (classId) =>
            this.#api.ask('PUT /classes/:classId/children/:childId', {
              classId,
              childId: id,
              body: { classId: to.id },
            }),
          $localize`${nickname} is now in ${to.name}.`,
        );
    });
  }
  away({ id, nickname }: Named): void {
    this.#do(
      (classId) =>
        this.#api.ask('PUT /classes/:classId/children/:childId', { classId, childId: id, body: { archived: true } }),
      $localize`${nickname} is archived: their record is kept, and you can restore them below.`,
    );
  }
  back({ id }: Named): void {
    this.#do((classId) =>
      this.#api.ask('PUT /classes/:classId/children/:childId', { classId, childId: id, body: { archived: false } }),
    );
  }
  erase({ id, nickname }: Named): void {
    ask(this.#dialog, deleteQuestion(nickname)).subscribe((yes) => {
      if (yes !== null)
        this.#do(
          (classId) => this.#api.ask('DELETE /classes/:classId/children/:childId', { classId, childId: id }),
          $localize`${nickname} has been deleted.`,
        );
    });
  }

  #do(act: (classId: string) => Observable<unknown>, told = ''): void {
    this.doing.run(act(this.#session.classId()), told, () => this.view.reload());
  }
}
