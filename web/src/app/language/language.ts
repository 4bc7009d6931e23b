import { loadTranslations } from '@angular/localize';
import { languageFor, type Language } from '@vane/core/words/language';
import { pseudoText } from '@vane/core/words/pseudo';

const KEPT = 'vane-language';

/** The language asked for by `?lang=`, remembered on this device; the first one when nobody asked. */
function chosen(): Language {
  const asked = new URLSearchParams(location.search).get('lang');
  if (asked !== null) localStorage.setItem(KEPT, languageFor(asked));
  return languageFor(localStorage.getItem(KEPT));
}

/** Text between the placeholders of a message made pseudo. */
const pseudoMessage = (message: string): string =>
  message
    .split(/(\{\$?[^{}]*\}|[{}][^{}]*)/)
    .map((part) => (/^[{}]/.test(part) ? part : pseudoText(part)))
    .join('');

/**
 * Readies the page to speak its language. It must have ended before any other part of the page is loaded: messages are looked up when a component is
 * defined.
 */
export async function speak(): Promise<void> {
  const language = chosen();
  document.documentElement.lang = language;
  if (language === 'en-GB') return;
  // The pseudo-language has no file of its own: it is made from the first language's messages.
  const file = language === 'en-XA' ? 'en-GB' : language;
  const answer = await fetch(`/languages/${file}.json`);
  const { translations } = (await answer.json()) as { translations: Record<string, string> };
  loadTranslations(
    language === 'en-XA'
      ? Object.fromEntries(Object.entries(translations).map(([id, message]) => [id, pseudoMessage(message)]))
      : translations,
  );
}
