import { carpet } from '@vane/core/words/english/carpet';
import { inLanguage } from './spoken';

/** What is said and chosen on the carpet, in the language that the page speaks: loaded with the places that need it. */
export const carpetWords = inLanguage(carpet, (all) => all);
