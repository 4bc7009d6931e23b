import { general } from '@vane/core/words/english/general';
import { inLanguage } from '@vane/core/words/inLanguage';
import { LANGUAGE } from './current';

/** What `core` says of facts, readings, plan and record, in the language that the page speaks. */
export const words = inLanguage(LANGUAGE, general);
