import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import { bootstrapApplication } from '@angular/platform-browser';
import { provideRouter, withComponentInputBinding, withInMemoryScrolling } from '@angular/router';
import { Root } from './app/root';
import { ROUTES } from './app/routes';
import { signedOutInterceptor } from './app/session/signedOut';

void bootstrapApplication(Root, {
  providers: [
    provideRouter(ROUTES, withComponentInputBinding(), withInMemoryScrolling({ scrollPositionRestoration: 'top' })),
    provideHttpClient(withFetch(), withInterceptors([signedOutInterceptor])),
  ],
});
