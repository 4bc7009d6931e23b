import { carpet } from '@vane/core/words/english/carpet';
import { inLanguage } from '@vane/core/words/inLanguage';
import { LANGUAGE } from './current';

/** What is said and chosen on the carpet, in the language that the page speaks: loaded with the places that need it. */
export const carpetWords = inLanguage(LANGUAGE, carpet);
