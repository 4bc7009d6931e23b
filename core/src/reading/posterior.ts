import type { Likelihood } from './likelihood';
import { incompleteBeta } from './incompleteBeta';

/**
 * Exact posterior of one fact (READING.md, section 4). Given z, the log-odds of knowing, the shares θ of the four strategies are
 * Dirichlet(κ·know, κ·(1−know)·mix) before the answers, and a mixture of Dirichlets over "how many answers used each strategy" after them.
 */
/** Grid of z on which everything is computed. */
export const Z_GRID: readonly number[] = Array.from({ length: 31 }, (_, i) => -9 + 0.6 * i);
/** Total weight of the prior, in answers. From READING.md's prototype. */
const KAPPA = 5;
/** How what is not retrieved is split between deriving, counting and guessing, before a child's own way is known. */
const OTHERS = [0.25, 0.6, 0.15] as const;
/** The retrieval share from which a fact is automatic. */
export const AUTOMATIC_SHARE = 0.8;
/** Newest answers used: older ones say little about today, and the exact sum grows with the cube. */
export const NEWEST = 12;

const logistic = (z: number): number => 1 / (1 + Math.exp(-z));

type Four = readonly [number, number, number, number];
const alphaAt = (z: number): Four => {
  const know = logistic(z);
  const rest = KAPPA * (1 - know);
  return [KAPPA * know, rest * OTHERS[0], rest * OTHERS[1], rest * OTHERS[2]];
};
const ALPHAS: readonly Four[] = Z_GRID.map(alphaAt);

/** RISING[z][s][k] = α_s (α_s + 1) … (α_s + k − 1). */
const RISING: readonly (readonly Float64Array[])[] = ALPHAS.map((alpha) =>
  alpha.map((a) => {
    const out = new Float64Array(NEWEST + 1);
    out[0] = 1;
    for (let k = 1; k <= NEWEST; k++) out[k] = out[k - 1]! * (a + k - 1);
    return out;
  }),
);

/** AUTOMATIC[n][z][k] = P(θ_retrieve ≥ 0.8) after k of n answers were retrieved. Filled on first use of n: a few thousand beta integrals in all. */
const AUTOMATIC: Float64Array[][] = [];
function automaticTable(n: number): Float64Array[] {
  return (AUTOMATIC[n] ??= ALPHAS.map(([a]) => Float64Array.from({ length: n + 1 }, (_, k) => 1 - incompleteBeta(AUTOMATIC_SHARE, a + k, KAPPA - a + n - k))));
}

/** What the answers to one fact say at every z of the grid. Arrays have the grid's length. */
export interface FactEvidence {
  readonly n: number;
  /** Evidence E(z), up to one constant. */
  readonly evidence: Float64Array;
  /** P(automatic | z, answers). */
  readonly automatic: Float64Array;
  /** Expected shares given z and the answers, in the order of STRATEGIES. */
  readonly shares: readonly Float64Array[];
  /** E[θ_retrieve²] given z and the answers. */
  readonly squared: Float64Array;
}

/** Index of (i, j, k) answers given to the first three strategies; the fourth takes the rest. */
const SIZE = NEWEST + 1;
const at = (i: number, j: number, k: number): number => (i * SIZE + j) * SIZE + k;

/** Coefficients C[k]: the summed likelihood of all ways to give k_s answers to strategy s. Scaled at every step; the scale is dropped. */
function coefficients(answers: readonly Likelihood[]): Float64Array {
  const c = new Float64Array(SIZE ** 3);
  c[0] = 1;
  for (let n = 0; n < answers.length; n++) {
    const [l0, l1, l2, l3] = answers[n]!;
    const scale = 1 / Math.max(l0, l1, l2, l3, Number.MIN_VALUE);
    // In place, from the largest index down, so that each cell still finds the previous step's neighbours.
    for (let i = n + 1; i >= 0; i--) {
      for (let j = n + 1 - i; j >= 0; j--) {
        for (let k = n + 1 - i - j; k >= 0; k--) {
          const own = i + j + k <= n ? c[at(i, j, k)]! * l3 : 0;
          const more = (i > 0 ? c[at(i - 1, j, k)]! * l0 : 0) + (j > 0 ? c[at(i, j - 1, k)]! * l1 : 0) + (k > 0 ? c[at(i, j, k - 1)]! * l2 : 0);
          c[at(i, j, k)] = (own + more) * scale;
        }
      }
    }
  }
  return c;
}

/**
 * Evidence, automaticity and shares of one fact at every z.
 * @param answers likelihoods of its answers, oldest first; only the newest NEWEST count
 */
export function factEvidence(answers: readonly Likelihood[]): FactEvidence {
  const used = answers.slice(-NEWEST);
  const n = used.length;
  const c = coefficients(used);
  const table = automaticTable(n);
  const size = Z_GRID.length;
  const evidence = new Float64Array(size);
  const automatic = new Float64Array(size);
  const squared = new Float64Array(size);
  const shares = [0, 1, 2, 3].map(() => new Float64Array(size));
  for (let z = 0; z < size; z++) {
    const [r0, r1, r2, r3] = RISING[z] as readonly [Float64Array, Float64Array, Float64Array, Float64Array];
    const alpha = ALPHAS[z]!;
    const auto = table[z]!;
    let total = 0;
    let autoSum = 0;
    let squareSum = 0;
    const counts = [0, 0, 0, 0] as [number, number, number, number];
    for (let i = 0; i <= n; i++) {
      let bySame = 0;
      for (let j = 0; j <= n - i; j++) {
        const f = r0[i]! * r1[j]!;
        for (let k = 0; k <= n - i - j; k++) {
          const w = f * r2[k]! * r3[n - i - j - k]! * c[at(i, j, k)]!;
          bySame += w;
          counts[1] += w * j;
          counts[2] += w * k;
        }
      }
      total += bySame;
      counts[0] += bySame * i;
      autoSum += bySame * auto[i]!;
      squareSum += bySame * (alpha[0] + i) * (alpha[0] + i + 1);
    }
    counts[3] = n * total - counts[0] - counts[1] - counts[2];
    evidence[z] = total;
    automatic[z] = autoSum / total;
    squared[z] = squareSum / total / ((KAPPA + n) * (KAPPA + n + 1));
    for (let s = 0; s < 4; s++) (shares[s] as Float64Array)[z] = (alpha[s]! + counts[s]! / total) / (KAPPA + n);
  }
  let highest = 0;
  for (const e of evidence) highest = Math.max(highest, e);
  for (let z = 0; z < size; z++) evidence[z] = evidence[z]! / highest;
  return { n, evidence, automatic, shares, squared };
}
