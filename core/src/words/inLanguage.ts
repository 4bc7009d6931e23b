import type { Language } from './language';
import { pseudo } from './pseudo';

/** A part of the English catalogue in a language: as it is, or as the pseudo-language has it. */
export const inLanguage = <T>(language: Language, english: T): T => (language === 'en-XA' ? pseudo(english) : english);
