/** What can hurt: the catalogue has the usual words for each. */
export type Caution = 'flash' | 'objects';

/** Words a class uses, chosen once and used in every prompt. The first of each list is the usual one. */
export const WORD_CHOICES = {
  whole: ['whole', 'total'],
  part: ['part', 'addend'],
  pair: ['pair', 'bond', 'partner', 'combination'],
  plus: ['and', 'plus', 'add'],
  minus: ['take away', 'minus'],
  equals: ['make', 'equal', 'is'],
  things: ['lanterns', 'buoys', 'shells', 'pebbles'],
  frame: ['frame', 'tray', 'crate'],
} as const;

export type Words = { readonly [W in keyof typeof WORD_CHOICES]: (typeof WORD_CHOICES)[W][number] };

export const USUAL_WORDS: Words = {
  whole: 'whole',
  part: 'part',
  pair: 'pair',
  plus: 'and',
  minus: 'take away',
  equals: 'make',
  things: 'lanterns',
  frame: 'frame',
};
