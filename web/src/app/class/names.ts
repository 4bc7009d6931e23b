import { Injectable, signal } from '@angular/core';
import { words } from '../language/words';

const HIDDEN_NAMES_KEY = 'vane-names-hidden';

/** Whether the names of children are shown: this device is often mirrored to the board. What is hidden stays hidden after a reload, until it is shown again or the tab is closed. */
@Injectable({ providedIn: 'root' })
export class Names {
  readonly hidden = signal(sessionStorage.getItem(HIDDEN_NAMES_KEY) !== null);

  toggle(): void {
    this.hidden.update((hidden) => !hidden);
    if (this.hidden()) sessionStorage.setItem(HIDDEN_NAMES_KEY, 'yes');
    else sessionStorage.removeItem(HIDDEN_NAMES_KEY);
  }
  /** A name, or a mark in its place. */
  readonly of = (nickname: string): string => (this.hidden() ? '• •' : nickname);
  /** Some names, or how many they are. */
  readonly listed = (nicknames: readonly string[]): string =>
    this.hidden() ? words.counted.children(nicknames.length) : words.listed(nicknames);
}
