import type { FieldPrior, Marginals, NormalField, Sites } from './normalField';
import { Z_GRID } from './posterior';

/**
 * Expectation propagation (Minka 2001): each fact's exact, non-normal likelihood of z (`evidence`) is approximated by a normal site with the same mean and variance under the cavity, until convergence. The cavity of a fact is the prior from all other facts, without its own answers.
 */

/** Sum of squares and effective number of parameters γ of one kind of effect, from which the class learns its variance (MacKay 1992). */
export interface Effects {
  readonly square: number;
  readonly settled: number;
}

/** Mean and variance of z for each fact from everything but its own answers (own deviation included). */
export interface Field {
  /** What it was inferred under. */
  readonly prior: FieldPrior;
  readonly cavityMean: Float64Array;
  readonly cavityVariance: Float64Array;
  /** The facts' own deviations. */
  readonly own: Effects;
}

/** Damping of EP updates, between 0 and 1; less than 1 prevents oscillation. */
const DAMPING = 0.8;
const LEAST_PRECISION = 1e-6;
/** z is clamped to the grid of the likelihood. */
const FARTHEST = 8;

const GRID_STEP = Z_GRID[1]! - Z_GRID[0]!;

/** Weights on the grid of a normal distribution: unnormalised. Neighbours differ by a factor that itself changes by a constant factor, so one exponential does for all. */
export function gridNormal(mean: number, variance: number, out: Float64Array): void {
  const centre = Math.max(-FARTHEST, Math.min(FARTHEST, mean));
  const middle = Math.round((centre - Z_GRID[0]!) / GRID_STEP);
  const from = Z_GRID[middle]! - centre;
  const bend = Math.exp((-GRID_STEP * GRID_STEP) / variance);
  out[middle] = Math.exp((-0.5 * from * from) / variance);
  const half = Math.sqrt(bend);
  const tilt = Math.exp((-from * GRID_STEP) / variance);
  for (let g = middle + 1, w = out[middle], r = half * tilt; g < out.length; g++, r *= bend) out[g] = w *= r;
  for (let g = middle - 1, w = out[middle], r = half / tilt; g >= 0; g--, r *= bend) out[g] = w *= r;
}

/** Mean and variance of z under a normal cavity times the evidence on the grid. */
function tilted(
  mean: number,
  variance: number,
  evidence: Float64Array,
  work: Float64Array,
): { mean: number; variance: number } {
  gridNormal(mean, variance, work);
  let total = 0;
  let first = 0;
  let second = 0;
  for (let g = 0; g < work.length; g++) {
    const w = work[g]! * evidence[g]!;
    const z = Z_GRID[g]!;
    total += w;
    first += w * z;
    second += w * z * z;
  }
  if (!(total > 0)) return { mean, variance };
  return { mean: first / total, variance: Math.max(1e-3, second / total - (first / total) ** 2) };
}

/** The cavity of fact f: the field without f's own site. */
function cavity({ mean, variance }: Marginals, sites: Sites, f: number): { mean: number; variance: number } {
  const precision = Math.max(1 / variance[f]! - sites.precision[f]!, 1e-3);
  return { mean: (mean[f]! / variance[f]! - sites.shift[f]!) / precision, variance: 1 / precision };
}

/** Updates every site once, in place. */
function sweep(
  marginals: Marginals,
  { ownVariance }: FieldPrior,
  evidence: readonly Float64Array[],
  sites: Sites,
): Effects {
  const work = new Float64Array(Z_GRID.length);
  const own = { square: 0, settled: 0 };
  for (let f = 0; f < evidence.length; f++) {
    const c = cavity(marginals, sites, f);
    const whole = c.variance + ownVariance;
    const t = tilted(c.mean, whole, evidence[f]!, work);
    const r = c.variance / whole;
    const m = c.mean + r * (t.mean - c.mean);
    const v = c.variance * (1 - r) + r * r * t.variance;
    const precision = Math.max(LEAST_PRECISION, 1 / v - 1 / c.variance);
    const shift = (precision + 1 / c.variance) * m - c.mean / c.variance;
    sites.precision[f] = DAMPING * precision + (1 - DAMPING) * sites.precision[f]!;
    sites.shift[f] = DAMPING * shift + (1 - DAMPING) * sites.shift[f]!;
    own.square += ((1 - r) * (t.mean - c.mean)) ** 2;
    own.settled += 1 - r - ((1 - r) ** 2 * t.variance) / ownVariance;
  }
  return own;
}

/**
 * Infers a child's field. @param normal over the facts of one domain; on return it holds the last solution
 * @param evidence per fact, its likelihood at every z of the grid, any scale
 * @param sites stand-ins to start from; changed in place
 * @param sweeps how often all stand-ins are renewed: at least once
 * @param start the marginals under this prior and these sites, where they are known
 */
export function inferField(
  normal: NormalField,
  prior: FieldPrior,
  evidence: readonly Float64Array[],
  sites: Sites,
  sweeps: number,
  start?: Marginals,
): Field {
  let own: Effects = { square: 0, settled: 0 };
  if (!start) normal.solve(prior, sites);
  for (let i = 0; i < sweeps; i++) {
    own = sweep(i === 0 && start ? start : normal, prior, evidence, sites);
    normal.solve(prior, sites);
  }
  const cavityMean = new Float64Array(evidence.length);
  const cavityVariance = new Float64Array(evidence.length);
  for (let f = 0; f < evidence.length; f++) {
    const c = cavity(normal, sites, f);
    cavityMean[f] = c.mean;
    cavityVariance[f] = c.variance + prior.ownVariance;
  }
  return { prior, cavityMean, cavityVariance, own };
}
