import { FAMILY_EFFECTS, type PlacedFact } from './features';
import { invert } from '../statistics/choleskyInverse';

/**
 * A child's knowledge as one field over all its facts: z_f = x_f·w + effects of f's family + own deviation, all normal before the answers.
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

/** EP site approximations (natural parameters: precision and precision × mean). Kept between fits as a warm start. */
export interface Sites {
  readonly precision: Float64Array;
  readonly shift: Float64Array;
}
export const noSites = (facts: number): Sites => ({
  precision: new Float64Array(facts),
  shift: new Float64Array(facts),
});

/** Mean and variance of each fact's z, without its own deviation. */
export interface Marginals {
  readonly mean: Float64Array;
  readonly variance: Float64Array;
}

const B = FAMILY_EFFECTS;

/** What a family's facts have in common; `features`: those that are not nought in any of them, ascending, by whose places in the list the other arrays go. */
interface FamilyBlock {
  readonly features: Int32Array;
  /** The effects that touch one of its facts. */
  readonly effects: readonly number[];
  readonly inverse: Float64Array;
  readonly shift: Float64Array;
  readonly cross: Float64Array;
  readonly carried: Float64Array;
  /** Expected effects. */
  readonly effect: Float64Array;
}

interface Row {
  readonly features: Int32Array;
  readonly values: Float64Array;
  /** Places of the features in its family's list. */
  readonly places: Int32Array;
  readonly effects: readonly number[];
  readonly family: FamilyBlock;
}

const nonzero = (x: Float64Array): number[] => Array.from(x.keys()).filter((i) => x[i] !== 0);

/**
 * The field while all evidence is normal: solved exactly, by linear algebra over the weights. Families' own effects are few and independent given the weights, so they are
 * eliminated first (Schur's complement). Everything that depends on the facts alone is made once; the results stand until the next `solve`.
 */
export class NormalField implements Marginals {
  readonly mean: Float64Array;
  readonly variance: Float64Array;
  /** Mean and covariance (row by row) of the weights. */
  readonly weightMean: Float64Array;
  readonly weightCovariance: Float64Array;
  readonly #rows: readonly Row[];
  readonly #families: readonly FamilyBlock[];
  readonly #shift: Float64Array;
  readonly #direction: Float64Array;

  /** @param features length of every fact's features */
  constructor(
    facts: readonly PlacedFact[],
    readonly features: number,
  ) {
    const blocks = new Map<string, FamilyBlock>();
    for (const name of new Set(facts.map((f) => f.family))) {
      const own = facts.filter((f) => f.family === name);
      const touched = Int32Array.from([...new Set(own.flatMap((f) => nonzero(f.features)))].sort((a, b) => a - b));
      blocks.set(name, {
        features: touched,
        effects: [...new Set(own.flatMap((f) => f.effects))],
        inverse: new Float64Array(B * B),
        shift: new Float64Array(B),
        cross: new Float64Array(touched.length * B),
        carried: new Float64Array(touched.length * B),
        effect: new Float64Array(B),
      });
    }
    this.#families = [...blocks.values()];
    this.#rows = facts.map(({ features: x, family, effects }) => {
      const block = blocks.get(family)!;
      const on = nonzero(x);
      return {
        features: Int32Array.from(on),
        values: Float64Array.from(on, (i) => x[i]!),
        places: Int32Array.from(on, (i) => block.features.indexOf(i)),
        effects,
        family: block,
      };
    });
    this.mean = new Float64Array(facts.length);
    this.variance = new Float64Array(facts.length);
    this.weightMean = new Float64Array(features);
    this.weightCovariance = new Float64Array(features * features);
    this.#shift = new Float64Array(features);
    this.#direction = new Float64Array(features);
  }

  solve(prior: FieldPrior, sites: Sites): void {
    this.#gather(prior, sites);
    this.#eliminate();
    this.#weigh();
    this.#marginals();
  }

  /** The normal equations: of the weights (lower triangle), of each family's effects, and between both. */
  #gather(prior: FieldPrior, sites: Sites): void {
    const d = this.features;
    const main = this.weightCovariance.fill(0);
    for (let i = 0; i < d; i++) {
      main[i * d + i] = 1 / prior.variance[i]!;
      this.#shift[i] = prior.mean[i]! / prior.variance[i]!;
    }
    for (const { inverse, shift, cross } of this.#families) {
      inverse.fill(0);
      shift.fill(0);
      cross.fill(0);
      for (let e = 0; e < B; e++) inverse[e * B + e] = 1 / (e === 0 ? prior.familyVariance : prior.operationVariance);
    }
    for (let f = 0; f < this.#rows.length; f++) {
      const { features, values, places, effects, family } = this.#rows[f]!;
      const precision = sites.precision[f]!;
      const shift = sites.shift[f]!;
      for (let a = 0; a < features.length; a++) {
        const x = values[a]!;
        const row = features[a]! * d;
        this.#shift[features[a]!]! += shift * x;
        for (let b = 0; b <= a; b++) main[row + features[b]!]! += precision * x * values[b]!;
        for (const e of effects) family.cross[places[a]! * B + e]! += precision * x;
      }
      for (const e of effects) {
        family.shift[e]! += shift;
        for (const o of effects) family.inverse[e * B + o]! += precision;
      }
    }
  }

  #eliminate(): void {
    const d = this.features;
    const main = this.weightCovariance;
    for (const { features, inverse, shift, cross, carried } of this.#families) {
      invert(inverse, B);
      for (let a = 0; a < features.length; a++) {
        for (let e = 0; e < B; e++) {
          let s = 0;
          for (let o = 0; o < B; o++) s += cross[a * B + o]! * inverse[o * B + e]!;
          carried[a * B + e] = s;
        }
        const row = features[a]! * d;
        for (let e = 0; e < B; e++) this.#shift[features[a]!]! -= carried[a * B + e]! * shift[e]!;
        for (let b = 0; b <= a; b++) {
          let s = 0;
          for (let e = 0; e < B; e++) s += carried[a * B + e]! * cross[b * B + e]!;
          main[row + features[b]!]! -= s;
        }
      }
    }
  }

  #weigh(): void {
    const d = this.features;
    invert(this.weightCovariance, d);
    for (let i = 0; i < d; i++) {
      let s = 0;
      for (let j = 0; j < d; j++) s += this.weightCovariance[i * d + j]! * this.#shift[j]!;
      this.weightMean[i] = s;
    }
    for (const { features, inverse, shift, carried, effect } of this.#families) {
      for (let e = 0; e < B; e++) {
        let s = 0;
        for (let o = 0; o < B; o++) s += inverse[e * B + o]! * shift[o]!;
        for (let a = 0; a < features.length; a++) s -= carried[a * B + e]! * this.weightMean[features[a]!]!;
        effect[e] = s;
      }
    }
  }

  #marginals(): void {
    const u = this.#direction;
    for (let f = 0; f < this.#rows.length; f++) {
      const { features, values, places, effects, family } = this.#rows[f]!;
      u.fill(0, 0, family.features.length);
      let m = 0;
      let v = 0;
      for (let a = 0; a < features.length; a++) {
        u[places[a]!] = values[a]!;
        m += values[a]! * this.weightMean[features[a]!]!;
      }
      for (const e of effects) {
        m += family.effect[e]!;
        for (const o of effects) v += family.inverse[e * B + o]!;
        for (let a = 0; a < family.features.length; a++) u[a]! -= family.carried[a * B + e]!;
      }
      this.mean[f] = m;
      this.variance[f] = v + this.#quadratic(family.features, u);
    }
  }

  /** uᵀ V u for weights' covariance V and a u that is nought but for these features. */
  #quadratic(features: Int32Array, u: Float64Array): number {
    let v = 0;
    for (let a = 0; a < features.length; a++) {
      const row = features[a]! * this.features;
      let s = 0.5 * this.weightCovariance[row + features[a]!]! * u[a]!;
      for (let b = 0; b < a; b++) s += this.weightCovariance[row + features[b]!]! * u[b]!;
      v += 2 * u[a]! * s;
    }
    return v;
  }

  /** Covariance of every two facts' z, row by row, without their own deviations. */
  covariance(): Float64Array {
    const n = this.#rows.length;
    const d = this.features;
    // Of each fact, what it takes from its family's features once the effects are summed out; and the same through the weights' covariance.
    const direct: Float64Array[] = [];
    const through = new Float64Array(n * d);
    this.#rows.forEach(({ values, places, effects, family }, f) => {
      const u = new Float64Array(family.features.length);
      for (let a = 0; a < places.length; a++) u[places[a]!] = values[a]!;
      for (const e of effects) for (let a = 0; a < u.length; a++) u[a]! -= family.carried[a * B + e]!;
      direct.push(u);
      for (let a = 0; a < u.length; a++) {
        const row = family.features[a]! * d;
        for (let j = 0; j < d; j++) through[f * d + j]! += u[a]! * this.weightCovariance[row + j]!;
      }
    });
    const out = new Float64Array(n * n);
    for (let f = 0; f < n; f++) {
      const { effects, family } = this.#rows[f]!;
      const { features } = family;
      const u = direct[f]!;
      for (let g = f; g < n; g++) {
        let c = 0;
        for (let a = 0; a < u.length; a++) c += u[a]! * through[g * d + features[a]!]!;
        const other = this.#rows[g]!;
        if (other.family === family)
          for (const e of effects) for (const o of other.effects) c += family.inverse[e * B + o]!;
        out[f * n + g] = c;
        out[g * n + f] = c;
      }
    }
    return out;
  }

  /** Every effect of every family: which it is, its mean and its variance. */
  effects(): { readonly effect: number; readonly mean: number; readonly variance: number }[] {
    return this.#families.flatMap((family) =>
      family.effects.map((effect) => {
        family.features.forEach((_, a) => (this.#direction[a] = family.carried[a * B + effect]!));
        return {
          effect,
          mean: family.effect[effect]!,
          variance: family.inverse[effect * B + effect]! + this.#quadratic(family.features, this.#direction),
        };
      }),
    );
  }
}
