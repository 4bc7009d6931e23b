import { incompleteBeta, logGamma } from './incompleteBeta';

/** Values of R 4.2.2. */
const LGAMMA = [
  [0.1, 2.25271265173421],
  [0.5, 0.5723649429247],
  [1, 0],
  [2.5, 0.284682870472919],
  [5, 3.17805383034795],
  [37.2, 96.4397101615684],
  [300, 1409.20206747041],
] as const;
const PBETA = [
  [0.000001, 0.5, 0.5, 0.000636619878470925],
  [0.05, 0.5, 0.5, 0.143566293128706],
  [0.3, 0.5, 0.5, 0.369010119565545],
  [0.8, 0.5, 0.5, 0.704832764699134],
  [0.999, 0.5, 0.5, 0.979864958366623],
  [0.000001, 2, 3, 5.99999200000301e-12],
  [0.05, 2, 3, 0.01401875],
  [0.3, 2, 3, 0.3483],
  [0.8, 2, 3, 0.9728],
  [0.999, 2, 3, 0.999999996003],
  [0.000001, 30, 1, 1e-180],
  [0.05, 30, 1, 9.31322574615484e-40],
  [0.3, 30, 1, 2.05891132094649e-16],
  [0.8, 30, 1, 0.00123794003928538],
  [0.999, 30, 1, 0.970430967263086],
  [0.000001, 1, 30, 2.999956500406e-5],
  [0.05, 1, 30, 0.785361236057062],
  [0.3, 1, 30, 0.999977460659709],
  [0.8, 1, 30, 1],
  [0.999, 1, 30, 1],
  [0.000001, 9, 1, 1e-54],
  [0.05, 9, 1, 1.953125e-12],
  [0.3, 9, 1, 1.9683e-5],
  [0.8, 9, 1, 0.134217728],
  [0.999, 9, 1, 0.991035916125874],
  [0.000001, 4.2, 0.7, 3.08366186594944e-26],
  [0.05, 4.2, 0.7, 1.69870210111566e-6],
  [0.3, 4.2, 0.7, 0.00338412244565105],
  [0.8, 4.2, 0.7, 0.267319405492759],
  [0.999, 4.2, 0.7, 0.97673807410768],
] as const;

/** Agreement by as many digits as R printed, of what is not next to nothing; absolutely below that. */
const near = (value: number, reference: number): void =>
  expect(Math.abs(value - reference)).toBeLessThan(1e-11 * Math.max(1, Math.abs(reference)) + 1e-300);

describe('special functions', () => {
  it.each(LGAMMA)('ln Γ(%d) is lgamma’s', (x, value) => near(logGamma(x), value));
  it.each(PBETA)('I_%d(%d, %d) is pbeta’s', (x, a, b, value) => near(incompleteBeta(x, a, b), value));
  it('keep their digits where they are next to nothing', () => {
    for (const [x, a, b, value] of PBETA.filter(([, , , v]) => v > 0 && v < 1e-6))
      expect(Math.abs(incompleteBeta(x, a, b) / value - 1)).toBeLessThan(1e-9);
  });
  it('mirrors', () => expect(incompleteBeta(0.3, 2.5, 0.7)).toBeCloseTo(1 - incompleteBeta(0.7, 0.7, 2.5), 12));
  it('refuses what it is not defined for', () => {
    for (const [x, a, b] of [
      [0.5, 0, 1],
      [-0.1, 1, 1],
      [1.1, 1, 1],
      [Number.NaN, 1, 1],
      [0.5, 1, -2],
    ] as const)
      expect(() => incompleteBeta(x, a, b)).toThrow(RangeError);
  });
});
