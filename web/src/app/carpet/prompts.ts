import { sayWith, sentenceOf } from '@vane/core';
import { carpetWords } from '../language/carpetWords';
import type { Sitting } from './sitting/sitting';

/** The next words beside the stage: to be said as they stand, or for the adult alone. */
export function nextWords(sitting: Sitting, name: string): string {
  const ask = sitting.ask();
  const { words } = sitting.wish.settings;
  switch (sitting.moment()) {
    case 'ready':
      return carpetWords.prompt({ say: 'ready' }, words);
    case 'asking':
      return carpetWords.prompt(ask.prompt, words);
    case 'stopped':
      return $localize`What did ${name} answer?`;
    default: {
      const help = sitting.marks().help.at(-1);
      // Right after help, the child says the whole sentence.
      if (sitting.putRight()) return carpetWords.prompt(sentenceOf(ask) ?? { say: 'thanks' }, words);
      return carpetWords.prompt(help ? sayWith(ask, sitting.given() ?? '', help) : sitting.reply().say, words);
    }
  }
}
