import { acts } from '@vane/core/words/english/school';
import type { Language } from '@vane/core/words/language';
import { pseudo } from '@vane/core/words/pseudo';
import { LANGUAGE } from './current';

const ALL: Readonly<Record<Language, Readonly<Record<string, string>>>> = { 'en-GB': acts, 'en-XA': pseudo(acts) };

/** Acts of the audit, in the language that the page speaks. */
export const actWords = ALL[LANGUAGE];
