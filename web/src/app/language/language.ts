import { languageFor, LANGUAGES, type Language } from '@vane/core/words/language';

const LANGUAGE_KEY = 'vane-language';

/** The language asked for by `?lang=`, remembered on this device; the first one when nobody asked. */
function chosen(): Language {
  const asked = new URLSearchParams(location.search).get('lang');
  if (asked !== null) localStorage.setItem(LANGUAGE_KEY, languageFor(asked));
  return languageFor(localStorage.getItem(LANGUAGE_KEY));
}

/**
 * Readies the page to speak its language. It must have ended before any other part of the page is loaded: messages are looked up when a component is
 * defined, words of the catalogue when a file is loaded.
 */
export async function speak(): Promise<void> {
  const language = chosen();
  document.documentElement.lang = language;
  if (language === LANGUAGES[0]) return;
  const { speakOther } = await import('./otherLanguage');
  await speakOther(language);
}
