import { Injectable, inject } from '@angular/core';
import { fromEvent, interval, merge } from 'rxjs';
import { Session } from './session';
import { WholeScreen } from '../device/wholeScreen';

const LOOK_EVERY_MS = 10_000;
/** A device that is left alone so long is locked, when its adult has a pin. */
export const IDLE_MS = 10 * 60_000;

/** Locks a device that nobody touches. A running sitting is not locked: the child may be thinking. */
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
    // Without an answering server there is nothing to see here but what is on the screen: it tries again.
    this.#session.lock().subscribe({ error: () => undefined });
  }
}
