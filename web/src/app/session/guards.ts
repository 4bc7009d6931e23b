import { inject } from '@angular/core';
import { Router, type CanActivateFn } from '@angular/router';
import { problemOf } from './api';
import { Session } from './session';

/** Places are for signed-in adults; others are led to the door. */
export const inside: CanActivateFn = async () => {
  const session = inject(Session);
  const router = inject(Router);
  try {
    await session.known();
    return true;
  } catch (error) {
    // No answer at all is not "signed out": the door says which it is.
    return router.createUrlTree(['/sign-in'], problemOf(error) === null ? { queryParams: { silent: 1 } } : {});
  }
};

/** The doors are for those outside. */
export const outside: CanActivateFn = () => (inject(Session).me() === null ? true : inject(Router).createUrlTree(['/today']));
