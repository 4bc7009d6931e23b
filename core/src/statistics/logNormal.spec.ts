import { fentonWilkinson, LogNormalDensity, momentsOf, sumOf } from './logNormal';

describe('log-normal times', () => {
  it('matches mean and variance of a sum', () => {
    const moments = sumOf(momentsOf(1.2, 0.27), momentsOf(0.6, 0.38));
    const { mu, sigma } = fentonWilkinson(moments);
    const back = momentsOf(Math.exp(mu), sigma);
    expect(back.mean).toBeCloseTo(moments.mean, 10);
    expect(back.variance).toBeCloseTo(moments.variance, 10);
  });

  it('has a density that sums to one', () => {
    const density = new LogNormalDensity(fentonWilkinson(momentsOf(1.5, 0.4)));
    let sum = 0;
    for (let t = 0.005; t < 30; t += 0.01) sum += density.at(t, Math.log(t)) * 0.01;
    expect(sum).toBeCloseTo(1, 4);
  });

  it('refuses a time of no length', () => {
    expect(() => fentonWilkinson({ mean: 0, variance: 1 })).toThrow(RangeError);
  });

  // dlnorm of R 4.2.2.
  it.each([
    [0.4, 0.3, 1.2, 0.851691250117423],
    [-0.5, 0.8, 0.3, 1.12863364468395],
    [1.1, 0.05, 3.2, 1.1230385183979],
  ])('of mu %d and sigma %d has at %d s the density of dlnorm', (mu, sigma, seconds, density) =>
    // A table straight between its points: right to a few millionths.
    expect(new LogNormalDensity({ mu, sigma }).at(seconds, Math.log(seconds)) / density).toBeCloseTo(1, 4),
  );

  it('is nought far off, and a part of itself as a part of a mixture', () => {
    const at = (weight: number, seconds: number): number =>
      new LogNormalDensity({ mu: 0, sigma: 0.1 }, weight).at(seconds, Math.log(seconds));
    expect(at(1, 30)).toBe(0);
    expect(at(0.25, 1.1) / at(1, 1.1)).toBeCloseTo(0.25, 12);
  });
});
