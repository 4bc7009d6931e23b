import type { HttpInterceptorFn } from '@angular/common/http';
import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { catchError, throwError } from 'rxjs';
import { problemOf } from './api';
import { Session } from './session';

/** An expired sign-in leads back to the door, wherever it shows; what waits on the device stays there. A sitting is not torn away: it goes on, unsent. */
export const signedOutInterceptor: HttpInterceptorFn = (request, next) => {
  const session = inject(Session);
  const router = inject(Router);
  return next(request).pipe(
    catchError((error: unknown) => {
      if (problemOf(error)?.code === 'not-signed-in' && session.me() !== null && !router.url.startsWith('/carpet')) {
        session.forget();
        void router.navigateByUrl('/sign-in');
      }
      if (problemOf(error)?.code === 'locked') session.noteLocked();
      return throwError(() => error);
    }),
  );
};
