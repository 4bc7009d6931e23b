import { inject } from '@angular/core';
import { Router, type CanActivateFn } from '@angular/router';
import { catchError, map, of } from 'rxjs';
import { problemOf } from '../api/api';
import { Session } from './session';

/** Places are for signed-in adults; others are led to the door. */
export const inside: CanActivateFn = (_, state) => {
  const router = inject(Router);
  return inject(Session)
    .known()
    .pipe(
      // Once, before anything else, every adult is shown what to mind.
      map(({ careRead }) => careRead || state.url.startsWith('/before-use') || router.createUrlTree(['/before-use'])),
      // No answer at all is not "signed out": the door says which it is.
      catchError((error: unknown) =>
        of(router.createUrlTree(['/sign-in'], problemOf(error) === null ? { queryParams: { silent: 1 } } : {})),
      ),
    );
};

/** Places of a class are for adults who have one; others are told whom to ask. */
export const withClass: CanActivateFn = () => {
  const router = inject(Router);
  return inject(Session)
    .known()
    .pipe(map(({ classes }) => classes.length > 0 || router.createUrlTree(['/no-class'])));
};

/** The doors are for those outside. The server is asked, as a device whose sign-in has ended must not keep what was read with it. */
export const outside: CanActivateFn = () => {
  const router = inject(Router);
  return inject(Session)
    .known()
    .pipe(
      map(() => router.createUrlTree(['/today'])),
      // Nobody is signed in, or no answer came: the door says which it is.
      catchError(() => of(true)),
    );
};
