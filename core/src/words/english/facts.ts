import { factInPrint, type LayoutName } from '../../facts/fact';
import type { Picture } from '../../routines/picture';

/** Layouts by name. */
export const layouts: Record<LayoutName, string> = {
  five: 'five frame',
  'frame-fives': 'frame by fives',
  'frame-pairs': 'frame by pairs',
  dice: 'dice dots',
  domino: 'domino',
  scatter: 'scattered',
  mirror: 'mirror image',
  beads: 'beads',
  fingers: 'fingers',
  line: 'in a line',
};

const SEEN: Record<LayoutName, (n: string) => string> = {
  five: (n) => `${n} on a five frame`,
  'frame-fives': (n) => `${n} on a frame by fives`,
  'frame-pairs': (n) => `${n} on a frame by pairs`,
  dice: (n) => `${n} as dice dots`,
  domino: (n) => `${n} on a domino`,
  scatter: (n) => `${n} scattered`,
  mirror: (n) => `${n} as a mirror image`,
  beads: (n) => `${n} on beads`,
  fingers: (n) => `${n} on fingers`,
  line: (n) => `${n} in a line`,
};

/** A fact or question as it is spoken of: "3 + 5", "7 on a frame by fives", "ways to make 6". */
export function fact(text: string): string {
  const [head = '', ...rest] = text.split(':');
  switch (head) {
    case 'show':
      return SEEN[rest[1] as LayoutName](rest[0] ?? '');
    case 'bond':
      return `${rest[0]} is ${rest[1]} and ?`;
    case 'ways':
      return `ways to make ${rest[0]}`;
    case 'groups':
      return `${rest[0]} groups of ${rest[1]}${rest[2] === 'count' ? ': how many groups' : ''}`;
    case 'more':
      return `${rest[0]} or ${rest[1]}: which is more?`;
    case 'same':
      return `${rest[0]} and ${rest[1]}: the same or different?`;
    case 'hides':
      return `which hides a ten: ${rest.map(factInPrint).join(', ')}`;
    case 'ten':
      return `which two make ten: ${factInPrint(rest[0] ?? '')}`;
    case 'boxes':
      return `the boxes of a frame for ${rest[0]}`;
    case 'boxes-top':
      return 'the boxes in the top row';
    case 'boxes-below':
      return 'the boxes in the bottom row';
    case 'top':
      return `${rest[0]} on a frame: how many in the top row`;
    case 'below':
      return `${rest[0]} on a frame: how many in the bottom row`;
    case 'side':
      return `${rest[0]} and ${rest[1]}: how many on the side of the ${rest[0]}`;
    case 'left':
      return `${factInPrint(rest[0] ?? '')}: how many are left over`;
    case 'start':
      return 'where the first one goes';
    case 'anywhere':
      return `${rest[0]} put anywhere`;
    case 'check':
      return `is it right: ${factInPrint(rest.join(':'))}`;
    default:
      return text.endsWith(':move') ? `${factInPrint(head)}: how many to move` : factInPrint(text);
  }
}

/** A fact as short as it can be, at the head of a column: "3 + 5", "8 = 3 + ?", an amount by its number. */
export function factHead(text: string): string {
  const [kind, whole, part] = text.split(':');
  if (kind === 'show') return whole ?? '';
  return kind === 'bond' ? `${whole} = ${part} + ?` : fact(text);
}

/** Names of pictures; they give nothing away, since a child may hear them read. */
export const pictures: Record<Picture['show'] | 'cover', string> = {
  nothing: 'nothing',
  counter: 'a counter',
  frame: 'a frame',
  'frame-anywhere': 'a frame',
  'up-to': 'a frame with a ring',
  'crossed-off': 'a frame',
  'moved-out': 'a frame',
  'two-part': 'a frame',
  'two-frames': 'two frames',
  spots: 'spots',
  scatter: 'a set',
  sets: 'two sets',
  groups: 'groups',
  row: 'a row',
  stick: 'a stick',
  trays: 'two trays',
  halves: 'a domino',
  die: 'a die and a numeral',
  ways: 'the ways so far',
  numeral: 'a numeral',
  sentence: 'a sentence',
  sentences: 'sentences',
  'part-whole': 'a part-whole picture',
  cover: 'cover',
};
