import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import { bootstrapApplication } from '@angular/platform-browser';
import { PreloadAllModules, provideRouter, withComponentInputBinding, withInMemoryScrolling, withPreloading } from '@angular/router';
import { Root } from './app/root';
import { ROUTES } from './app/routes';
import { keepForOffline } from './app/session/copies';
import { signedOutInterceptor } from './app/session/signedOut';

bootstrapApplication(Root, {
  providers: [
    // All places load once the first one stands: afterwards a lost network does not lock a teacher out of them.
    provideRouter(ROUTES, withComponentInputBinding(), withInMemoryScrolling({ scrollPositionRestoration: 'top' }), withPreloading(PreloadAllModules)),
    provideHttpClient(withFetch(), withInterceptors([signedOutInterceptor])),
  ],
})
  .then(keepForOffline)
  .catch((error: unknown) => console.error(error));
