import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { formatDistanceToNowStrict } from 'date-fns';
import type { Observable } from 'rxjs';
import { ask } from '../parts/askDialog';
import { deleteQuestion } from '../parts/deleteQuestion';
import { Doing } from '../parts/doing';
import { Trouble } from '../parts/trouble';
import { linesOf, named } from '../parts/plainWords';
import { Api } from '../api/api';
import { Session } from '../signedIn/session';

interface Named {
  readonly id: string;
  readonly nickname: string;
}

/** Everybody in the class, by name; and who joins, moves, goes or comes back. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, MatButtonModule, MatFormFieldModule, MatInputModule, MatMenuModule, Trouble],
  templateUrl: './children.page.html',
  styleUrl: './children.page.scss',
})
export class ChildrenPage {
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #dialog = inject(MatDialog);
  readonly wanted = signal('');
  readonly doing = new Doing();
  readonly view = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params }) => this.#api.classView(params),
  });
  readonly otherClasses = computed(() =>
    (this.#session.me()?.classes ?? []).filter((one) => one.id !== this.#session.classId()),
  );
  readonly found = computed(() => {
    const children = this.view.hasValue() ? this.view.value().children : [];
    return children
      .filter((child) => named([child.nickname], this.wanted()))
      .map((child) => ({
        ...child,
        asked:
          child.lastAskedAt === null
            ? 'not asked yet'
            : `asked ${formatDistanceToNowStrict(new Date(child.lastAskedAt))} ago`,
      }));
  });

  add(): void {
    const question = {
      title: 'Add children',
      words:
        'Nicknames or numbers, not full names: Vane needs only what you call out on the carpet, and keeps nothing more.',
      field: { label: 'One nickname a line', value: '', lines: true },
      act: 'Add',
    };
    ask(this.#dialog, question).subscribe((text) => {
      if (text !== null) this.#do((classId) => this.#api.addChildren(classId, linesOf(text)));
    });
  }
  rename({ id, nickname }: Named): void {
    ask(this.#dialog, {
      title: `Another nickname for ${nickname}`,
      field: { label: 'Nickname', value: nickname },
      act: 'Rename',
    }).subscribe((name) => {
      if (name !== null) this.#do((classId) => this.#api.changeChild(classId, id, { nickname: name }));
    });
  }
  move({ id, nickname }: Named, to: { id: string; name: string }): void {
    const question = {
      title: `Move ${nickname} to ${to.name}?`,
      words: 'The whole record goes along: answers, readings, notes.',
      act: 'Move',
    };
    ask(this.#dialog, question).subscribe((yes) => {
      if (yes !== null)
        this.#do(
          (classId) => this.#api.changeChild(classId, id, { classId: to.id }),
          `${nickname} is in ${to.name} now.`,
        );
    });
  }
  away({ id, nickname }: Named): void {
    this.#do(
      (classId) => this.#api.changeChild(classId, id, { archived: true }),
      `${nickname} is put away: the record is kept, and you can bring it back below.`,
    );
  }
  back({ id }: Named): void {
    this.#do((classId) => this.#api.changeChild(classId, id, { archived: false }));
  }
  erase({ id, nickname }: Named): void {
    ask(this.#dialog, deleteQuestion(nickname)).subscribe((yes) => {
      if (yes !== null) this.#do((classId) => this.#api.deleteChild(classId, id), `${nickname} is deleted.`);
    });
  }

  #do(act: (classId: string) => Observable<unknown>, told = ''): void {
    this.doing.run(act(this.#session.classId()), told, () => this.view.reload());
  }
}
