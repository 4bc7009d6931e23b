import { shuffled, type Random } from '../random/random';

/** Thrown when there is nothing to draw from. */
export class NothingToDraw extends RangeError {
  constructor() {
    super('a draw needs at least one number');
    this.name = 'NothingToDraw';
  }
}

/**
 * Numbers for a run of shows: every number as often as any other, as near as the length allows, and never the same one twice in a row unless it is the only one.
 * A plain die can never give 0 or 7 to 10; this can.
 * @param numbers at least one
 * @param length how many shows
 */
export function drawNumbers(random: Random, numbers: readonly number[], length: number): number[] {
  const bag = [...new Set(numbers)];
  if (bag.length === 0) throw new NothingToDraw();
  const drawn: number[] = [];
  while (drawn.length < length) {
    const round = shuffled(random, bag);
    // Only the seam between two rounds can repeat a number: turn the round until it does not.
    while (bag.length > 1 && round[0] === drawn[drawn.length - 1]) round.push(round.shift()!);
    drawn.push(...round);
  }
  return drawn.slice(0, length);
}
