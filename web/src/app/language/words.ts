import { catalogue, languageFor } from '@vane/core/words/catalogue';

/** Everything that `core` can put into words, in the language that the page speaks. */
export const words = catalogue(languageFor(typeof document === 'undefined' ? null : document.documentElement.lang));
