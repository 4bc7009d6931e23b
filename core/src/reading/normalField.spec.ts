import { invert } from '../statistics/choleskyInverse';
import { NormalField, noSites } from './normalField';

describe('the field while all is normal', () => {
  it('is its prior where nothing was said', () => {
    const prior = {
      mean: Float64Array.of(0.5, -1),
      variance: Float64Array.of(2, 0.5),
      familyVariance: 0.4,
      operationVariance: 0.3,
      ownVariance: 0.6,
    };
    const field = new NormalField(
      [
        { features: Float64Array.of(1, 2), family: 'a', effects: [0, 1] },
        { features: Float64Array.of(1, 0), family: 'b', effects: [0] },
      ],
      2,
    );
    field.solve(prior, noSites(2));
    expect(field.mean[0]).toBeCloseTo(-1.5, 12);
    expect(field.variance[0]).toBeCloseTo(2 + 4 * 0.5 + 0.4 + 0.3, 12);
    expect(field.variance[1]).toBeCloseTo(2.4, 12);
    expect(field.effects().map((e) => [e.effect, e.mean, e.variance])).toEqual([
      [0, 0, expect.closeTo(0.4, 12)],
      [1, 0, expect.closeTo(0.3, 12)],
      [0, 0, expect.closeTo(0.4, 12)],
    ]);
    const certain = noSites(2);
    certain.precision[1] = 1e6;
    certain.shift[1] = 3e6;
    field.solve(prior, certain);
    expect(field.mean[1]).toBeCloseTo(3, 4);
    // What the level learned is learned for the other fact too, and nothing of its slope.
    expect(field.mean[0]).toBeCloseTo(-1.5 + (2 / 2.4) * 2.5, 4);
  });
});

describe('the field with evidence everywhere', () => {
  it('is the normal regression written out over all facts at once', () => {
    const prior = {
      mean: Float64Array.of(0.4, -0.7),
      variance: Float64Array.of(1.5, 0.6),
      familyVariance: 0.5,
      operationVariance: 0.25,
      ownVariance: 1,
    };
    const facts = [
      { features: Float64Array.of(1, 2), family: 'a', effects: [0, 1] },
      { features: Float64Array.of(1, -1.5), family: 'a', effects: [0, 2] },
      { features: Float64Array.of(0, 3), family: 'b', effects: [0, 1] },
      { features: Float64Array.of(2, 0.5), family: 'a', effects: [0, 1] },
    ];
    const sites = { precision: Float64Array.of(0.7, 2, 1.1, 0.4), shift: Float64Array.of(1, -1.5, 0.3, 0.8) };
    const n = facts.length;
    const all = [...facts.keys()];
    const effect = (e: number): number => (e === 0 ? 0.5 : 0.25);
    const shared = (f: number, e: number, family: string): number =>
      facts[f]!.family === family && facts[f]!.effects.includes(e) ? effect(e) : 0;
    const k = (i: number, j: number): number =>
      [0, 1].reduce((sum, w) => sum + facts[i]!.features[w]! * facts[j]!.features[w]! * prior.variance[w]!, 0) +
      facts[i]!.effects.reduce((sum, e) => sum + shared(j, e, facts[i]!.family), 0);
    const seen = Float64Array.from(
      all.flatMap((i) => all.map((j) => k(i, j) + (i === j ? 1 / sites.precision[i]! : 0))),
    );
    invert(seen, n);
    const mean = (f: number): number => facts[f]!.features.reduce((sum, x, w) => sum + x * prior.mean[w]!, 0);
    /** What something that varies along with the facts as `along` says gains in mean, and loses in variance. */
    const learned = (along: (f: number) => number): { mean: number; variance: number } => {
      const gain = all.map((j) => all.reduce((sum, i) => sum + along(i) * seen[i * n + j]!, 0));
      return {
        mean: gain.reduce((sum, g, j) => sum + g * (sites.shift[j]! / sites.precision[j]! - mean(j)), 0),
        variance: gain.reduce((sum, g, j) => sum + g * along(j), 0),
      };
    };
    const field = new NormalField(facts, 2);
    field.solve(prior, sites);
    for (const f of all) {
      const { mean: moved, variance: less } = learned((i) => k(i, f));
      expect(field.mean[f]).toBeCloseTo(mean(f) + moved, 9);
      expect(field.variance[f]).toBeCloseTo(k(f, f) - less, 9);
    }
    const covariance = field.covariance();
    for (const f of all) {
      for (const g of all) {
        const less = all.reduce(
          (sum, i) => sum + k(i, f) * all.reduce((inner, j) => inner + seen[i * n + j]! * k(j, g), 0),
          0,
        );
        expect(covariance[f * n + g]).toBeCloseTo(k(f, g) - less, 9);
      }
    }
    [0, 1].forEach((w) => {
      const { mean: moved, variance: less } = learned((i) => facts[i]!.features[w]! * prior.variance[w]!);
      expect(field.weightMean[w]).toBeCloseTo(prior.mean[w]! + moved, 9);
      expect(field.weightCovariance[w * 2 + w]).toBeCloseTo(prior.variance[w]! - less, 9);
    });
    const effects = field.effects();
    const expected = [['a', 0] as const, ['a', 1] as const, ['a', 2] as const, ['b', 0] as const, ['b', 1] as const];
    expect(effects).toHaveLength(expected.length);
    expected.forEach(([family, e], at) => {
      const { mean: moved, variance: less } = learned((i) => shared(i, e, family));
      expect(effects[at]!.effect).toBe(e);
      expect(effects[at]!.mean).toBeCloseTo(moved, 9);
      expect(effects[at]!.variance).toBeCloseTo(effect(e) - less, 9);
    });
  });
});
