import { carpet } from '@vane/core/words/english/carpet';
import type { Language } from '@vane/core/words/language';
import { pseudo } from '@vane/core/words/pseudo';
import { LANGUAGE } from './current';

const ALL: Readonly<Record<Language, typeof carpet>> = { 'en-GB': carpet, 'en-XA': pseudo(carpet) };

/** What is said and chosen on the carpet, in the language that the page speaks: loaded with the places that need it. */
export const carpetWords = ALL[LANGUAGE];
