import type { Catalogue } from '@vane/core/words/catalogue';

/** The catalogue of the page's language; null for the first language, whose words are loaded with the code that says them. */
let spoken: Catalogue | null = null;

export function speakBy(catalogue: Catalogue): void {
  spoken = catalogue;
}

/** A part of the catalogue in the page's language. @param first the part in the first language */
export const inLanguage = <T>(first: T, partOf: (catalogue: Catalogue) => T): T =>
  spoken === null ? first : partOf(spoken);
