import type { LayoutName } from '../facts/fact';
import { questionInPrint } from '../facts/question';

/** Layouts as they are spoken of. */
export const LAYOUT_WORDS: Record<LayoutName, string> = {
  five: 'five frame',
  'frame-fives': 'frame by fives',
  'frame-pairs': 'frame by pairs',
  dice: 'dice',
  domino: 'domino',
  scatter: 'scattered',
  mirror: 'mirror',
  beads: 'beads',
  fingers: 'fingers',
  line: 'objects on a line',
};

/** A fact or question as it is spoken of: "3 + 5", "7 on a frame by fives". */
export function factWords(fact: string): string {
  const [kind, n, layout] = fact.split(':');
  return kind === 'show' ? `${n} on a ${LAYOUT_WORDS[layout as LayoutName]}` : questionInPrint(fact);
}

/** The usual cautions, to be shown wherever the work calls for them. */
export const CAUTION_WORDS = {
  flash:
    'One gentle showing at a time, never more than two in a second. A child with a photosensitive condition follows their own care plan.',
  objects:
    'Small things can choke: keep them from children under three and from any who still put things in their mouth, by your setting’s own rules. Food needs your rules on allergies and hygiene.',
} as const;
export type Caution = keyof typeof CAUTION_WORDS;

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
