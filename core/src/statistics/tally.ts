/** How many of something there were, and the sum of a value over them. */
export interface Tally {
  n: number;
  sum: number;
}
/** The same by key. */
export type Tallies = Map<string, Tally>;

/** Counts one more of a key, or several at once. */
export function tally(tallies: Tallies, key: string, value: number, n = 1): void {
  let own = tallies.get(key);
  if (!own) tallies.set(key, (own = { n: 0, sum: 0 }));
  own.n += n;
  own.sum += value;
}

/** Several together. */
export function tallied(all: readonly ReadonlyMap<string, Readonly<Tally>>[]): Tallies {
  const together: Tallies = new Map();
  for (const tallies of all) for (const [key, { n, sum }] of tallies) tally(together, key, sum, n);
  return together;
}
