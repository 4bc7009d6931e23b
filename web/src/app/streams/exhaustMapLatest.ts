import { Observable, type OperatorFunction } from 'rxjs';

/**
 * One at a time, and the newest only: while the work on a value is under way, what comes waits, and is overtaken by what comes after it. The last value that
 * came is always worked on.
 */
export const exhaustMapLatest =
  <T, R>(work: (value: T) => Observable<R>): OperatorFunction<T, R> =>
  (source) =>
    new Observable((subscriber) => {
      let waiting: { readonly value: T } | null = null;
      let busy = false;
      let ended = false;
      const begin = (value: T): void => {
        busy = true;
        subscriber.add(
          work(value).subscribe({
            next: (result) => subscriber.next(result),
            error: (error: unknown) => subscriber.error(error),
            complete: () => {
              const next = waiting;
              waiting = null;
              busy = false;
              if (next !== null) begin(next.value);
              else if (ended) subscriber.complete();
            },
          }),
        );
      };
      subscriber.add(
        source.subscribe({
          next: (value) => {
            if (busy) waiting = { value };
            else begin(value);
          },
          error: (error: unknown) => subscriber.error(error),
          complete: () => {
            ended = true;
            if (!busy) subscriber.complete();
          },
        }),
      );
    });
