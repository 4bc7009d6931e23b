import { DestroyRef, inject, signal } from '@angular/core';
import type { Observable } from 'rxjs';
import { inWords } from '../api/api';

/** Runs an adult's action and reports its outcome in words; used by every page that changes something. */
export class Doing {
  readonly trouble = signal('');
  readonly told = signal('');
  readonly busy = signal(false);
  readonly #place = inject(DestroyRef);

  /**
   * Does it; says `told` when it is done, and what went wrong when it is not. The act itself goes on when its place is
   * left before the answer comes; `then` is for the place alone, and only runs while that stands.
   */
  run<T>(act: Observable<T>, told = '', then: (answer: T) => void = () => undefined): void {
    this.trouble.set('');
    this.told.set('');
    this.busy.set(true);
    act.subscribe({
      next: (answer) => {
        this.busy.set(false);
        this.told.set(told);
        if (!this.#place.destroyed) then(answer);
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.trouble.set(inWords(error));
      },
    });
  }
}
