import { catalogue, languageFor, type Catalogue } from '@vane/core';
import type { Context } from 'hono';

/** The words of whoever asks: the language of the page, as it says with every request. */
export const sayFor = (c: Context): Catalogue => catalogue(languageFor(c.req.header('accept-language')));
