import { DataSource, type CollectionViewer } from '@angular/cdk/collections';
import type { LogPage } from '@vane/contract';
import { BehaviorSubject, type Observable, Subject, takeUntil } from 'rxjs';

const PAGE = 200;

export type LogRow = LogPage['rows'][number];

/** A line of the log: which it is, and what it says; null until it is here. */
export interface LogLine<Words> {
  readonly at: number;
  readonly row: LogRow | null;
  readonly words: Words | null;
}

/** The lines of the log, fetched page by page as they come into view: a year of a class is never in the page at once. */
export class LogSource<Words> extends DataSource<LogLine<Words>> {
  readonly #lines: BehaviorSubject<readonly LogLine<Words>[]>;
  readonly #closed = new Subject<void>();
  readonly #asked = new Set<number>();

  constructor(
    first: LogPage,
    private readonly wordsOf: (row: LogRow) => Words,
    private readonly fetch: (offset: number) => Observable<LogPage>,
    private readonly failed: (error: unknown) => void,
  ) {
    super();
    this.#asked.add(0);
    const none = Array.from({ length: first.total }, (_, at) => ({ at, row: null, words: null }));
    this.#lines = new BehaviorSubject(this.#with(none, first.rows, 0));
  }

  override connect(viewer: CollectionViewer): Observable<readonly LogLine<Words>[]> {
    viewer.viewChange.pipe(takeUntil(this.#closed)).subscribe(({ start, end }) => {
      for (let page = Math.floor(start / PAGE); page * PAGE < Math.min(end, this.#lines.value.length); page++)
        this.#want(page);
    });
    return this.#lines;
  }

  override disconnect(): void {
    this.#closed.next();
  }

  #want(page: number): void {
    if (this.#asked.has(page)) return;
    this.#asked.add(page);
    this.fetch(page * PAGE)
      .pipe(takeUntil(this.#closed))
      .subscribe({
        next: ({ rows }) => this.#lines.next(this.#with(this.#lines.value, rows, page * PAGE)),
        error: (error: unknown) => {
          this.#asked.delete(page);
          this.failed(error);
        },
      });
  }

  #with(lines: readonly LogLine<Words>[], rows: readonly LogRow[], from: number): readonly LogLine<Words>[] {
    return lines.map((line) => {
      const row = rows[line.at - from];
      return row ? { at: line.at, row, words: this.wordsOf(row) } : line;
    });
  }
}
