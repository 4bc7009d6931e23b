import { incompleteBeta } from '../statistics/incompleteBeta';
import type { Likelihood } from './likelihood';

/**
 * Exact posterior of one fact (docs/model.md, "Posterior of one fact"), with its prior in two steps: the share retrieved scatters around
 * know = logistic(z) in one of a few ways; what is not retrieved is split between deriving, counting and guessing by a Dirichlet around the child's own mixture. So the sum over "how many answers
 * used each strategy" need be done only once a fact, and what depends on z is a sum over the number retrieved.
 */
/** Grid of z, log-odds, on which everything is computed. */
export const Z_GRID: readonly number[] = Array.from({ length: 31 }, (_, i) => -9 + 0.6 * i);
/** A prior on the share retrieved: a Beta(a, b) that depends on know. */
interface BetaPrior {
  readonly a: (know: number) => number;
  readonly b: (know: number) => number;
}
/** Shares that lie around know: the fewer answers the prior is worth, the wider. */
const centred = (answers: number): BetaPrior => ({ a: (know) => answers * know, b: (know) => answers * (1 - know) });
/**
 * Shares that have an end on either side: a fact well within what is known is retrieved `most` of the times and no more, as even what is known best is now and then counted; one well beyond it `least` of the times.
 * @param from where know is this far from 0 or 1, the end is reached: the greater, the steeper
 */
function saturating(least: number, most: number, from: number): BetaPrior {
  const at = (know: number): number =>
    least + (most - least) * Math.min(1, Math.max(0, (know - from) / (1 - 2 * from)));
  return { a: (know) => ENDING * at(know), b: (know) => ENDING * (1 - at(know)) };
}
/** Answers that a prior with ends is worth: hardly any scatter but that of z. */
const ENDING = 200;
/**
 * Dispersion priors of the share retrieved, chosen by marginal likelihood: wide, narrow, hardly any; shares that end at nine in ten or near one, reached slowly or nearly at once (a fact is known or not).
 */
export const SCATTERS: readonly BetaPrior[] = [
  centred(2),
  centred(12),
  centred(40),
  saturating(0.04, 0.9, 0.15),
  saturating(0.03, 0.97, 0.15),
  saturating(0.04, 0.9, 0.35),
  saturating(0.03, 0.97, 0.35),
];
/** The one under which a class is first learned. */
export const USUAL_SCATTER = 2;
/** The same for the split of what is not retrieved: a counted fact tends to be counted every time. */
const OTHERS_WEIGHT = 3;
/** The retrieval share from which a fact is automatic. */
export const AUTOMATIC_SHARE = 0.8;
/** Newest answers used: older ones say little about today, and the cost of the exact sum grows with the cube. */
export const NEWEST = 12;

const logistic = (z: number): number => 1 / (1 + Math.exp(-z));
/** Expected share retrieved at every z of the grid. */
export const KNOW = Z_GRID.map(logistic);
const GRID = Z_GRID.length;

/**
 * What a scatter says after k of m answers were retrieved, at [k · GRID + z]: `ways`, the probability of one particular way to retrieve k of m; of the share retrieved the chance
 * that it is at least AUTOMATIC_SHARE, its mean and its mean square.
 */
interface Tables {
  readonly ways: Float64Array;
  readonly automatic: Float64Array;
  readonly mean: Float64Array;
  readonly square: Float64Array;
}

function tablesOf(scatter: BetaPrior, m: number): Tables {
  const empty = (): Float64Array => new Float64Array((m + 1) * GRID);
  const tables = { ways: empty(), automatic: empty(), mean: empty(), square: empty() };
  KNOW.forEach((know, z) => {
    const a = scatter.a(know);
    const b = scatter.b(know);
    for (let k = 0; k <= m; k++) {
      const at = k * GRID + z;
      let p = 1;
      for (let i = 0; i < k; i++) p *= a + i;
      for (let i = 0; i < m - k; i++) p *= b + i;
      for (let i = 0; i < m; i++) p /= a + b + i;
      const mean = (a + k) / (a + b + m);
      tables.ways[at] = p;
      tables.automatic[at] = 1 - incompleteBeta(AUTOMATIC_SHARE, a + k, b + m - k);
      tables.mean[at] = mean;
      tables.square[at] = (mean * (a + k + 1)) / (a + b + m + 1);
    }
  });
  return tables;
}

/** Filled on first use: a few thousand beta integrals a table. */
const TABLES: Tables[][] = SCATTERS.map(() => []);
const tablesFor = (scatter: number, m: number): Tables => (TABLES[scatter]![m] ??= tablesOf(SCATTERS[scatter]!, m));

/** The child's mixture of strategies other than retrieval: derive, count, guess; they sum to one. */
export type Others = readonly [number, number, number];

/**
 * What `m` answers given with the same shares say. `ways[k]`: summed likelihood of all ways in which k of them were retrieved, the split of the others summed
 * out. `split[k · 3 + s]`: for given k, the expected number of the others by strategy.
 */
export interface SequenceLikelihood {
  /** Answers given with today's shares. */
  readonly m: number;
  /** All answers: those beyond `m` were given before the fact was learned, none of them retrieved. */
  readonly n: number;
  readonly ways: Float64Array;
  readonly split: Float64Array;
}

const SIZE = NEWEST + 1;

/** RISING[s][k] = α (α + 1) … (α + k − 1) for α = weight · share. */
function risingOf(alpha: number): Float64Array {
  const out = new Float64Array(SIZE);
  out[0] = 1;
  for (let k = 1; k <= NEWEST; k++) out[k] = out[k - 1]! * (alpha + k - 1);
  return out;
}

/** The child's non-retrieval mixture as rising factorials: of each weight, and of their sum. */
export class Splitting {
  readonly rising: readonly [Float64Array, Float64Array, Float64Array];
  readonly all = risingOf(OTHERS_WEIGHT);
  constructor(readonly others: Others) {
    this.rising = [
      risingOf(OTHERS_WEIGHT * others[0]),
      risingOf(OTHERS_WEIGHT * others[1]),
      risingOf(OTHERS_WEIGHT * others[2]),
    ];
  }
}

/**
 * @param answers likelihoods, at most NEWEST; only ratios matter
 * @param learnedAt how many of them, from the first on, were given with today's shares; all when not given
 * @param retrievedThen by answer: of the times it would be retrieved today, the share in which it was retrieved then
 */
export function sequenceLikelihood(
  answers: readonly Likelihood[],
  splitting: Splitting,
  learnedAt = answers.length,
  retrievedThen: (i: number) => number = ALWAYS,
): SequenceLikelihood {
  const n = answers.length;
  const c = COEFFICIENTS;
  for (let i = 0; i <= learnedAt; i++)
    for (let j = 0; j <= n - i; j++) c.fill(0, (i * SIZE + j) * SIZE, (i * SIZE + j) * SIZE + n - i - j + 1);
  c[0] = 1;
  let retrieved = 0;
  for (let i = 0; i < n; i++) {
    const answer = answers[n - 1 - i]!;
    if (n - 1 - i < learnedAt) retrieved++;
    addAnswer(c, i, answer, retrieved, retrievedThen(n - 1 - i), splitting.others);
  }
  return contracted(c, n, learnedAt, splitting);
}

const ALWAYS = (): number => 1;

/** Scratch for the coefficients C[k]: made once, used by one account at a time. */
const COEFFICIENTS = new Float64Array((NEWEST + 1) ** 3);

/**
 * One more answer into the coefficients C[k]: in place, from the largest index down, so that each cell still finds the previous step's neighbours. At most `retrieved` of the answers so far, this one
 * included, can have been retrieved. The scale is that of the answer's own likelihood, whatever may have been, so that accounts of the same answers can be compared.
 */
function addAnswer(
  c: Float64Array,
  m: number,
  answer: Likelihood,
  retrieved: number,
  share: number,
  others: Others,
): void {
  const top = Math.max(answer[0], answer[1], answer[2], answer[3], Number.MIN_VALUE);
  const otherwise = others[0] * answer[1] + others[1] * answer[2] + others[2] * answer[3];
  const l0 = (share * answer[0] + (1 - share) * otherwise) / top;
  const l1 = answer[1] / top;
  const l2 = answer[2] / top;
  const l3 = answer[3] / top;
  for (let i = retrieved; i >= 0; i--) {
    for (let j = m + 1 - i; j >= 0; j--) {
      const row = (i * SIZE + j) * SIZE;
      for (let k = m + 1 - i - j; k >= 0; k--) {
        let sum = i + j + k <= m ? c[row + k]! * l3 : 0;
        if (i > 0) sum += c[row - SIZE * SIZE + k]! * l0;
        if (j > 0) sum += c[row - SIZE + k]! * l1;
        if (k > 0) sum += c[row + k - 1]! * l2;
        c[row + k] = sum;
      }
    }
  }
}

function contracted(
  c: Float64Array,
  n: number,
  m: number,
  { rising: [r1, r2, r3], all }: Splitting,
): SequenceLikelihood {
  const ways = new Float64Array(m + 1);
  const split = new Float64Array(3 * (m + 1));
  for (let i = 0; i <= m; i++) {
    const rest = n - i;
    let total = 0;
    let derived = 0;
    let counted = 0;
    for (let j = 0; j <= rest; j++) {
      const row = (i * SIZE + j) * SIZE;
      for (let k = 0; k <= rest - j; k++) {
        const w = c[row + k]! * r1[j]! * r2[k]! * r3[rest - j - k]!;
        total += w;
        derived += w * j;
        counted += w * k;
      }
    }
    ways[i] = total / all[rest]!;
    if (total > 0) {
      split[3 * i] = derived / total;
      split[3 * i + 1] = counted / total;
      split[3 * i + 2] = rest - (derived + counted) / total;
    }
  }
  return { m, n, ways, split };
}

/** What answers say, in one of several ways in which they may have come about: of the chance of each, a weight at every z; null = one. */
export interface LikelihoodTerm {
  readonly account: SequenceLikelihood;
  readonly weight: Float64Array | null;
}

/** No answers at all. */
export const NO_ANSWERS: readonly LikelihoodTerm[] = [
  { account: { m: 0, n: 0, ways: Float64Array.of(1), split: new Float64Array(3) }, weight: null },
];

/** Scratch for one way in which answers may have come about. */
const ONE_WAY = new Float64Array(GRID);

/** Likelihood of the answers at every z, any scale that does not depend on z or the dispersion. */
export function likelihoodOn(said: readonly LikelihoodTerm[], scatter: number): Float64Array {
  const out = new Float64Array(GRID);
  const one = said.length === 1 ? out : ONE_WAY;
  for (const { account, weight } of said) {
    const table = tablesFor(scatter, account.m).ways;
    one.fill(0);
    for (let k = 0, at = 0; k <= account.m; k++) {
      const w = account.ways[k]!;
      for (let z = 0; z < GRID; z++, at++) one[z]! += w * table[at]!;
    }
    if (weight !== null) for (let z = 0; z < GRID; z++) one[z]! *= weight[z]!;
    if (one !== out) for (let z = 0; z < GRID; z++) out[z]! += one[z]!;
  }
  return out;
}

/** Adds to `sum` the logarithm of a likelihood for a z that was lower by `shift` when the answers were given: given(z − shift), straight between the points of the grid. */
export function addShifted(given: Float64Array, shift: number, sum: Float64Array): void {
  const by = shift / (Z_GRID[1]! - Z_GRID[0]!);
  for (let g = 0; g < GRID; g++) {
    const at = Math.max(0, Math.min(GRID - 1, g - by));
    const low = Math.floor(at);
    const high = Math.min(GRID - 1, low + 1);
    sum[g]! += given[low]! + (at - low) * (given[high]! - given[low]!);
  }
}

/** A fact judged: probability of automatic, expected shares in the order of STRATEGIES, and variance of the share retrieved. */
export interface FactPosterior {
  readonly pAutomatic: number;
  readonly shares: readonly [number, number, number, number];
  readonly variance: number;
}

/**
 * The posterior of one fact.
 * @param said its answers, in every way in which they may have come about
 * @param scatter a choice in SCATTERS
 * @param prior weights of z on the grid from everything but these answers, any scale
 */
export function factPosterior(
  said: readonly LikelihoodTerm[],
  scatter: number,
  others: Others,
  prior: Float64Array,
): FactPosterior {
  let total = 0;
  let automatic = 0;
  let retrieved = 0;
  let squared = 0;
  const rest = [0, 0, 0];
  for (const { account, weight } of said) {
    const { m, n, ways, split } = account;
    const tables = tablesFor(scatter, m);
    for (let k = 0; k <= m; k++) {
      for (let z = 0; z < GRID; z++) {
        const at = k * GRID + z;
        const w = prior[z]! * ways[k]! * tables.ways[at]! * (weight === null ? 1 : weight[z]!);
        const share = tables.mean[at]!;
        total += w;
        automatic += w * tables.automatic[at]!;
        retrieved += w * share;
        squared += w * tables.square[at]!;
        const left = (w * (1 - share)) / (OTHERS_WEIGHT + n - k);
        for (let s = 0; s < 3; s++) rest[s]! += left * (OTHERS_WEIGHT * others[s]! + split[3 * k + s]!);
      }
    }
  }
  // Answers beyond anything that the numbers can hold say nothing.
  if (!(total > 0)) return factPosterior(NO_ANSWERS, scatter, others, prior);
  const mean = retrieved / total;
  return {
    pAutomatic: automatic / total,
    shares: [mean, rest[0]! / total, rest[1]! / total, rest[2]! / total],
    variance: Math.max(0, squared / total - mean * mean),
  };
}

/** Several posteriors of one fact as one, by the weight of each. */
export function averaged(
  posteriors: readonly { readonly weight: number; readonly posterior: FactPosterior }[],
): FactPosterior {
  const total = posteriors.reduce((sum, { weight }) => sum + weight, 0);
  const mean = (of: (p: FactPosterior) => number): number =>
    posteriors.reduce((sum, { weight, posterior }) => sum + weight * of(posterior), 0) / total;
  const shares = ([0, 1, 2, 3] as const).map((s) => mean((p) => p.shares[s]));
  return {
    pAutomatic: mean((p) => p.pAutomatic),
    shares: [shares[0]!, shares[1]!, shares[2]!, shares[3]!],
    variance: mean((p) => p.variance + p.shares[0] ** 2) - shares[0]! ** 2,
  };
}
