import { ScrollingModule } from '@angular/cdk/scrolling';
import { CdkTableModule } from '@angular/cdk/table';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource, toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatSelectModule } from '@angular/material/select';
import { RouterLink } from '@angular/router';
import { SESSION_SPOILED, type CorrectionChange, type CorrectionRequest, type LogQuery } from '@vane/contract';
import { ROUTINES } from '@vane/core';
import { debounceTime, map, type Observable } from 'rxjs';
import { ask } from '../parts/askDialog';
import { DateField } from '../parts/dateField';
import { FirstVisit } from '../parts/firstVisit';
import { Trouble } from '../parts/trouble';
import { carpetWords } from '../language/carpetWords';
import { words } from '../language/words';
import { givenWords, seenWords, whyNot } from '../parts/rowWords';
import { Dates } from '../signedIn/dates';
import { Api, inWords } from '../api/api';
import { Session } from '../signedIn/session';
import { LogSource, type LogRow } from './logSource';
import { Stuck } from './stuck';
import { labels } from '../language/labels';
import { whenThere } from '../api/whenThere';

/** After the last change of the filter before the log is asked for, ms. */
const SETTLE_MS = 250;

type Narrowing = Omit<LogQuery, 'offset'>;

/** Why an answer does not count: kept as written, shown in the page's language. */
const REASONS = [
  { code: 'interrupted', words: $localize`interrupted` },
  { code: 'helped', words: $localize`helped` },
  { code: 'did not listen', words: $localize`did not listen` },
  { code: 'spoiled', words: $localize`spoiled` },
] as const;
/** What a line tells, column by column. */
const TOLD = [
  { name: 'when', title: $localize`When` },
  { name: 'child', title: $localize`Child` },
  { name: 'fact', title: $localize`Asked` },
  { name: 'answer', title: $localize`Answer` },
  { name: 'time', title: $localize`Time` },
  { name: 'shown', title: $localize`Shown for` },
  { name: 'seen', title: $localize`Sign` },
  { name: 'notes', title: $localize`Remarks` },
] as const satisfies readonly { readonly name: keyof ReturnType<typeof lineOf>; readonly title: string }[];
const ONLY: readonly { readonly only: NonNullable<LogQuery['only']>; readonly words: string }[] = [
  { only: 'wrong', words: $localize`wrong answers` },
  { only: 'void', words: $localize`void` },
  { only: 'flagged', words: $localize`flagged` },
  { only: 'corrected', words: $localize`corrected` },
];

/** Every response, newest first, and the file of them, out and in. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    CdkTableModule,
    FirstVisit,
    DateField,
    Stuck,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatMenuModule,
    MatSelectModule,
    ReactiveFormsModule,
    RouterLink,
    ScrollingModule,
    Trouble,
  ],
  templateUrl: './log.page.html',
  styleUrl: './log.page.scss',
})
export class LogPage {
  readonly labels = labels;
  readonly #dates = inject(Dates);
  readonly #api = inject(Api);
  readonly #session = inject(Session);
  readonly #dialog = inject(MatDialog);

  readonly told = TOLD;
  readonly columns = [...TOLD.map(({ name }) => name), 'correct'];
  readonly reasons = REASONS;
  readonly only = ONLY;
  readonly routines = ROUTINES.map(({ id }) => ({ id, title: carpetWords.routines[id].title }));
  readonly numbers = ['0', '1', '2', '3', '4', '5', '6', '7', '8', '9', '10'];
  readonly filter = inject(NonNullableFormBuilder).group({
    child: '',
    routine: '',
    fact: '',
    from: '',
    to: '',
    only: '',
  });
  /** What the filter leaves in; an empty field leaves everything. */
  readonly query = toSignal(
    this.filter.valueChanges.pipe(
      debounceTime(SETTLE_MS),
      map(() => narrowing(this.filter.getRawValue())),
    ),
    { initialValue: narrowing({}) },
  );
  readonly narrowed = computed(() => Object.keys(this.query()).length > 0);
  readonly view = rxResource({
    params: () => this.#session.classId() || undefined,
    stream: ({ params }) => this.#api.ask('GET /classes/:classId', { classId: params }),
  });
  readonly children = computed(() => whenThere(this.view, (it) => it.children, []));
  readonly page = rxResource({
    params: () => (this.#session.classId() ? { classId: this.#session.classId(), query: this.query() } : undefined),
    stream: ({ params: { classId, query } }) =>
      this.#api.ask('GET /classes/:classId/log', { classId, query: { ...query, offset: 0 } }),
  });
  readonly source = computed(() => {
    if (!this.page.hasValue()) return null;
    const [classId, query] = [this.#session.classId(), this.query()];
    return new LogSource(
      this.page.value(),
      (row) => lineOf(row, this.#dates),
      (offset) => this.#api.ask('GET /classes/:classId/log', { classId, query: { ...query, offset } }),
      (error) => this.trouble.set(inWords(error)),
    );
  });
  readonly trouble = signal('');
  /** The session that was just made void, to be undone in one press. */
  readonly voided = signal<{ readonly sitting: string; readonly words: string } | null>(null);

  correct(row: LogRow, change: CorrectionChange): void {
    this.#correct({ responses: [row.response_id], change });
  }
  /** A note on the sitting of this line; it stands at every line of it. */
  note(row: LogRow): void {
    const question = {
      title: $localize`Note on this session`,
      field: { label: $localize`What should others know?`, value: '' },
      act: $localize`Save`,
    };
    ask(this.#dialog, question).subscribe((text) => {
      if (text !== null)
        this.#send(
          this.#api.ask('POST /classes/:classId/notes', {
            classId: this.#session.classId(),
            body: { sitting: row.sitting, text },
          }),
        );
    });
  }
  voidSitting({ sitting }: LogRow): void {
    const question = {
      title: $localize`Void the whole session?`,
      words: $localize`All its answers stay in the log, and count for nothing: not for what is known, and not for whose turn it is.`,
      act: $localize`Void the session`,
    };
    ask(this.#dialog, question).subscribe((answer) => {
      if (answer === null) return;
      this.#correct({ sitting, change: { what: 'void', reason: SESSION_SPOILED } }, ({ changed }) =>
        this.voided.set({ sitting, words: $localize`${words.counted.answers(changed)} void.` }),
      );
    });
  }
  /** The session that was void as a whole counts again. */
  restoreSitting(sitting: string): void {
    this.#correct({ sitting, change: { what: 'valid', reason: SESSION_SPOILED } });
  }
  isSpoiled(row: LogRow): boolean {
    return row.void === SESSION_SPOILED;
  }
  #correct(request: CorrectionRequest, then?: (done: { changed: number }) => void): void {
    const classId = this.#session.classId();
    this.#send(this.#api.ask('POST /classes/:classId/corrections', { classId, body: request }), then);
  }
  #send<T>(act: Observable<T>, then?: (done: T) => void): void {
    this.trouble.set('');
    this.voided.set(null);
    act.subscribe({
      next: (done) => {
        then?.(done);
        this.page.reload();
      },
      error: (error: unknown) => this.trouble.set(inWords(error)),
    });
  }
}

const narrowing = (filter: Partial<Record<keyof Narrowing, string>>): Narrowing =>
  Object.fromEntries(Object.entries(filter).flatMap(([name, text]) => (text.trim() ? [[name, text.trim()]] : [])));

/** A line of the log in words. */
function lineOf(row: LogRow, dates: Dates) {
  const fact = words.fact(row.fact);
  return {
    child: row.nickname,
    when: dates.time(row.shown_at, true),
    fact: row.kind === 'match' ? $localize`copy ${fact}` : row.kind === 'count' ? $localize`count ${fact}` : fact,
    answer: givenWords(row),
    time: row.response_ms === null ? '' : words.seconds(row.response_ms),
    shown: shownFor(row),
    seen: seenWords(row),
    notes: [
      ...[words.record.briefly[row.answer_mode] ?? []].flat(),
      ...whyNot(row),
      ...(row.corrected === null ? [] : [correctedWords(row.corrected, dates)]),
      ...row.notes.map((note) => `“${note}”`),
    ].join(', '),
  };
}

const correctedWords = ({ by, at, was }: NonNullable<LogRow['corrected']>, dates: Dates): string =>
  $localize`corrected by ${by}, ${dates.day(at)} (first ${was})`;

/** How long it was seen; nothing where no screen showed it. */
function shownFor({ exposure_ms, quality }: LogRow): string {
  if (exposure_ms !== null) return `${Math.round(exposure_ms)} ms`;
  return quality === null ? '' : $localize`until answered`;
}
