import { isDevMode, LOCALE_ID } from '@angular/core';
import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideRouter, withComponentInputBinding, withInMemoryScrolling, withPreloading } from '@angular/router';
import { checkAnswers } from './app/api/asDescribed';
import { askedIn } from './app/language/askedIn';
import { Root } from './app/root';
import { ROUTES } from './app/routes';
import { keepForOffline } from './app/offline/copies';
import { PreloadAfterwards } from './app/offline/preload';
import { signedOutInterceptor } from './app/signedIn/signedOut';

/** Development builds hold every answer against the contract, and so does a page that its server has marked for it (`VANE_CHECK_ANSWERS`, in tests). */
const checked =
  isDevMode() || document.documentElement.hasAttribute('data-check-answers')
    ? import('@vane/contract/routes').then(({ wrongIn }) => checkAnswers(wrongIn))
    : Promise.resolve();

checked
  .then(() =>
    bootstrapApplication(Root, {
      providers: [
        { provide: LOCALE_ID, useValue: document.documentElement.lang },
        provideRouter(
          ROUTES,
          withComponentInputBinding(),
          withInMemoryScrolling({ scrollPositionRestoration: 'top' }),
          withPreloading(PreloadAfterwards),
        ),
        provideHttpClient(withFetch(), withInterceptors([askedIn, signedOutInterceptor])),
      ],
    }),
  )
  .then((app) => {
    // Whether the page has all that it asked for: seen from outside, by tests and by whoever measures.
    app.isStable.subscribe((stable) => document.documentElement.toggleAttribute('data-settled', stable));
    return app.whenStable();
  })
  .then(keepForOffline)
  .catch((error: unknown) => console.error(error));
