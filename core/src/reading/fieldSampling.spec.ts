import { normal, seeded } from '../random/random';
import { FACTS, PRIOR } from '../testing/field';
import { inferField } from './field';
import { noSites, NormalField } from './normalField';
import { Z_GRID } from './posterior';

describe('a child’s field', () => {
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
});
