import { Injectable, inject } from '@angular/core';
import { fromEvent, interval, merge } from 'rxjs';
import { Session } from './session';
import { WholeScreen } from '../device/wholeScreen';

const LOOK_EVERY_MS = 10_000;
/** Idle time after which a device locks, when its adult has a PIN, ms. */
export const IDLE_MS = 10 * 60_000;

/** Locks an idle device. A running session does not lock: the child may be thinking. */
@Injectable({ providedIn: 'root' })
export class IdleLock {
  readonly #session = inject(Session);
  readonly #wholeScreen = inject(WholeScreen);
  #touched = 0;

  watch(): void {
    this.#touched = Date.now();
    merge(fromEvent(window, 'pointerdown'), fromEvent(window, 'keydown')).subscribe(() => (this.#touched = Date.now()));
    interval(LOOK_EVERY_MS).subscribe(() => this.look());
  }

  look(): void {
    const me = this.#session.me();
    if (!me?.hasPin || me.locked || this.#wholeScreen.taken() || Date.now() - this.#touched < IDLE_MS) return;
    // The server did not answer: keeps the page and tries again.
    this.#session.lock().subscribe({ error: () => undefined });
  }
}
