import { inject } from '@angular/core';
import { Router, type CanActivateFn } from '@angular/router';
import { problemOf } from '../api/api';
import { Session } from './session';

/** Places are for signed-in adults; others are led to the door. */
export const inside: CanActivateFn = async (_, state) => {
  const session = inject(Session);
  const router = inject(Router);
  try {
    const { careRead } = await session.known();
    // Once, before anything else, every adult is shown what to mind.
    return careRead || state.url.startsWith('/before-use') ? true : router.createUrlTree(['/before-use']);
  } catch (error) {
    // No answer at all is not "signed out": the door says which it is.
    return router.createUrlTree(['/sign-in'], problemOf(error) === null ? { queryParams: { silent: 1 } } : {});
  }
};

/** The doors are for those outside. The server is asked, as a device whose sign-in has ended must not keep what was read with it. */
export const outside: CanActivateFn = async () => {
  const session = inject(Session);
  const router = inject(Router);
  try {
    await session.known();
    return router.createUrlTree(['/today']);
  } catch {
    // Nobody is signed in, or no answer came: the door says which it is.
    return true;
  }
};
