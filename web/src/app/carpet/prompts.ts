import { parseFact } from '@vane/core';
import type { Moment } from './sitting';

/** The next words to say beside the stage, for a flash sitting. */
export function nextWords(fact: string, moment: Moment, name: string): string {
  const { kind } = parseFact(fact);
  if (kind === 'match') return moment === 'answered' ? 'Thank you.' : '“Which number is this?”';
  if (kind === 'count' && moment !== 'stopped') return moment === 'answered' ? 'Thank you.' : '“Count these. How many pebbles?”';
  switch (moment) {
    case 'ready':
      return '“Ready? Look.”';
    case 'asking':
      return '“How many lanterns did you see?”';
    case 'stopped':
      return `Which number did ${name} say?`;
    default:
      return followUp(parseFact(fact).answer);
  }
}

/** The question that suits the number, for talk afterwards; its answer is not recorded here. */
function followUp(n: number): string {
  if (n === 0) return '“How did you know it was empty?”';
  if (n < 5) return '“How many more to five?”';
  if (n === 5) return '“What did the whole row tell you?”';
  if (n === 10) return '“How did you know it was full?”';
  return n === 9 ? '“How many boxes were empty?”' : '“How many on the top, how many below?”';
}
