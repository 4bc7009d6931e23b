import { gridNormal, inferField } from './field';
import { invert } from '../statistics/choleskyInverse';
import { noSites, NormalField } from './normalField';
import { FACTS, PRIOR } from '../testing/field';
import { Z_GRID } from './posterior';

const bell = (mean: number, variance: number): Float64Array =>
  Float64Array.from(Z_GRID, (z) => Math.exp((-0.5 * (z - mean) ** 2) / variance));
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
});
