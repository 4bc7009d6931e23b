import { pages } from '@vane/core/words/english/pages';
import { inLanguage } from './spoken';

/** What the pages of a child and of the class say, in the language that the page speaks. */
export const pageWords = inLanguage(pages, (all) => all.pages);
