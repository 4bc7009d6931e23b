import { densityAtLog, fentonWilkinson, momentsOf, sumOf } from './logNormal';

describe('log-normal times', () => {
  it('matches mean and variance of a sum', () => {
    const moments = sumOf(momentsOf(1.2, 0.27), momentsOf(0.6, 0.38));
    const { mu, sigma } = fentonWilkinson(moments);
    const back = momentsOf(Math.exp(mu), sigma);
    expect(back.mean).toBeCloseTo(moments.mean, 10);
    expect(back.variance).toBeCloseTo(moments.variance, 10);
  });

  it('has a density that sums to one', () => {
    const time = fentonWilkinson(momentsOf(1.5, 0.4));
    let sum = 0;
    for (let t = 0.005; t < 30; t += 0.01) sum += densityAtLog(time, Math.log(t)) * 0.01;
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
    expect(densityAtLog({ mu, sigma }, Math.log(seconds))).toBeCloseTo(density, 12),
  );
});
