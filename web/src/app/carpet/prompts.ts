import { type Ask, type Words } from '@vane/core';
import { carpetWords } from '../language/carpetWords';
import type { Moment } from './sitting/sitting';

/** The next words beside the stage: to be said as they stand, or for the adult alone. */
export function nextWords(ask: Ask, moment: Moment, name: string, words: Words): string {
  switch (moment) {
    case 'ready':
      return carpetWords.prompt({ say: 'ready' }, words);
    case 'asking':
      return carpetWords.prompt(ask.prompt, words);
    case 'stopped':
      return $localize`What did ${name} answer?`;
    default:
      return carpetWords.prompt(ask.after, words);
  }
}
