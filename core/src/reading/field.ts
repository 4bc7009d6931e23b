import { FAMILY_EFFECTS, type PlacedFact } from './features';
import { Z_GRID } from './posterior';
import { invert } from './linear';

/**
 * A child's knowledge as one field over all its facts: z_f = x_f·w + effects of f's family + own deviation, all normal before the answers; each fact's answers say
 * something exact but not normal about its z (`evidence`). Expectation propagation (Minka 2001): every fact's evidence is replaced by the normal one that gives the same mean and
 * variance against what all other facts say, again and again until nothing moves. What all others say about a fact (its cavity) is the prior
 * that leaves its own answers out.
 */
export interface FieldPrior {
  /** Mean and variance of the child's weights. */
  readonly mean: Float64Array;
  readonly variance: Float64Array;
  /** Variance of the family's effect, and of its effect under one operation. */
  readonly familyVariance: number;
  readonly operationVariance: number;
  /** Variance of a fact's own deviation. */
  readonly ownVariance: number;
}

/** Mean and variance of z for each fact from everything but its own answers (own deviation included), and of the weights from everything. */
export interface Field {
  readonly cavityMean: Float64Array;
  readonly cavityVariance: Float64Array;
  readonly weightMean: Float64Array;
  readonly weightVariance: Float64Array;
  /** E[effect²] summed, and how many, for families, operations and own deviations: what a class learns its variances from. */
  readonly squares: { readonly family: number; readonly families: number; readonly operation: number; readonly operations: number; readonly own: number };
}

/** Normal stand-ins of the facts' evidence: precision and precision × mean. Kept between calls, so that a later fit starts where this one ended. */
export interface Sites {
  readonly precision: Float64Array;
  readonly shift: Float64Array;
}
export const noSites = (facts: number): Sites => ({ precision: new Float64Array(facts), shift: new Float64Array(facts) });

/** Between 0 and 1: how far a stand-in moves at once. Less than 1 keeps the sweeps from swinging. */
const DAMPING = 0.8;
const LEAST_PRECISION = 1e-6;
/** A fact's z is not followed beyond the grid on which its evidence is known. */
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
function tilted(mean: number, variance: number, evidence: Float64Array, work: Float64Array): { mean: number; variance: number } {
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

const B = FAMILY_EFFECTS;

/**
 * Infers a child's field.
 * @param facts placed facts of one domain
 * @param evidence per fact, its likelihood at every z of the grid, any scale
 * @param sites stand-ins to start from; changed in place
 * @param sweeps how often all stand-ins are renewed
 */
export function inferField(prior: FieldPrior, facts: readonly PlacedFact[], evidence: readonly Float64Array[], sites: Sites, sweeps: number): Field {
  const d = prior.mean.length;
  const n = facts.length;
  const families = [...new Set(facts.map((f) => f.family))];
  const place = new Map(families.map((family, i) => [family, i]));
  const familyOf = facts.map((f) => place.get(f.family)!);
  const effectVariance = Array.from({ length: B }, (_, e) => (e === 0 ? prior.familyVariance : prior.operationVariance));
  const mean = new Float64Array(n);
  const variance = new Float64Array(n);
  const work = new Float64Array(Z_GRID.length);
  const active = facts.map(({ features }) => Array.from(features.keys()).filter((i) => features[i] !== 0));
  // Families' own blocks are small and independent given the weights: they are eliminated first (Schur complement).
  const blocks = families.map(() => ({
    inverse: new Float64Array(B * B),
    shift: new Float64Array(B),
    cross: new Float64Array(d * B),
    carried: new Float64Array(d * B),
    touched: [] as number[],
  }));
  const main = new Float64Array(d * d);
  const mainShift = new Float64Array(d);
  const weight = new Float64Array(d);
  const effect = families.map(() => new Float64Array(B));
  const u = new Float64Array(d);
  const nonzero = new Int32Array(d);

  const solve = (): void => {
    main.fill(0);
    for (let i = 0; i < d; i++) {
      main[i * d + i] = 1 / prior.variance[i]!;
      mainShift[i] = prior.mean[i]! / prior.variance[i]!;
    }
    for (const block of blocks) {
      block.inverse.fill(0);
      block.shift.fill(0);
      block.cross.fill(0);
      for (let e = 0; e < B; e++) block.inverse[e * B + e] = 1 / effectVariance[e]!;
    }
    for (let f = 0; f < n; f++) {
      const { features, effects } = facts[f]!;
      const block = blocks[familyOf[f]!]!;
      const tau = sites.precision[f]!;
      const nu = sites.shift[f]!;
      const on = active[f]!;
      for (const i of on) {
        const xi = features[i]!;
        mainShift[i]! += nu * xi;
        for (const j of on) main[i * d + j]! += tau * xi * features[j]!;
        for (const e of effects) block.cross[i * B + e]! += tau * xi;
      }
      for (const e of effects) {
        block.shift[e]! += nu;
        for (const o of effects) block.inverse[e * B + o]! += tau;
      }
    }
    for (const { inverse, shift, cross, carried, touched } of blocks) {
      invert(inverse, B);
      touched.length = 0;
      for (let i = 0; i < d; i++) {
        let any = false;
        for (let e = 0; e < B; e++) {
          let s = 0;
          for (let o = 0; o < B; o++) s += cross[i * B + o]! * inverse[o * B + e]!;
          carried[i * B + e] = s;
          any ||= s !== 0;
        }
        if (any) touched.push(i);
      }
      for (const i of touched) {
        for (let e = 0; e < B; e++) mainShift[i]! -= carried[i * B + e]! * shift[e]!;
        for (const j of touched) for (let e = 0; e < B; e++) main[i * d + j]! -= carried[i * B + e]! * cross[j * B + e]!;
      }
    }
    invert(main, d);
    for (let i = 0; i < d; i++) {
      let s = 0;
      for (let j = 0; j < d; j++) s += main[i * d + j]! * mainShift[j]!;
      weight[i] = s;
    }
    blocks.forEach(({ inverse, shift, carried, touched }, b) => {
      for (let e = 0; e < B; e++) {
        let s = 0;
        for (let o = 0; o < B; o++) s += inverse[e * B + o]! * shift[o]!;
        for (const i of touched) s -= carried[i * B + e]! * weight[i]!;
        effect[b]![e] = s;
      }
    });
    for (let f = 0; f < n; f++) {
      const { features, effects } = facts[f]!;
      const { inverse, carried, touched } = blocks[familyOf[f]!]!;
      u.fill(0);
      let m = 0;
      for (const i of active[f]!) {
        u[i] = features[i]!;
        m += features[i]! * weight[i]!;
      }
      let v = 0;
      for (const e of effects) {
        m += effect[familyOf[f]!]![e]!;
        for (const o of effects) v += inverse[e * B + o]!;
        for (const i of touched) u[i]! -= carried[i * B + e]!;
      }
      // uᵀ main u over the entries that are not zero, each pair once.
      let on = 0;
      for (let i = 0; i < d; i++) if (u[i] !== 0) nonzero[on++] = i;
      for (let a = 0; a < on; a++) {
        const i = nonzero[a]!;
        const row = i * d;
        let s = 0.5 * main[row + i]! * u[i]!;
        for (let b = 0; b < a; b++) s += main[row + nonzero[b]!]! * u[nonzero[b]!]!;
        v += 2 * u[i]! * s;
      }
      mean[f] = m;
      variance[f] = v;
    }
  };

  /** The cavity of fact f: the field without f's own stand-in. */
  const cavity = (f: number): { mean: number; variance: number } => {
    const precision = Math.max(1 / variance[f]! - sites.precision[f]!, 1e-3);
    return { mean: (mean[f]! / variance[f]! - sites.shift[f]!) / precision, variance: 1 / precision };
  };

  let ownSquares = 0;
  for (let sweep = 0; sweep < sweeps; sweep++) {
    solve();
    ownSquares = 0;
    for (let f = 0; f < n; f++) {
      const c = cavity(f);
      const whole = c.variance + prior.ownVariance;
      const t = tilted(c.mean, whole, evidence[f]!, work);
      const r = c.variance / whole;
      const m = c.mean + r * (t.mean - c.mean);
      const v = c.variance * (1 - r) + r * r * t.variance;
      const precision = Math.max(LEAST_PRECISION, 1 / v - 1 / c.variance);
      const shift = (precision + 1 / c.variance) * m - c.mean / c.variance;
      sites.precision[f] = DAMPING * precision + (1 - DAMPING) * sites.precision[f]!;
      sites.shift[f] = DAMPING * shift + (1 - DAMPING) * sites.shift[f]!;
      const own = 1 - r;
      ownSquares += prior.ownVariance * r + own * own * (t.variance + (t.mean - c.mean) ** 2);
    }
  }
  solve();
  const cavityMean = new Float64Array(n);
  const cavityVariance = new Float64Array(n);
  for (let f = 0; f < n; f++) {
    const c = cavity(f);
    cavityMean[f] = c.mean;
    cavityVariance[f] = c.variance + prior.ownVariance;
  }
  const squares = { family: 0, families: families.length, operation: 0, operations: 0, own: ownSquares };
  const used = families.map(() => new Set<number>());
  facts.forEach((fact, f) => fact.effects.forEach((e) => used[familyOf[f]!]!.add(e)));
  blocks.forEach(({ inverse, carried, touched }, b) => {
    for (const e of used[b]!) {
      let v = inverse[e * B + e]!;
      for (const i of touched) for (const j of touched) v += carried[i * B + e]! * main[i * d + j]! * carried[j * B + e]!;
      const square = effect[b]![e]! ** 2 + v;
      if (e === 0) squares.family += square;
      else {
        squares.operation += square;
        squares.operations++;
      }
    }
  });
  return { cavityMean, cavityVariance, weightMean: weight, weightVariance: Float64Array.from({ length: d }, (_, i) => main[i * d + i]!), squares };
}
