import { signal } from '@angular/core';
import type { RecordRow } from '@vane/contract';
import { AnswerMarks } from './answerMarks';
import type { Recorder } from './recorder';

/** So many answers of a session can still be changed. */
const STILL_OPEN = 5;

/** The last answers, the newest first: kept on the device at every change, and sent once they can no longer be changed. */
export class OpenRows {
  readonly #rows = signal<readonly RecordRow[]>([]);
  readonly all = this.#rows.asReadonly();

  constructor(private readonly record: Recorder) {}

  find(id: string): RecordRow | undefined {
    return this.#rows().find((row) => row.response_id === id);
  }
  keep(row: RecordRow): void {
    this.#rows.update((rows) =>
      (this.find(row.response_id)
        ? rows.map((one) => (one.response_id === row.response_id ? row : one))
        : [row, ...rows]
      ).slice(0, STILL_OPEN),
    );
    this.record.keep(row);
  }
  /** What was seen is corrected. */
  mark(id: string, change: (marks: AnswerMarks) => void): void {
    const row = this.find(id);
    if (!row) return;
    const marks = new AnswerMarks();
    marks.take(row);
    change(marks);
    this.keep({ ...row, ...marks.all() });
  }
  /** Another question begins: what is not among the last ones any more is closed. */
  closeOlder(): void {
    this.record.close(this.#rows().map((row) => row.response_id));
  }
}
