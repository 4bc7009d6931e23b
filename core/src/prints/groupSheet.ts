import type { Drawn } from '../layouts/drawn';
import { factWords } from '../routines/classWords';
import { INK } from './paper';
import { heading, line, small, type Block } from './text';

/** A line for the answer and a box for "counted". */
const PLACE: Drawn = {
  width: 18,
  height: 8,
  body: `<path d="M0 7h10" stroke="${INK}" stroke-width=".25"/><rect x="12.5" y="2.5" width="4.5" height="4.5" fill="none" stroke="${INK}" stroke-width=".3"/>`,
};

/** For a helper without a device: each child's answer is written in, with a box for "counted". The code finds the sheet again for keying in. */
export const groupSheet = ({
  code,
  className,
  today,
  nicknames,
  facts,
}: {
  readonly code: string;
  readonly className: string;
  readonly today: string;
  readonly nicknames: readonly string[];
  readonly facts: readonly string[];
}): Block[] => [
  heading(`${className}: group sheet ${code}`),
  line(`Made on ${today}. Asked on ____________ by ____________`),
  small(
    'Ask one child at a time; the others wait or build. Write the first answer, whatever comes after. Tick the box if you saw or heard counting. Leave the place empty if the child was not asked. No hurry, no comparing.',
  ),
  {
    block: 'table',
    head: ['', ...nicknames],
    rows: facts.map((fact) => [factWords(fact), ...nicknames.map(() => PLACE)]),
  },
  small(
    'The small box is for “counted”. Afterwards: Prints, “Key in a group sheet”. Then let the paper go where your setting’s rules send papers with children’s names.',
  ),
];
