import { isNumberFact, parseFact, type Fact, type NumberFact, type QuantityFact } from '../facts/fact';
import { isFact, parseQuestion } from '../facts/question';
import type { Response } from '../record/response';

/**
 * Mistakes by name, from the question and the answer alone. One answer may be several: 3 for 3 + 1 is a part said back and one off. Ties are all named, for the
 * adult to tell apart.
 */
export const MISTAKES = [
  'whole instead of part',
  'part said back',
  'other part',
  'added instead',
  'took away instead',
  'one off',
  'ran past',
  'one row only',
  'empty boxes',
  'writing slip',
  'ten left out',
  'something else',
] as const;
export type Mistake = (typeof MISTAKES)[number];

/** Numerals that children turn round or take for one another in writing and reading. */
const LOOK_ALIKE: readonly (readonly [number, number])[] = [
  [6, 9],
  [2, 5],
  [1, 7],
];

const differsByOne = (a: number, b: number): boolean => Math.abs(a - b) === 1;

function ofNumberFact({ kind, parts: [first, second], whole, answer }: NumberFact, given: number): Mistake[] {
  const found: Mistake[] = [];
  if (kind === 'add') {
    if (given === first || given === second) found.push('part said back');
    if (given === Math.abs(first - second)) found.push('took away instead');
  } else {
    if (given === whole) found.push('whole instead of part');
    const shownPart = first + second - answer;
    if (given === shownPart) found.push('other part');
    if (given === whole + shownPart) found.push('added instead');
  }
  if (differsByOne(given, answer)) found.push('one off');
  // Of a sum the answer is the whole: nothing lies between.
  else if (kind !== 'subtract' && given > answer && given < whole) found.push('ran past');
  return found;
}

function ofQuantity({ kind, layout, answer }: QuantityFact, given: number): Mistake[] {
  const found: Mistake[] = [];
  if (kind === 'match' && LOOK_ALIKE.some((pair) => pair.includes(given) && pair.includes(answer)))
    found.push('writing slip');
  if (differsByOne(given, answer)) found.push('one off');
  if (kind === 'show' && layout?.startsWith('frame')) {
    if (layout === 'frame-fives' && answer > 5 && (given === 5 || given === answer - 5)) found.push('one row only');
    if (given === 10 - answer) found.push('empty boxes');
  }
  return found;
}

/**
 * What kind of mistake an answer is; empty for a right one.
 * @param given the number answered
 */
export function mistakesOf(fact: Fact, given: number): Mistake[] {
  if (given === fact.answer) return [];
  const found = isNumberFact(fact) ? ofNumberFact(fact, given) : ofQuantity(fact, given);
  return found.length > 0 ? found : ['something else'];
}

/** What else can be taken for the answer to a question that is no fact within ten: all there is, and the other part. */
const INSTEAD: readonly (readonly [
  RegExp,
  (a: number, b: number) => { readonly whole?: number; readonly others: readonly number[] },
])[] = [
  [/^boxes-(?:top|below):(\d+)$/, (n) => ({ whole: n, others: [] })],
  [/^top:(\d+)$/, (n) => ({ whole: n, others: [n - 5] })],
  [/^below:(\d+)$/, (n) => ({ whole: n, others: [5] })],
  [/^side:(\d+):(\d+)$/, (own, other) => ({ whole: own + other, others: [other] })],
  [/^left:(\d+)-(\d+)$/, (whole, gone) => ({ whole, others: [gone] })],
  [/^(\d+)-(\d+)$/, (whole, gone) => ({ whole, others: [gone] })],
  [/^groups:(\d+):(\d+):count$/, (count, of) => ({ whole: count * of, others: [of] })],
  [/^groups:(\d+):(\d+)$/, (count, of) => ({ others: [count, of] })],
  [/^(\d+)\+(\d+):move$/, (_, far) => ({ whole: far, others: [] })],
];

/** The parts of `9+5` or `3+?+2=10` that are given, and the answer. */
function beyond(text: string, given: number, answer: number): Mistake[] {
  if (!/^[\d?]+(\+[\d?]+)+(=\d+)?$/.test(text)) return [];
  const whole = Number(/=(\d+)$/.exec(text)?.[1] ?? answer);
  const parts = (text.split('=')[0] ?? '').split('+').filter((part) => part !== '?').map(Number); // prettier-ignore
  if (text.includes('?'))
    return given === whole ? ['whole instead of part'] : parts.includes(given) ? ['other part'] : [];
  return [
    ...(answer > 10 && given === answer - 10 ? (['ten left out'] as const) : []),
    ...(parts.includes(given) ? (['part said back'] as const) : []),
  ];
}

/** The order in which names tell what was thought: a number that is one off may be more than that. */
const TELLING: readonly Mistake[] = [
  ...MISTAKES.filter((name) => name !== 'one off' && name !== 'something else'),
  'one off',
];

/**
 * The name of a wrong answer that tells most, for any question that is recorded; null where it has none.
 * @param text canonical text of a fact or question
 * @example mistakeOf('2+?=5', '5') // 'whole instead of part'
 */
export function mistakeOf(text: string, given: string): Mistake | null {
  const { answer } = parseQuestion(text);
  const [n, right] = [Number(given), Number(answer)];
  if (given === '' || given === answer || !Number.isInteger(n) || !Number.isInteger(right)) return null;
  const named = isFact(text) ? mistakesOf(parseFact(text), n) : [...beyond(text, n, right)];
  for (const [form, instead] of INSTEAD) {
    const found = form.exec(text);
    if (!found || isFact(text)) continue;
    const { whole, others } = instead(Number(found[1]), Number(found[2]));
    if (n === whole) named.push('whole instead of part');
    else if (others.includes(n)) named.push('other part');
  }
  if (differsByOne(n, right)) named.push('one off');
  return TELLING.find((name) => named.includes(name)) ?? null;
}

/** A child's mistakes of one name: how many, of which some only tie with another name, and the newest of them. */
interface MistakeCount {
  readonly mistake: Mistake;
  readonly count: number;
  readonly tied: number;
  readonly newest: { readonly fact: string; readonly given: string };
}

/** Counts first-look mistakes, most frequent first. Void answers are left out; how quick or flagged an answer was does not matter here. */
export function countMistakes(responses: readonly Response[]): MistakeCount[] {
  const counts = new Map<Mistake, { count: number; tied: number; at: number; newest: MistakeCount['newest'] }>();
  for (const r of responses) {
    const given = Number(r.given);
    if (r.void !== '' || r.aid === 'second-look' || r.outcome !== 'wrong' || r.given === '' || !Number.isInteger(given))
      continue;
    if (!['add', 'subtract', 'missing', 'bond', 'show', 'match', 'count'].includes(r.kind)) continue;
    const names = mistakesOf(parseFact(r.fact), given);
    for (const name of names) {
      const was = counts.get(name) ?? { count: 0, tied: 0, at: -Infinity, newest: { fact: r.fact, given: r.given } };
      const newer = r.shownAt >= was.at;
      counts.set(name, {
        count: was.count + 1,
        tied: was.tied + Number(names.length > 1),
        at: newer ? r.shownAt : was.at,
        newest: newer ? { fact: r.fact, given: r.given } : was.newest,
      });
    }
  }
  return [...counts]
    .map(([mistake, { count, tied, newest }]) => ({ mistake, count, tied, newest }))
    .sort((a, b) => b.count - a.count || MISTAKES.indexOf(a.mistake) - MISTAKES.indexOf(b.mistake));
}
