/** How a fact is put: the record's `kind` column. Those within ten are read by `parseFact`; the others are questions (`question.ts`). */
const KINDS = {
  add: 'within ten',
  subtract: 'within ten',
  missing: 'within ten',
  bond: 'within ten',
  show: 'within ten',
  match: 'within ten',
  count: 'within ten',
  ways: 'free',
  bridge: 'free',
  three: 'free',
  groups: 'free',
  compare: 'free',
  check: 'free',
  part: 'free',
} as const;
export type FactKind = keyof typeof KINDS;
export const FACT_KINDS = Object.keys(KINDS) as readonly FactKind[];
/** True for kinds that are recorded and not judged; their text is free, so that other programs may write their own. */
export const isFree = (kind: FactKind): boolean => KINDS[kind] === 'free';
/** How dots stand. */
export const LAYOUTS = [
  'five',
  'frame-fives',
  'frame-pairs',
  'dice',
  'domino',
  'scatter',
  'mirror',
  'beads',
  'fingers',
  'line',
] as const;
export type LayoutName = (typeof LAYOUTS)[number];

/** A fact made of two parts and their whole. `parts` are in the order in which they are read. */
export interface NumberFact {
  readonly kind: 'add' | 'subtract' | 'missing' | 'bond';
  readonly text: string;
  readonly answer: number;
  readonly whole: number;
  readonly parts: readonly [number, number];
}

/** A quantity to see, to count, or a numeral to copy. `layout` is null for a numeral. */
export interface QuantityFact {
  readonly kind: 'show' | 'match' | 'count';
  readonly text: string;
  readonly answer: number;
  readonly layout: LayoutName | null;
}

export type Fact = NumberFact | QuantityFact;

/** Thrown by `parseFact` when a text is no fact within ten. */
export class NotAFact extends Error {
  constructor(
    readonly text: string,
    readonly why: string,
  ) {
    super(`"${text}" is not a fact: ${why}`);
    this.name = 'NotAFact';
  }
}

const LARGEST = 10;

const numberFact = (
  kind: NumberFact['kind'],
  text: string,
  first: number,
  second: number,
  answer: number,
): NumberFact => {
  const whole = first + second;
  if (first < 0 || second < 0 || whole > LARGEST)
    throw new NotAFact(text, `its whole and parts must lie between 0 and ${LARGEST}`);
  return { kind, text, answer, whole, parts: [first, second] };
};

const quantity = (
  kind: QuantityFact['kind'],
  text: string,
  digits: string,
  layout: string | undefined,
): QuantityFact => {
  const n = Number(digits);
  if (n > LARGEST) throw new NotAFact(text, `the number must lie between 0 and ${LARGEST}`);
  if (kind === 'match') return { kind, text, answer: n, layout: null };
  const known = LAYOUTS.find((name) => name === layout);
  if (known === undefined) throw new NotAFact(text, layout ? `there is no layout "${layout}"` : 'it names no layout');
  return { kind, text, answer: n, layout: known };
};

/** Solves `left op right = total` with exactly one of the three unknown (null). */
function missingPart(text: string, left: number | null, op: string, right: number | null, total: number): NumberFact {
  if (op === '+') {
    const known = left ?? right ?? 0;
    return left === null
      ? numberFact('missing', text, total - known, known, total - known)
      : numberFact('missing', text, known, total - known, total - known);
  }
  return left === null
    ? numberFact('missing', text, right ?? 0, total, (right ?? 0) + total)
    : numberFact('missing', text, left - total, total, left - total);
}

const part = (text: string): number | null => (text === '?' ? null : Number(text));

/**
 * Reads a fact's canonical text: `3+5`, `8-3`, `3+?=8`, `8=?+5`, `8-?=5`, `bond:8:3` (whole, part in view), `show:7:frame-fives`,
 * `match:7`, `count:8:scatter`. The text is the fact's id.
 * @throws NotAFact when the text is none of these, or goes beyond ten
 * @example parseFact('3+?=8').answer // 5
 */
export function parseFact(text: string): Fact {
  const known = PARSED.get(text);
  if (known) return known;
  const fact = parsed(text);
  PARSED.set(text, fact);
  return fact;
}
/** Facts that have been read: there are some hundreds of them, and judging and planning ask for each over and over. */
const PARSED = new Map<string, Fact>();

function parsed(text: string): Fact {
  const seen = /^(show|count|match):(\d{1,2})(?::([a-z-]+))?$/.exec(text);
  if (seen) return quantity(seen[1] as QuantityFact['kind'], text, seen[2] ?? '', seen[3]);

  const bond = /^bond:(\d{1,2}):(\d{1,2})$/.exec(text);
  if (bond)
    return numberFact(
      'bond',
      text,
      Number(bond[2]),
      Number(bond[1]) - Number(bond[2]),
      Number(bond[1]) - Number(bond[2]),
    );

  const plain = /^(\d{1,2})([+-])(\d{1,2})$/.exec(text);
  if (plain) {
    const [first, second] = [Number(plain[1]), Number(plain[3])];
    return plain[2] === '+'
      ? numberFact('add', text, first, second, first + second)
      : numberFact('subtract', text, second, first - second, first - second);
  }

  const gap = /^(\?|\d{1,2})([+-])(\?|\d{1,2})=(\d{1,2})$/.exec(text) ?? turned(text);
  if (gap) {
    const [left, right] = [part(gap[1] ?? ''), part(gap[3] ?? '')];
    if ((left === null) !== (right === null)) return missingPart(text, left, gap[2] ?? '', right, Number(gap[4]));
  }
  throw new NotAFact(text, 'it has none of the written forms, such as 3+5, 8-3, 3+?=8 or show:7:frame-fives');
}

/** `8=3+?` read as `3+?=8`: the total may stand on either side. */
function turned(text: string): RegExpExecArray | null {
  const sides = /^(\d{1,2})=(.+)$/.exec(text);
  return sides ? /^(\?|\d{1,2})([+-])(\?|\d{1,2})=(\d{1,2})$/.exec(`${sides[2]}=${sides[1]}`) : null;
}

/** The family of a number fact: its two parts in rising order and its whole. `3+5`, `5+3`, `8-3`, `8-5` and `3+?=8` share `3,5,8`. */
export function familyOf(fact: NumberFact): string {
  const [low, high] = [Math.min(...fact.parts), Math.max(...fact.parts)];
  return `${low},${high},${fact.whole}`;
}

/** True for facts made of two parts and a whole. */
export const isNumberFact = (fact: Fact): fact is NumberFact => 'whole' in fact;

export type Operation = 'add' | 'subtract' | 'missing';

/** The text of the fact with this first part (or, for take-away, part taken away) of this whole. */
export function factText(operation: Operation, whole: number, first: number): string {
  if (operation === 'add') return `${first}+${whole - first}`;
  return operation === 'subtract' ? `${whole}-${first}` : `${first}+?=${whole}`;
}

/** Every fact within ten of an operation, whole by whole: 66 texts. */
export function factsWithinTen(operation: Operation): string[] {
  const texts: string[] = [];
  for (let whole = 0; whole <= LARGEST; whole++)
    for (let first = 0; first <= whole; first++) texts.push(factText(operation, whole, first));
  return texts;
}

/** The fact as it is said on paper: true minus sign, spaces round the signs. */
export function factInPrint(text: string): string {
  if (/^(show|count|match):/.test(text)) return text.split(':')[1] ?? text;
  if (text.startsWith('bond:')) {
    const [, whole, known] = text.split(':');
    return `${whole} is ${known} and ?`;
  }
  return text
    .replace(/-/g, '−')
    .replace(/([+−=])/g, ' $1 ')
    .trim();
}
