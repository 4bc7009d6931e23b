import { LOCALE_ID } from '@angular/core';
import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideRouter, withComponentInputBinding, withInMemoryScrolling, withPreloading } from '@angular/router';
import { askedIn } from './app/language/askedIn';
import { Root } from './app/root';
import { ROUTES } from './app/routes';
import { keepForOffline } from './app/offline/copies';
import { PreloadAfterwards } from './app/offline/preload';
import { signedOutInterceptor } from './app/signedIn/signedOut';

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
})
  .then((app) => app.whenStable())
  .then(keepForOffline)
  .catch((error: unknown) => console.error(error));
