import { NormalField, noSites } from './normalField';

describe('the field while all is normal', () => {
  it('is its prior where nothing was said', () => {
    const prior = { mean: Float64Array.of(0.5, -1), variance: Float64Array.of(2, 0.5), familyVariance: 0.4, operationVariance: 0.3, ownVariance: 0.6 };
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
