import * as prints from '@vane/core/words/english/prints';
import { inLanguage } from '@vane/core/words/inLanguage';
import { LANGUAGE } from './current';

/** What can be printed, in the language that the page speaks. */
export const paperWords = inLanguage(LANGUAGE, { ...prints });
