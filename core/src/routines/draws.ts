import { drawNumbers } from './drawNumbers';
import { shuffled, type Random } from '../random/random';
import type { RoutineWish } from './routine';
import type { Pair } from './ways';

/** The items over and over, in their order. */
const inOrder = <T>(items: readonly T[], length: number): T[] =>
  Array.from({ length }, (_, i) => items[i % items.length]!);

/** Numbers from one, or nothing, to `most`: mixed, each as often as any other; or rising. */
export function numbersTo(random: Random, most: number, { zeroToo, shows, options }: RoutineWish): number[] {
  const from = zeroToo ? 0 : 1;
  const numbers = Array.from({ length: most + 1 - from }, (_, i) => i + from);
  return options.order === 'rising' ? inOrder(numbers, shows) : drawNumbers(random, numbers, shows);
}

/** How far a number on a frame moves at most: a few counters come or go. */
const FEW = 4;

/** Numbers that move by a few each time, up and down, each as often as any other where that can be had: 5, 7, 10, 6. */
export function movingNumbers(random: Random, { zeroToo, shows }: RoutineWish): number[] {
  const all = Array.from({ length: zeroToo ? 11 : 10 }, (_, i) => i + (zeroToo ? 0 : 1));
  const walked = [5];
  const had = (n: number): number => walked.filter((one) => one === n).length;
  while (walked.length < shows) {
    const now = walked[walked.length - 1]!;
    const near = shuffled(random, all).filter((n) => n !== now && Math.abs(n - now) <= FEW);
    walked.push(near.reduce((least, n) => (had(n) < had(least) ? n : least)));
  }
  return walked;
}

/** Pairs of the wholes asked for: mixed, every pair as often as any other, never the same answer twice running where that can be helped; or in order. */
export function pairs(
  random: Random,
  { wholeFrom, wholeTo, zeroToo, shows, options }: RoutineWish,
  answer: (pair: Pair) => number,
  fits: (pair: Pair) => boolean = () => true,
): Pair[] {
  const all: Pair[] = [];
  const least = zeroToo ? 0 : 1;
  for (let whole = wholeFrom; whole <= wholeTo; whole++) {
    for (let first = least; first <= whole - least; first++)
      if (fits([first, whole - first])) all.push([first, whole - first]);
  }
  if (all.length === 0) all.push([1, 1]);
  if (options.order === 'rising') return inOrder(all, shows);
  const drawn: Pair[] = [];
  while (drawn.length < shows) {
    const left = shuffled(random, all);
    while (left.length > 0) {
      const last = drawn[drawn.length - 1];
      const next = left.findIndex((pair) => last === undefined || answer(pair) !== answer(last));
      drawn.push(...left.splice(Math.max(0, next), 1));
    }
  }
  return drawn.slice(0, shows);
}

export const sum = ([a, b]: Pair): number => a + b;
export const first = ([a]: Pair): number => a;
export const second = ([, b]: Pair): number => b;

/** One whole of those asked for. */
export const oneWhole = (random: Random, { wholeFrom, wholeTo }: RoutineWish): number =>
  wholeFrom + Math.floor(random() * (wholeTo - wholeFrom + 1));
