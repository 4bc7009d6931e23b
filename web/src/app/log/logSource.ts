import { DataSource, type CollectionViewer } from '@angular/cdk/collections';
import type { LogPage } from '@vane/contract';
import { BehaviorSubject, type Observable, Subject, takeUntil } from 'rxjs';

const PAGE = 200;

export type LogRow = LogPage['rows'][number];

/** The lines of the log, fetched page by page as they come into view: a year of a class is never in the page at once. Lines that are not here yet are null. */
export class LogSource extends DataSource<LogRow | null> {
  readonly #rows = new BehaviorSubject<readonly (LogRow | null)[]>([]);
  readonly #closed = new Subject<void>();
  readonly #asked = new Set<number>();

  constructor(
    first: LogPage,
    private readonly fetch: (offset: number) => Observable<LogPage>,
    private readonly failed: (error: unknown) => void,
  ) {
    super();
    const rows = Array.from({ length: first.total }, (): LogRow | null => null);
    first.rows.forEach((row, i) => (rows[i] = row));
    this.#asked.add(0);
    this.#rows.next(rows);
  }

  override connect(viewer: CollectionViewer): Observable<readonly (LogRow | null)[]> {
    viewer.viewChange.pipe(takeUntil(this.#closed)).subscribe(({ start, end }) => {
      for (let page = Math.floor(start / PAGE); page * PAGE < end; page++) this.#want(page);
    });
    return this.#rows;
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
        next: ({ rows }) => {
          const all = [...this.#rows.value];
          rows.forEach((row, i) => (all[page * PAGE + i] = row));
          this.#rows.next(all);
        },
        error: (error: unknown) => {
          this.#asked.delete(page);
          this.failed(error);
        },
      });
  }
}
