import { english } from './english/index';
import type { Language } from './language';
import { pseudo } from './pseudo';

export { languageFor, LANGUAGES, type Language } from './language';

type Widened<T> = T extends string
  ? string
  : T extends (...args: never[]) => unknown
    ? T
    : { readonly [K in keyof T]: Widened<T[K]> };

/** Everything that `core` can put into words, in one language. The class's own words are parameters. */
export type Catalogue = Widened<typeof english>;

const ALL: Readonly<Record<Language, Catalogue>> = {
  'en-GB': english,
  'en-XA': { ...pseudo(english), language: 'en-XA' },
};

export const catalogue = (language: Language): Catalogue => ALL[language];
