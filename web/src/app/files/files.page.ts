import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatRadioModule } from '@angular/material/radio';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import type { ImportResult, ImportView } from '@vane/contract';
import { forkJoin, map, of, tap, type Subscription } from 'rxjs';
import { Doing } from '../parts/doing';
import { Trouble } from '../parts/trouble';
import { words } from '../language/words';
import { Api, addressOf, inWords } from '../api/api';
import { Session } from '../signedIn/session';
import { Files, type Kind, type SaidOfFile } from './files';
import { Dates } from '../signedIn/dates';
import { labels } from '../language/labels';
import { whenThere } from '../api/whenThere';

interface Way {
  readonly kind: Kind;
  readonly title: string;
  readonly says: string;
  readonly accept: string;
  readonly lead: boolean;
}

const WAYS: readonly Way[] = [
  {
    kind: 'responses',
    title: $localize`Responses (CSV)`,
    says: $localize`Into this class. Children are matched by nickname.`,
    accept: '.csv,text/csv',
    lead: false,
  },
  {
    kind: 'archive',
    title: $localize`A class saved by Vane`,
    says: $localize`As a new class, with everything except Vane’s views, which are worked out again.`,
    accept: '.json,application/json',
    lead: true,
  },
  {
    kind: 'roster',
    title: $localize`A roster (OneRoster CSV)`,
    says: $localize`Classes, and children by first name; family names are not imported.`,
    accept: '.zip,application/zip',
    lead: true,
  },
];

const STATEMENTS = 'GET /classes/:classId/statements/:form{json|jsonl}';

/** An import and the class it went into; null = the school. */
type Undoable = ImportView & { readonly classId: string | null };

/** Import and export */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatProgressBarModule, MatRadioModule, Trouble],
  templateUrl: './files.page.html',
  styleUrl: './files.page.scss',
})
export class FilesPage {
  readonly labels = labels;
  readonly #dates = inject(Dates);
  readonly #api = inject(Api);
  readonly #files = inject(Files);
  readonly #session = inject(Session);
  #running: Subscription | null = null;

  readonly isLead = computed(() => this.#session.me()?.adult.role === 'lead');
  readonly className = computed(() => this.#session.openClass()?.name ?? '');
  readonly ways = computed(() => WAYS.filter((way) => !way.lead || this.isLead()));
  readonly outs = computed(() => {
    const classId = this.#session.classId();
    const own = [
      {
        href: addressOf('GET /classes/:classId/responses.csv', { classId }),
        title: $localize`Responses (CSV)`,
        says: $localize`every answer, in the open format`,
      },
      {
        href: addressOf('GET /classes/:classId/readings.csv', { classId }),
        title: $localize`Vane’s views (CSV)`,
        says: $localize`what Vane makes of the answers so far, and how sure it is`,
      },
      {
        href: addressOf('GET /classes/:classId/archive.json', { classId }),
        title: $localize`The class (JSON)`,
        says: $localize`everything, to import into another Vane`,
      },
      {
        href: addressOf(STATEMENTS, { classId, form: 'json' }),
        title: $localize`Statements (xAPI, JSON)`,
        says: $localize`for learning-record stores`,
      },
      {
        href: addressOf(STATEMENTS, { classId, form: 'jsonl' }),
        title: $localize`Statements (xAPI, JSON Lines)`,
        says: $localize`the same, one to a line`,
      },
    ];
    return this.isLead()
      ? [
          ...own,
          {
            href: addressOf('GET /school/roster.zip'),
            title: $localize`Roster (OneRoster CSV)`,
            says: $localize`all classes of the school, with nicknames`,
          },
        ]
      : own;
  });

  /** What is being read or was looked at last. */
  readonly file = signal<{ readonly way: Way; readonly blob: Blob; readonly name: string } | null>(null);
  /** Share of the file that has been read; null = nothing is being read. */
  readonly share = signal<number | null>(null);
  readonly writing = signal(false);
  /** What was asked of the file and answered. */
  readonly said = signal<SaidOfFile>({ names: {} });
  readonly look = signal<ImportResult | null>(null);
  /** What was imported last, so that it can be undone at once, before the list has been read anew. */
  readonly done = signal<Undoable | null>(null);
  readonly trouble = signal('');
  readonly doing = new Doing();

  readonly lately = rxResource({
    params: () => (this.#session.classId() ? { classId: this.#session.classId(), lead: this.isLead() } : undefined),
    stream: ({ params: { classId, lead } }) =>
      forkJoin([
        this.#api.ask('GET /classes/:classId/imports', { classId }),
        lead ? this.#api.ask('GET /school/imports') : of([]),
      ]).pipe(
        map(([own, school]) => [
          ...own.map((one) => ({ ...one, classId: classId })),
          ...school.map((one) => ({ ...one, classId: null })),
        ]),
      ),
  });
  readonly lines = computed(() =>
    whenThere(this.lately, (it) => it, []).map((one) => ({
      ...one,
      words: $localize`${one.added} new from ${one.what}, ${one.by}, ${this.#dates.ago(one.madeAt)}`,
    })),
  );

  chosen(way: Way, input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (file) this.open(way, file, file.name);
  }
  fromService(): void {
    this.#clear();
    const way = WAYS.find((one) => one.kind === 'roster');
    this.#api.bytes('GET /school/roster-service').subscribe({
      next: (bytes) => way && this.open(way, new Blob([bytes]), $localize`the roster service`),
      error: (error: unknown) => this.trouble.set(inWords(error)),
    });
  }
  /** Has the file looked at; nothing is written. */
  open(way: Way, blob: Blob, name: string): void {
    this.#clear();
    this.file.set({ way, blob, name });
    this.#bring(false, (result) => this.look.set(result));
  }
  /** The file is looked at again, with what is known of it now. */
  say(more: Partial<SaidOfFile>): void {
    this.said.update((said) => ({ ...said, ...more }));
    this.#bring(false, (result) => this.look.set(result));
  }
  sayName(name: string, meant: string): void {
    this.say({ names: { ...this.said().names, [name]: meant } });
  }
  /** The order in which dates are read was said by somebody. */
  readonly orders = computed(() => {
    const dates = this.look()?.dates;
    if (!dates || !(dates.unsure || this.said().order !== undefined)) return [];
    return (['day-first', 'month-first'] as const).map((order) => ({
      order,
      words: order === 'day-first' ? $localize`the day` : $localize`the month`,
    }));
  });
  readonly dates = computed(() => {
    const dates = this.look()?.dates;
    return dates ? $localize`${dates.example} is read as ${this.#dates.moment(dates.read)}.` : '';
  });
  takeIn(): void {
    const classId = this.file()?.way.kind === 'responses' ? this.#session.classId() : null;
    this.#bring(true, (result) => {
      const { imported } = result;
      // Somebody else was faster: there is nothing left to import.
      if (!imported) return this.look.set(result);
      this.#clear();
      this.done.set({ ...imported, classId });
      this.lately.reload();
      // A roster or a class may have brought classes.
      this.#session.refresh().subscribe();
    });
  }
  /** Breaks off, or puts a file aside that was only looked at. */
  leave(): void {
    this.#clear();
  }
  takeBack(one: Undoable): void {
    let said = '';
    const undone = (
      one.classId === null
        ? this.#api.ask('DELETE /school/imports/:id', { id: one.id })
        : this.#api.ask('DELETE /classes/:classId/imports/:id', { classId: one.classId, id: one.id })
    ).pipe(
      tap(({ left }) => {
        said =
          left.length === 0
            ? $localize`Import undone: ${one.added} of ${one.what}.`
            : $localize`Import undone: ${one.added} of ${one.what}. Left as they are, since they have moved to another class or something else is kept of them: ${words.listed(left)}. A lead can undo what is in other classes.`;
      }),
    );
    this.doing.run(undone, '', () => {
      this.doing.told.set(said);
      this.#clear();
      this.lately.reload();
      this.#session.refresh().subscribe();
    });
  }
  handOver(): void {
    let words = '';
    const handed = this.#api.ask('POST /classes/:classId/statements', { classId: this.#session.classId() }).pipe(
      tap(({ sent, fresh, to }) => {
        words =
          fresh === null
            ? $localize`${sent} statements sent to the store (${to}).`
            : $localize`${sent} statements sent to the store (${to}); ${fresh} were new.`;
      }),
    );
    this.doing.run(handed, '', () => this.doing.told.set(words));
  }
  namesOf(result: ImportResult): string {
    return words.listed(result.names);
  }

  #clear(): void {
    this.#running?.unsubscribe();
    this.#running = null;
    this.file.set(null);
    this.share.set(null);
    this.writing.set(false);
    this.said.set({ names: {} });
    this.look.set(null);
    this.done.set(null);
    this.trouble.set('');
  }
  #bring(write: boolean, then: (result: ImportResult) => void): void {
    const file = this.file();
    if (!file) return;
    this.share.set(0);
    this.writing.set(write);
    this.trouble.set('');
    this.#running = this.#files.bring(file.way.kind, this.#session.classId(), file.blob, write, this.said()).subscribe({
      next: (reading) => {
        if ('share' in reading) return this.share.set(reading.share);
        this.share.set(null);
        then(reading.result);
      },
      error: (error: unknown) => {
        this.share.set(null);
        this.trouble.set(inWords(error));
      },
    });
  }
}
