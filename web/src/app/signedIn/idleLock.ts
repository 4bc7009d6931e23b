import { Injectable, inject } from '@angular/core';
import {
  catchError,
  EMPTY,
  exhaustMap,
  filter,
  fromEvent,
  interval,
  map,
  merge,
  startWith,
  withLatestFrom,
  type Observable,
} from 'rxjs';
import { Session } from './session';
import { WholeScreen } from '../device/wholeScreen';

const LOOK_EVERY_MS = 10_000;
/** Idle time after which a device locks, when its adult has a PIN, ms. */
const IDLE_MS = 10 * 60_000;

/** Locks an idle device. A running session does not lock: the child may be thinking. */
@Injectable({ providedIn: 'root' })
export class IdleLock {
  readonly #session = inject(Session);
  readonly #wholeScreen = inject(WholeScreen);

  /** Each time the device was locked, for as long as somebody listens. The clock is looked at, since a device that sleeps runs no timers. */
  watched(): Observable<unknown> {
    const touched = merge(fromEvent(window, 'pointerdown'), fromEvent(window, 'keydown')).pipe(
      startWith(null),
      map(() => Date.now()),
    );
    return interval(LOOK_EVERY_MS).pipe(
      withLatestFrom(touched),
      filter(([, at]) => Date.now() - at >= IDLE_MS && this.#mayLock()),
      // The server did not answer: keeps the page and tries again.
      exhaustMap(() => this.#session.lock().pipe(catchError(() => EMPTY))),
    );
  }

  #mayLock(): boolean {
    const me = this.#session.me();
    return me !== null && me.hasPin && !me.locked && !this.#wholeScreen.taken();
  }
}
