import { normal, seeded } from '../random/random';
import type { PlacedFact } from './features';
import { gridNormal, inferField } from './field';
import { invert } from './linear';
import { noSites, NormalField, type FieldPrior } from './normalField';
import { Z_GRID } from './posterior';

const bell = (mean: number, variance: number): Float64Array =>
  Float64Array.from(Z_GRID, (z) => Math.exp((-0.5 * (z - mean) ** 2) / variance));
const PRIOR: FieldPrior = {
  mean: Float64Array.of(0.5, -0.3),
  variance: Float64Array.of(2, 0.5),
  familyVariance: 0.4,
  operationVariance: 0.3,
  ownVariance: 0.6,
};
const FACTS: PlacedFact[] = [
  { features: Float64Array.of(1, 0), family: 'a', effects: [0, 1] },
  { features: Float64Array.of(1, 1), family: 'a', effects: [0, 2] },
  { features: Float64Array.of(1, 1), family: 'b', effects: [0, 1] },
  { features: Float64Array.of(1, -1), family: 'b', effects: [0, 1] },
];

/** Prior covariance of two facts' z, own deviations included, written out. */
function covariance(i: number, j: number): number {
  const [a, b] = [FACTS[i]!, FACTS[j]!];
  const weights = a.features.reduce((sum, x, k) => sum + x * b.features[k]! * PRIOR.variance[k]!, 0);
  if (a.family !== b.family) return weights;
  const shared = a.effects.filter((e) => b.effects.includes(e));
  const effects = shared.reduce((sum, e) => sum + (e === 0 ? PRIOR.familyVariance : PRIOR.operationVariance), 0);
  return weights + effects + (i === j ? PRIOR.ownVariance : 0);
}

describe('a child’s field', () => {
  it('with normal evidence is the textbook’s normal regression, leaving each fact out in turn', () => {
    const seen = [1.5, -1, 0.4, 2];
    const noise = [0.5, 1, 0.8, 1.5];
    const field = inferField(
      new NormalField(FACTS, 2),
      PRIOR,
      seen.map((m, f) => bell(m, noise[f]!)),
      noSites(4),
      60,
    );
    for (let f = 0; f < 4; f++) {
      const rest = [0, 1, 2, 3].filter((i) => i !== f);
      const k = Float64Array.from(rest.flatMap((i) => rest.map((j) => covariance(i, j) + (i === j ? noise[i]! : 0))));
      invert(k, 3);
      const mean = (i: number): number => FACTS[i]!.features.reduce((sum, x, d) => sum + x * PRIOR.mean[d]!, 0);
      const gain = rest.map((_, a) => rest.reduce((sum, j, b) => sum + covariance(f, j) * k[a * 3 + b]!, 0));
      const expected = mean(f) + rest.reduce((sum, i, a) => sum + gain[a]! * (seen[i]! - mean(i)), 0);
      const variance = covariance(f, f) - rest.reduce((sum, i, a) => sum + gain[a]! * covariance(f, i), 0);
      expect(field.cavityMean[f]).toBeCloseTo(expected, 1);
      expect(field.cavityVariance[f]).toBeCloseTo(variance, 1);
    }
  });

  it('with other evidence agrees with sampling (seed 9)', () => {
    // Evidence as answers give it: one side all but excluded.
    const evidence = [3, 3, -3, 0].map((centre) =>
      Float64Array.from(Z_GRID, (z) => 1 / (1 + Math.exp(centre > 0 ? -(z - 1) * 2 : (z + 1) * 2))),
    );
    const field = inferField(new NormalField(FACTS, 2), PRIOR, evidence, noSites(4), 30);
    const random = seeded(9);
    const at = (z: number, e: Float64Array): number => {
      const g = Math.max(0, Math.min(Z_GRID.length - 1, (z - Z_GRID[0]!) / 0.6));
      const low = Math.floor(g);
      return e[low]! + (g - low) * ((e[low + 1] ?? e[low]!) - e[low]!);
    };
    const sums = FACTS.map(() => ({ w: 0, z: 0 }));
    const draw = (variance: number): number => Math.sqrt(variance) * normal(random);
    for (let i = 0; i < 60_000; i++) {
      const w = [PRIOR.mean[0]! + draw(PRIOR.variance[0]!), PRIOR.mean[1]! + draw(PRIOR.variance[1]!)];
      const effects = {
        a: [0, 1, 2].map((e) => draw(e === 0 ? 0.4 : 0.3)),
        b: [0, 1, 2].map((e) => draw(e === 0 ? 0.4 : 0.3)),
      };
      const z = FACTS.map(
        (f) =>
          f.features.reduce((s, x, d) => s + x * w[d]!, 0) +
          f.effects.reduce((s, e) => s + effects[f.family as 'a' | 'b'][e]!, 0) +
          draw(0.6),
      );
      const likelihoods = z.map((value, f) => at(value, evidence[f]!));
      FACTS.forEach((_, f) => {
        const others = likelihoods.reduce((product, l, j) => (j === f ? product : product * l), 1);
        sums[f]!.w += others;
        sums[f]!.z += others * z[f]!;
      });
    }
    FACTS.forEach((_, f) => expect(Math.abs(field.cavityMean[f]! - sums[f]!.z / sums[f]!.w)).toBeLessThan(0.15));
  });

  it('has a fast normal curve that is the slow one', () => {
    const fast = new Float64Array(Z_GRID.length);
    for (const [mean, variance] of [
      [0.13, 0.9],
      [-7.4, 4],
      [6, 20],
    ] as const) {
      gridNormal(mean, variance, fast);
      bell(mean, variance).forEach((slow, g) => expect(fast[g]).toBeCloseTo(slow, 9));
    }
  });

  it('inverts, and refuses what has no inverse of its kind', () => {
    const a = Float64Array.of(4, 1, 0.5, 1, 3, -0.2, 0.5, -0.2, 2);
    const b = a.slice();
    invert(b, 3);
    for (let i = 0; i < 3; i++)
      for (let j = 0; j < 3; j++)
        expect([0, 1, 2].reduce((sum, k) => sum + a[i * 3 + k]! * b[k * 3 + j]!, 0)).toBeCloseTo(Number(i === j), 10);
    expect(() => invert(Float64Array.of(1, 2, 2, 1), 2)).toThrow(RangeError);
  });
});
