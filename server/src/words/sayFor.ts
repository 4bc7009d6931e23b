import { catalogue, languageFor, type Catalogue } from '@vane/core';
import type { Context } from 'hono';

/** The catalogue in the requesting page's language (Accept-Language). */
export const sayFor = (c: Context): Catalogue => catalogue(languageFor(c.req.header('accept-language')));
