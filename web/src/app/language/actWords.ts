import { acts } from '@vane/core/words/english/school';
import { inLanguage } from './spoken';

/** Acts of the audit, in the language that the page speaks. */
export const actWords = inLanguage<Readonly<Record<string, string>>>(acts, (all) => all.acts);
