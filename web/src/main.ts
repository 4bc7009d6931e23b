import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideRouter, withComponentInputBinding, withInMemoryScrolling, withPreloading } from '@angular/router';
import { Root } from './app/root';
import { ROUTES } from './app/routes';
import { keepForOffline } from './app/offline/copies';
import { PreloadAfterwards } from './app/offline/preload';
import { signedOutInterceptor } from './app/signedIn/signedOut';

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
