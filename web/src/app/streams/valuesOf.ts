import { effect, untracked, type Injector, type Signal } from '@angular/core';
import { Observable } from 'rxjs';

/** What a signal holds, now and after each change, for as long as somebody listens. */
export const valuesOf = <T>(held: Signal<T>, injector: Injector): Observable<T> =>
  new Observable((subscriber) => {
    const watching = effect(
      () => {
        const value = held();
        untracked(() => subscriber.next(value));
      },
      { injector },
    );
    return () => watching.destroy();
  });
