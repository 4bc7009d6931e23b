import type { HttpInterceptorFn } from '@angular/common/http';

/** The server answers, prints and writes letters in the language that the page speaks. */
export const askedIn: HttpInterceptorFn = (request, next) =>
  next(request.clone({ setHeaders: { 'accept-language': document.documentElement.lang } }));
