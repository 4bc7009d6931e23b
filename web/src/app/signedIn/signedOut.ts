import type { HttpInterceptorFn } from '@angular/common/http';
import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { catchError, throwError } from 'rxjs';
import { problemOf } from '../api/api';
import { dropCopies } from '../offline/copies';
import { Session } from './session';

/** An ended sign-in leads back to the door, wherever it shows, and takes the device's copies of the record away; what waits on the device stays there. A sitting is not torn away: it goes on, unsent. */
export const signedOutInterceptor: HttpInterceptorFn = (request, next) => {
  const session = inject(Session);
  const router = inject(Router);
  return next(request).pipe(
    catchError((error: unknown) => {
      if (problemOf(error)?.code === 'not-signed-in') {
        // Whoever holds the device now may be anybody.
        void dropCopies();
        if (session.me() !== null && !router.url.startsWith('/carpet')) {
          session.forget();
          void router.navigateByUrl('/sign-in');
        }
      }
      if (problemOf(error)?.code === 'locked') session.noteLocked();
      return throwError(() => error);
    }),
  );
};
