import type { Drawn } from '../layouts/drawn';
import type { Catalogue } from '../words/catalogue';
import { INK } from './paper';
import { heading, large, small, type Block } from './text';

/** A line for the answer and a box for "counted". */
export const ANSWER_PLACE: Drawn = {
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
  say,
}: {
  readonly code: string;
  readonly className: string;
  readonly today: string;
  readonly nicknames: readonly string[];
  readonly facts: readonly string[];
  readonly say: Catalogue;
}): Block[] => [
  heading(say.prints.group.title(className, code)),
  large(say.prints.group.made(today)),
  { block: 'list', large: true, items: say.prints.group.how },
  {
    block: 'table',
    large: true,
    head: ['', ...nicknames],
    rows: facts.map((fact) => [say.fact(fact), ...nicknames.map(() => ANSWER_PLACE)]),
  },
  small(say.prints.group.after),
];
