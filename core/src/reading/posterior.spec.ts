import { gamma, seeded } from '../random/random';
import { incompleteBeta, logGamma } from './incompleteBeta';
import type { Likelihood } from './likelihood';
import {
  accountOf,
  addShifted,
  averaged,
  factPosterior,
  likelihoodOn,
  SCATTERS,
  Splitting,
  USUAL_SCATTER,
  Z_GRID,
  type FactPosterior,
  type Others,
} from './posterior';

const ANSWERS: Likelihood[] = [
  [0.9, 0.2, 0.05, 0.1],
  [0.1, 0.3, 0.8, 0.2],
  [0.7, 0.1, 0.2, 0.05],
  [0.02, 0.1, 0.6, 0.3],
];
const OTHERS: Others = [0.25, 0.6, 0.15];
const account = (answers: readonly Likelihood[]) => accountOf(answers, new Splitting(OTHERS));

/** Prior weights at one point of the grid alone. */
const onlyAt = (z: number): Float64Array => Float64Array.from(Z_GRID, (_, g) => Number(g === z));

/** The posterior by chance alone: draws the shares from the prior and weighs them by the likelihood of all answers. Slow, and obviously right. */
function bySampling(z: number, scatter: number, answers: readonly Likelihood[], draws: number, seed: number) {
  const random = seeded(seed);
  const know = 1 / (1 + Math.exp(-Z_GRID[z]!));
  let evidence = 0;
  let automatic = 0;
  const shares = [0, 0, 0, 0];
  for (let i = 0; i < draws; i++) {
    let u = random();
    const part = SCATTERS[scatter]!.find((one) => (u -= one.weight(know)) < 0)!;
    const [a, b] = [gamma(random, part.a(know), 1), gamma(random, part.b(know), 1)];
    const retrieved = a / (a + b);
    const split = OTHERS.map((share) => gamma(random, 3 * share, 1));
    const total = split.reduce((x, y) => x + y, 0);
    const theta = [retrieved, ...split.map((x) => ((1 - retrieved) * x) / total)];
    const w = answers.reduce((product, l) => product * l.reduce((sum, x, s) => sum + x * theta[s]!, 0), 1);
    evidence += w;
    if (retrieved >= 0.8) automatic += w;
    theta.forEach((t, s) => (shares[s] = shares[s]! + w * t));
  }
  return { evidence: evidence / draws, automatic: automatic / evidence, shares: shares.map((s) => s / evidence) };
}

describe('the exact posterior', () => {
  it.each([
    [8, 0],
    [15, 1],
    [20, 2],
  ])('agrees with sampling at grid point %i under scatter %i', (z, scatter) => {
    const exact = factPosterior(account(ANSWERS), scatter, OTHERS, onlyAt(z));
    const sampled = bySampling(z, scatter, ANSWERS, 30_000, 5 + z);
    expect(exact.pAutomatic).toBeCloseTo(sampled.automatic, 1);
    exact.shares.forEach((share, s) => expect(share).toBeCloseTo(sampled.shares[s]!, 1));
  });

  it('has evidence in the right proportions between grid points', () => {
    const exact = likelihoodOn(account(ANSWERS), 1);
    const [a, b] = [10, 20].map((z) => bySampling(z, 1, ANSWERS, 30_000, 77).evidence) as [number, number];
    expect(exact[10]! / exact[20]!).toBeCloseTo(a / b, 1);
  });

  it('without answers says what the prior says', () => {
    likelihoodOn(account([]), USUAL_SCATTER).forEach((x) => expect(x).toBeCloseTo(1, 12));
    Z_GRID.forEach((z, g) => {
      const know = 1 / (1 + Math.exp(-z));
      const { shares } = factPosterior(account([]), USUAL_SCATTER, OTHERS, onlyAt(g));
      expect(shares[0]).toBeCloseTo(know, 10);
      expect(shares[2]).toBeCloseTo(0.6 * (1 - know), 10);
    });
  });

  it('shares sum to one, and neither scale nor order of the answers matters', () => {
    const prior = Float64Array.from(Z_GRID, (z) => Math.exp(-0.1 * z * z));
    const exact = factPosterior(account(ANSWERS), 1, OTHERS, prior);
    expect(exact.shares.reduce((x, y) => x + y, 0)).toBeCloseTo(1, 10);
    for (const other of [
      ANSWERS.map(([a, b, c, d]): Likelihood => [a * 1e-40, b * 1e-40, c * 1e-40, d * 1e-40]),
      [...ANSWERS].reverse(),
    ]) {
      expect(factPosterior(account(other), 1, OTHERS, prior).pAutomatic).toBeCloseTo(exact.pAutomatic, 10);
    }
  });

  it('averages posteriors as their mixture', () => {
    const [a, b] = [0, 2].map((scatter) => factPosterior(account(ANSWERS), scatter, OTHERS, onlyAt(18))) as [
      FactPosterior,
      FactPosterior,
    ];
    const both = averaged([
      { weight: 3, posterior: a },
      { weight: 1, posterior: b },
    ]);
    expect(both.pAutomatic).toBeCloseTo(0.75 * a.pAutomatic + 0.25 * b.pAutomatic, 12);
    expect(both.shares.reduce((x, y) => x + y, 0)).toBeCloseTo(1, 10);
    // Within each, and between the two.
    expect(both.variance).toBeCloseTo(
      0.75 * a.variance + 0.25 * b.variance + 0.75 * 0.25 * (a.shares[0] - b.shares[0]) ** 2,
      12,
    );
  });

  it('moves a likelihood along the grid', () => {
    const log = Float64Array.from(Z_GRID, (z) => -0.5 * z * z);
    const moved = (shift: number): Float64Array => {
      const sum = Float64Array.from(Z_GRID, () => 1);
      addShifted(log, shift, sum);
      return sum.map((x) => x - 1);
    };
    moved(0).forEach((x, g) => expect(x).toBeCloseTo(log[g]!, 12));
    // Lower by 1.2 then: what fitted z = 0 then fits z = 1.2 today.
    const top = (x: Float64Array): number => x.indexOf(Math.max(...x));
    expect(top(moved(1.2))).toBe(top(log) + 2);
    // Half a step: half way between two points; what lies beyond the grid is as its edge.
    expect(moved(0.3)[10]).toBeCloseTo((log[9]! + log[10]!) / 2, 12);
    expect(moved(0.3)[0]).toBeCloseTo(log[0]!, 12);
  });
});

describe('special functions', () => {
  // Γ(1/2) = √π, Γ(5) = 4!, Stirling's series at 37.2; I_x(4, 1) = x⁴, I_x(1, 3) = 1 − (1 − x)³.
  it.each([
    [0.5, 0.5723649429247001],
    [5, 3.1780538303479458],
    [37.2, 96.43971016155726],
  ])('ln Γ(%d)', (x, value) => expect(logGamma(x)).toBeCloseTo(value, 7));
  it.each([
    [0.8, 4, 1, 0.4096],
    [0.5, 2, 2, 0.5],
    [0.25, 1, 3, 0.578125],
  ])('I_%d(%d, %d)', (x, a, b, value) => expect(incompleteBeta(x, a, b)).toBeCloseTo(value, 10));
  it('mirrors', () => expect(incompleteBeta(0.3, 2.5, 0.7)).toBeCloseTo(1 - incompleteBeta(0.7, 0.7, 2.5), 12));
  it('refuses what it is not defined for', () => expect(() => incompleteBeta(0.5, 0, 1)).toThrow(RangeError));
});
