import { Observable } from 'rxjs';

/** The same work while this browser's lock of that name is held: one page at a time does it. A browser without locks does it at once. */
export const locked = <T>(name: string, work: Observable<T>): Observable<T> =>
  'locks' in navigator
    ? new Observable((subscriber) => {
        const leaving = new AbortController();
        subscriber.add(() => leaving.abort());
        const inside = (): Promise<void> =>
          new Promise((done, fail) => {
            subscriber.add(done);
            subscriber.add(work.subscribe({ next: (value) => subscriber.next(value), error: fail, complete: done }));
          });
        navigator.locks.request(name, { signal: leaving.signal }, inside).then(
          () => subscriber.complete(),
          (error: unknown) => subscriber.error(error),
        );
      })
    : work;
