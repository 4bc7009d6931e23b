import { pages } from '@vane/core/words/english/pages';
import type { Language } from '@vane/core/words/language';
import { pseudo } from '@vane/core/words/pseudo';
import { LANGUAGE } from './current';

const ALL: Readonly<Record<Language, typeof pages>> = { 'en-GB': pages, 'en-XA': pseudo(pages) };

/** What the pages of a child and of the class say, in the language that the page speaks. */
export const pageWords = ALL[LANGUAGE];
