import { catalogue, languageFor, type Catalogue, type Language } from '@vane/core';
import type { Context } from 'hono';

/** The requesting page's language (Accept-Language). */
export const languageOf = (c: Context): Language => languageFor(c.req.header('accept-language'));

/** The catalogue in that language. */
export const sayFor = (c: Context): Catalogue => catalogue(languageOf(c));
