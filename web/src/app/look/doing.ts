import { signal } from '@angular/core';
import type { Observable } from 'rxjs';
import { inWords } from '../session/api';

/** What an adult asked for, and how it went, in words: the one way of pages that change something. */
export class Doing {
  readonly trouble = signal('');
  readonly told = signal('');

  /** Does it; says `told` when it is done, and what went wrong when it is not. */
  run(act: Observable<unknown>, told = '', then: () => void = () => undefined): void {
    this.trouble.set('');
    this.told.set('');
    act.subscribe({
      next: () => {
        this.told.set(told);
        then();
      },
      error: (error: unknown) => this.trouble.set(inWords(error)),
    });
  }
}
