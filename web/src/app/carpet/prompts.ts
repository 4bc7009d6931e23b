import { sayWith, sentenceOf, tellsAnswer, type Prompt } from '@vane/core';
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
    default:
      return isKept(sitting) ? carpetWords.prompt(replied(sitting), words) : $localize`This answer is left out.`;
  }
}

/** What is said to the answer that stands: right after help, the child says the whole sentence. */
function replied(sitting: Sitting): Prompt {
  const ask = sitting.ask();
  const help = sitting.marks().help.at(-1);
  if (sitting.putRight()) return sentenceOf(ask) ?? { say: 'thanks' };
  return help ? sayWith(ask, sitting.given() ?? '', help) : sitting.reply().say;
}

/** The answer that stands was not voided. */
export const isKept = (sitting: Sitting): boolean => (sitting.row()?.void ?? '') === '';

/** Whether what is said now gives the answer away. */
export const repliesTelling = (sitting: Sitting): boolean => isKept(sitting) && tellsAnswer(replied(sitting));
