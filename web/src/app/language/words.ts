import { general } from '@vane/core/words/english/general';
import type { Language } from '@vane/core/words/language';
import { pseudo } from '@vane/core/words/pseudo';
import { LANGUAGE } from './current';

const ALL: Readonly<Record<Language, typeof general>> = { 'en-GB': general, 'en-XA': pseudo(general) };

/** What `core` says of facts, readings, plan and record, in the language that the page speaks. */
export const words = ALL[LANGUAGE];
