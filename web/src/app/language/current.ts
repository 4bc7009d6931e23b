import { languageFor } from '@vane/core/words/language';

/** The language that the page speaks. A worker has no page, and says nothing. */
export const LANGUAGE = languageFor(typeof document === 'undefined' ? null : document.documentElement.lang);
