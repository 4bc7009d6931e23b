import { loadTranslations } from '@angular/localize';
import { languageFor, type Language } from '@vane/core/words/language';

const KEPT = 'vane-language';

/** The language asked for by `?lang=`, remembered on this device; the first one when nobody asked. */
function chosen(): Language {
  const asked = new URLSearchParams(location.search).get('lang');
  if (asked !== null) localStorage.setItem(KEPT, languageFor(asked));
  return languageFor(localStorage.getItem(KEPT));
}

/** Every message made pseudo between its placeholders. */
async function pseudo(messages: Record<string, string>): Promise<Record<string, string>> {
  const { pseudoText } = await import('@vane/core/words/pseudo');
  const made = (message: string): string =>
    message
      .split(/(\{\$?[^{}]*\}|[{}][^{}]*)/)
      .map((part) => (/^[{}]/.test(part) ? part : pseudoText(part)))
      .join('');
  return Object.fromEntries(Object.entries(messages).map(([id, message]) => [id, made(message)]));
}

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
  loadTranslations(language === 'en-XA' ? await pseudo(translations) : translations);
}
