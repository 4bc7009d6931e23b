import { say, type Ask, type Words } from '@vane/core';
import type { Moment } from './sitting/sitting';

/** The next words beside the stage: to be said as they stand, or for the adult alone. */
export function nextWords(ask: Ask, moment: Moment, name: string, words: Words): string {
  switch (moment) {
    case 'ready':
      return say({ say: 'ready' }, words);
    case 'asking':
      return say(ask.prompt, words);
    case 'stopped':
      return `What did ${name} answer?`;
    default:
      return say(ask.after, words);
  }
}
