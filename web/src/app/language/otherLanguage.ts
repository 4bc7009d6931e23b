import { loadTranslations } from '@angular/localize';
import { catalogue } from '@vane/core/words/catalogue';
import type { Language } from '@vane/core/words/language';
import { pseudoText } from '@vane/core/words/pseudo';
import { speakBy } from './spoken';

/** Every message made pseudo between its placeholders. */
function pseudo(messages: Record<string, string>): Record<string, string> {
  const made = (message: string): string =>
    message
      .split(/(\{\$?[^{}]*\}|[{}][^{}]*)/)
      .map((part) => (/^[{}]/.test(part) ? part : pseudoText(part)))
      .join('');
  return Object.fromEntries(Object.entries(messages).map(([id, message]) => [id, made(message)]));
}

/** Readies the page to speak another language than the first. Loaded only for that: the first screen does not wait for words that nobody reads. */
export async function speakOther(language: Language): Promise<void> {
  speakBy(catalogue(language));
  // The pseudo-language has no file of its own: it is made from the first language's messages.
  const file = language === 'en-XA' ? 'en-GB' : language;
  const answer = await fetch(`/languages/${file}.json`);
  const { translations } = (await answer.json()) as { translations: Record<string, string> };
  loadTranslations(language === 'en-XA' ? pseudo(translations) : translations);
}
