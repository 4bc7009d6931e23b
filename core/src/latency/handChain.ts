/**
 * A hand that changes from sitting to sitting (docs/model.md, "A hand that changes"): a hidden chain over the sittings of one child in one answer mode, on a grid of offsets of the logarithm of the hand time.
 */
const GRID: readonly number[] = Array.from({ length: 21 }, (_, i) => (i - 10) / 10);
/** Offsets at which times are looked at, every other one of the grid: between them their log-probability is smooth. */
export const OFFSETS: readonly number[] = GRID.filter((_, i) => i % 2 === 0);
/** Chance, from one sitting to the next, that the offset creeps to one neighbour, and that it becomes any other at once. */
const CREEPS = 0.01;
const JUMPS = 0.003;
const STAYS = 1 - 2 * CREEPS - JUMPS;
const K = GRID.length;
const M = OFFSETS.length;

/** One step of the chain, which is the same in both directions. At the ends of the grid what would leave it stays. */
function step(from: Float64Array, out: Float64Array): void {
  let all = 0;
  for (let k = 0; k < K; k++) all += from[k]!;
  for (let k = 0; k < K; k++)
    out[k] =
      STAYS * from[k]! + CREEPS * (from[Math.max(0, k - 1)]! + from[Math.min(K - 1, k + 1)]!) + (JUMPS / K) * all;
}

/** The log-probabilities of one sitting on the whole grid, by cubic interpolation; the greatest is nought. */
function interpolated(given: Float64Array, from: number, out: Float64Array, to: number): void {
  const at = (m: number): number => given[from + m]!;
  let top = -Infinity;
  for (let m = 0; m < M; m++) {
    out[to + 2 * m] = at(m);
    if (m + 1 === M) break;
    const before = m === 0 ? 3 * (at(0) - at(1)) + at(2) : at(m - 1);
    const after = m + 2 === M ? 3 * (at(M - 1) - at(M - 2)) + at(M - 3) : at(m + 2);
    out[to + 2 * m + 1] = (9 * (at(m) + at(m + 1)) - before - after) / 16;
  }
  for (let k = 0; k < K; k++) top = Math.max(top, out[to + k]!);
  for (let k = 0; k < K; k++) out[to + k]! -= top;
}

function normalise(x: Float64Array): void {
  let all = 0;
  for (let k = 0; k < K; k++) all += x[k]!;
  for (let k = 0; k < K; k++) x[k]! /= all;
}

/** Value at which half of the weight is reached. */
function weightedMedian(values: Float64Array, weights: readonly number[]): number {
  const order = [...values.keys()].sort((a, b) => values[a]! - values[b]!);
  let left = weights.reduce((sum, w) => sum + w, 0) / 2;
  for (const i of order) {
    left -= weights[i]!;
    if (left <= 0) return values[i]!;
  }
  return 0;
}

/**
 * Offsets of the logarithm of the hand time by sitting: the posterior mean by the forward-backward algorithm, less the median over answers, so that the child's own hand time stays that of most sittings.
 * @param logLikelihoods by sitting, oldest first, and by offset in the order of OFFSETS (one after the other): log-probability of the sitting's times
 * @param answers how many times each sitting has
 */
export function handOffsets(logLikelihoods: Float64Array, answers: readonly number[]): Float64Array {
  const sittings = answers.length;
  const emission = new Float64Array(sittings * K);
  for (let s = 0; s < sittings; s++) interpolated(logLikelihoods, s * M, emission, s * K);
  for (let i = 0; i < emission.length; i++) emission[i] = Math.exp(emission[i]!);
  const forward = new Float64Array(emission.length);
  const now = new Float64Array(K).fill(1 / K);
  const next = new Float64Array(K);
  for (let s = 0; s < sittings; s++) {
    if (s > 0) {
      step(now, next);
      now.set(next);
    }
    for (let k = 0; k < K; k++) now[k]! *= emission[s * K + k]!;
    normalise(now);
    forward.set(now, s * K);
  }
  const means = new Float64Array(sittings);
  now.fill(1);
  for (let s = sittings - 1; s >= 0; s--) {
    let total = 0;
    let mean = 0;
    for (let k = 0; k < K; k++) {
      const p = forward[s * K + k]! * now[k]!;
      total += p;
      mean += p * GRID[k]!;
    }
    means[s] = mean / total;
    for (let k = 0; k < K; k++) now[k]! *= emission[s * K + k]!;
    step(now, next);
    normalise(next);
    now.set(next);
  }
  const middle = weightedMedian(means, answers);
  return means.map((mean) => mean - middle);
}
