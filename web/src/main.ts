import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideRouter, withComponentInputBinding, withInMemoryScrolling, withPreloading } from '@angular/router';
import { Root } from './app/root';
import { ROUTES } from './app/routes';
import { keepForOffline } from './app/session/copies';
import { PreloadAfterwards } from './app/session/preload';
import { signedOutInterceptor } from './app/session/signedOut';

bootstrapApplication(Root, {
  providers: [
    provideRouter(
      ROUTES,
      withComponentInputBinding(),
      withInMemoryScrolling({ scrollPositionRestoration: 'top' }),
      withPreloading(PreloadAfterwards),
    ),
    provideHttpClient(withFetch(), withInterceptors([signedOutInterceptor])),
  ],
})
  .then((app) => app.whenStable())
  .then(keepForOffline)
  .catch((error: unknown) => console.error(error));
