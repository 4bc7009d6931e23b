import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatPaginatorModule } from '@angular/material/paginator';
import { MatTableModule } from '@angular/material/table';
import type { ImportResult, RecordRow } from '@vane/contract';
import { format } from 'date-fns';
import { Trouble } from '../look/trouble';
import { factWords, seconds } from '../look/words';
import type { KeptResponse } from '../outbox/keptDatabase';
import { Outbox } from '../outbox/outbox';
import { Api, inWords } from '../session/api';
import { Session } from '../session/session';

const PAGE = 200;

/** Every response, newest first, and the file of them, out and in. */
@Component({
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [MatButtonModule, MatPaginatorModule, MatTableModule, Trouble],
  templateUrl: './log.page.html',
  styleUrl: './log.page.scss',
})
export class LogPage {
  readonly #api = inject(Api);
  readonly #session = inject(Session);

  readonly columns = ['when', 'child', 'fact', 'answer', 'time', 'shown', 'seen', 'notes'];
  readonly pageSize = PAGE;
  readonly offset = signal(0);
  readonly page = rxResource({
    params: () => (this.#session.classId() ? { classId: this.#session.classId(), offset: this.offset() } : undefined),
    stream: ({ params }) => this.#api.log(params.classId, params.offset),
  });
  readonly rows = computed(() => (this.page.hasValue() ? this.page.value().rows.map((row) => ({ ...words(row), child: row.nickname })) : []));
  readonly exportAddress = computed(() => this.#api.exportAddress(this.#session.classId()));
  readonly reading = signal(false);
  readonly result = signal<ImportResult | null>(null);
  readonly trouble = signal('');
  readonly refused = signal<readonly KeptResponse[]>([]);

  constructor() {
    void inject(Outbox)
      .refused()
      .then((kept) => this.refused.set(kept));
  }

  read(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    this.reading.set(true);
    this.result.set(null);
    this.trouble.set('');
    this.#api.importResponses(this.#session.classId(), file).subscribe({
      next: (result) => {
        this.reading.set(false);
        this.result.set(result);
        this.page.reload();
      },
      error: (error: unknown) => {
        this.reading.set(false);
        this.trouble.set(inWords(error));
      },
    });
  }
}

function words(row: RecordRow) {
  return {
    id: row.response_id,
    when: format(new Date(row.shown_at), 'd MMM, HH:mm:ss'),
    fact: row.kind === 'match' ? `copy ${factWords(row.fact)}` : row.kind === 'count' ? `count ${factWords(row.fact)}` : factWords(row.fact),
    answer: row.outcome === 'none' ? 'no answer' : `${row.given}${row.outcome === 'wrong' ? ' (wrong)' : ''}`,
    time: row.response_ms === null ? '' : seconds(row.response_ms),
    shown: row.exposure_ms === null ? 'stays' : `${Math.round(row.exposure_ms)} ms`,
    seen: row.observed.replace(':', ' '),
    notes: [row.answer_mode === 'spoken' ? 'spoken' : '', row.aid === 'none' ? '' : row.aid, row.void, ...row.flags].filter((note) => note !== '').join(', '),
  };
}
