import * as prints from '@vane/core/words/english/prints';
import { inLanguage } from './spoken';

/** What can be printed, in the language that the page speaks. */
export const paperWords = inLanguage({ ...prints }, (all) => all.prints);
