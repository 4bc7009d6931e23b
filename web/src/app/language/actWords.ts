import { acts } from '@vane/core/words/english/school';
import { inLanguage } from '@vane/core/words/inLanguage';
import { LANGUAGE } from './current';

/** Acts of the audit, in the language that the page speaks. */
export const actWords: Readonly<Record<string, string>> = inLanguage(LANGUAGE, acts);
