import { general } from '@vane/core/words/english/general';
import { inLanguage } from './spoken';

/** What `core` says of facts, readings, plan and record, in the language that the page speaks. */
export const words = inLanguage(general, (all) => all);
