import * as prints from '@vane/core/words/english/prints';
import type { Language } from '@vane/core/words/language';
import { pseudo } from '@vane/core/words/pseudo';
import { LANGUAGE } from './current';

const ALL: Readonly<Record<Language, typeof prints>> = { 'en-GB': prints, 'en-XA': pseudo({ ...prints }) };

/** What can be printed, in the language that the page speaks. */
export const paperWords = ALL[LANGUAGE];
