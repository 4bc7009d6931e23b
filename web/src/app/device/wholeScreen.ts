import { Injectable, signal } from '@angular/core';

/** True while a sitting runs: then the places step aside and the stage has the whole screen. */
@Injectable({ providedIn: 'root' })
export class WholeScreen {
  readonly taken = signal(false);
}
