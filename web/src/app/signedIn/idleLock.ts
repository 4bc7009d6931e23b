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
  share,
  startWith,
  withLatestFrom,
  type Observable,
} from 'rxjs';
import { Session } from './session';
import { WholeScreen } from '../device/wholeScreen';

const LOOK_EVERY_MS = 10_000;
/** Idle time after which a device locks, when its adult has a PIN, ms. */
const IDLE_MS = 10 * 60_000;
/** The server is told that somebody is here at most this often, ms. */
const TELL_EVERY_MS = 4 * 60_000;

/** Locks an idle device. A running session does not lock: the child may be thinking. */
@Injectable({ providedIn: 'root' })
export class IdleLock {
  readonly #session = inject(Session);
  readonly #wholeScreen = inject(WholeScreen);
  /** When the server was told last that somebody is here. */
  #told = 0;

  /** Looks at the clock for as long as somebody listens, since a device that sleeps runs no timers: locks the device, or tells the server that somebody is here, which locks it by itself otherwise. */
  watched(): Observable<unknown> {
    const touched = merge(fromEvent(window, 'pointerdown'), fromEvent(window, 'keydown')).pipe(
      startWith(null),
      map(() => Date.now()),
    );
    const seenAt = interval(LOOK_EVERY_MS).pipe(
      withLatestFrom(touched),
      filter(() => this.#withPin()),
      map(([, at]) => (this.#wholeScreen.taken() ? Date.now() : at)),
      share(),
    );
    return merge(
      seenAt.pipe(
        filter((at) => Date.now() - at >= IDLE_MS),
        exhaustMap(() => this.#locked()),
      ),
      seenAt.pipe(
        filter((at) => at - this.#told >= TELL_EVERY_MS),
        exhaustMap(() => this.#tell()),
      ),
    );
  }

  #withPin(): boolean {
    const me = this.#session.me();
    return me !== null && me.hasPin && !me.locked;
  }

  /** Where the server cannot be asked, the page locks all the same: it opens when there is a network again. */
  #locked(): Observable<unknown> {
    return this.#session.lock().pipe(
      catchError(() => {
        this.#session.noteLocked();
        return EMPTY;
      }),
    );
  }

  #tell(): Observable<unknown> {
    this.#told = Date.now();
    // Without a network there is nobody to tell.
    return this.#session.active().pipe(catchError(() => EMPTY));
  }
}
