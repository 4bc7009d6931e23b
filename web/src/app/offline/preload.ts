import { ApplicationRef, inject, Injectable } from '@angular/core';
import type { PreloadingStrategy, Route } from '@angular/router';
import { catchError, EMPTY, from, switchMap, type Observable } from 'rxjs';

/**
 * All places load once the first one stands with its data, and not before: on a slow network they would hold it up. Afterwards a lost network does not lock a teacher out of them.
 */
@Injectable({ providedIn: 'root' })
export class PreloadAfterwards implements PreloadingStrategy {
  readonly #app = inject(ApplicationRef);

  preload(_: Route, load: () => Observable<unknown>): Observable<unknown> {
    // What fails is loaded when it is opened, and says so then.
    return from(this.#app.whenStable()).pipe(
      switchMap(load),
      catchError(() => EMPTY),
    );
  }
}
