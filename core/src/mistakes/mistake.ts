import { isNumberFact, parseFact, type Fact, type NumberFact, type QuantityFact } from '../facts/fact';
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
