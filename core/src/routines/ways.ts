import type { Options } from './options';

export type Pair = readonly [first: number, second: number];
export type WaysRule = Options['rule'];

/** Every way to make a whole under a counting rule, in order of the first part; turned pairs that count as one stand the smaller part first. */
export function waysOf(whole: number, rule: WaysRule): Pair[] {
  const zero = rule === 'turned-zero' || rule === 'zero';
  const apart = rule === 'turned-zero' || rule === 'turned';
  const all = Array.from({ length: whole + 1 }, (_, first): Pair => [first, whole - first]);
  return all.filter(([a, b]) => (zero || (a > 0 && b > 0)) && (apart || a <= b));
}

/** How many ways there are under each of the four rules: n + 1, n − 1, ⌊n/2⌋ + 1 and ⌊n/2⌋ for wholes above zero. */
export const waysTotals = (whole: number): Record<WaysRule, number> => ({
  'turned-zero': waysOf(whole, 'turned-zero').length,
  turned: waysOf(whole, 'turned').length,
  zero: waysOf(whole, 'zero').length,
  plain: waysOf(whole, 'plain').length,
});

/** A pair as the rule counts it. */
const counted = ([a, b]: Pair, rule: WaysRule): string =>
  (rule === 'zero' || rule === 'plain' ? [Math.min(a, b), Math.max(a, b)] : [a, b]).join('+');

interface WaysSoFar {
  readonly found: readonly Pair[];
  /** Offered again, as often as they were. */
  readonly repeated: readonly Pair[];
  /** Pairs of another whole, and those the rule leaves out. */
  readonly besides: readonly Pair[];
  readonly left: readonly Pair[];
}

/** Sorts what was offered, in the order in which it was offered. */
export function sortWays(whole: number, rule: WaysRule, offered: readonly Pair[]): WaysSoFar {
  const ways = new Map(waysOf(whole, rule).map((pair) => [counted(pair, rule), pair]));
  const found: Pair[] = [];
  const repeated: Pair[] = [];
  const besides: Pair[] = [];
  const seen = new Set<string>();
  for (const pair of offered) {
    const name = counted(pair, rule);
    if (!ways.has(name)) besides.push(pair);
    else if (seen.has(name)) repeated.push(pair);
    else {
      seen.add(name);
      found.push(pair);
    }
  }
  return { found, repeated, besides, left: [...ways].filter(([name]) => !seen.has(name)).map(([, pair]) => pair) };
}

/** Every text that names one of these pairs: `4+2`, and `2+4` too where the rule counts both as one. */
export function pairTexts(pairs: readonly Pair[], rule: WaysRule): string[] {
  const apart = rule === 'turned-zero' || rule === 'turned';
  return [...new Set(pairs.flatMap(([a, b]) => (apart ? [`${a}+${b}`] : [`${a}+${b}`, `${b}+${a}`])))];
}

/** Reads `4+2`; null when it is no pair. */
export function parsePair(text: string): Pair | null {
  const found = /^(\d{1,2})\+(\d{1,2})$/.exec(text);
  return found ? [Number(found[1]), Number(found[2])] : null;
}

/** First parts of a whole that a die with six faces can never roll. */
export const outOfReach = (whole: number): number[] =>
  waysOf(whole, 'turned-zero').flatMap(([first]) => (first < 1 || first > 6 ? [first] : []));
