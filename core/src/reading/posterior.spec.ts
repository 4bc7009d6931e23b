import { seeded, gamma } from '../random/random';
import { incompleteBeta, logGamma } from './incompleteBeta';
import { levelOf } from './level';
import type { Likelihood } from './likelihood';
import { factEvidence, NEWEST, Z_GRID } from './posterior';

const LIKELY: Likelihood[] = [
  [0.9, 0.2, 0.05, 0.1],
  [0.1, 0.3, 0.8, 0.2],
  [0.7, 0.1, 0.2, 0.05],
  [0.02, 0.1, 0.6, 0.3],
];

/** The posterior by chance alone: draws θ from the prior and weighs it by the likelihood of all answers. Slow, and obviously right. */
function bySampling(z: number, answers: readonly Likelihood[], draws: number, seed: number): { evidence: number; automatic: number; shares: number[] } {
  const random = seeded(seed);
  const know = 1 / (1 + Math.exp(-z));
  const alpha = [5 * know, 5 * (1 - know) * 0.25, 5 * (1 - know) * 0.6, 5 * (1 - know) * 0.15];
  let evidence = 0;
  let automatic = 0;
  const shares = [0, 0, 0, 0];
  for (let i = 0; i < draws; i++) {
    const g = alpha.map((a) => gamma(random, a, 1));
    const total = g.reduce((a, b) => a + b, 0);
    const theta = g.map((x) => x / total);
    const w = answers.reduce((product, l) => product * l.reduce((sum, x, s) => sum + x * (theta[s] ?? 0), 0), 1);
    evidence += w;
    if ((theta[0] ?? 0) >= 0.8) automatic += w;
    theta.forEach((t, s) => (shares[s] = (shares[s] ?? 0) + w * t));
  }
  return { evidence: evidence / draws, automatic: automatic / evidence, shares: shares.map((s) => s / evidence) };
}

describe('the exact posterior', () => {
  it.each([8, 15, 20])('agrees with sampling at grid point %i', (z) => {
    const exact = factEvidence(LIKELY);
    const reference = factEvidence([]);
    const sampled = bySampling(Z_GRID[z] ?? 0, LIKELY, 25_000, 5 + z);
    expect(reference.n).toBe(0);
    expect(exact.automatic[z]).toBeCloseTo(sampled.automatic, 1);
    exact.shares.forEach((share, s) => expect(share[z]).toBeCloseTo(sampled.shares[s] ?? 0, 1));
  });

  it('has evidence in the right proportions between grid points', () => {
    const exact = factEvidence(LIKELY);
    const [a, b] = [10, 20].map((z) => bySampling(Z_GRID[z] ?? 0, LIKELY, 25_000, 77).evidence);
    expect((exact.evidence[10] ?? 0) / (exact.evidence[20] ?? 1)).toBeCloseTo((a ?? 0) / (b ?? 1), 1);
  });

  it('without answers says what the prior says', () => {
    const none = factEvidence([]);
    Z_GRID.forEach((z, i) => {
      const know = 1 / (1 + Math.exp(-z));
      expect(none.shares[0]?.[i]).toBeCloseTo(know, 10);
      expect(none.evidence[i]).toBe(1);
    });
  });

  it('does not care how likelihoods are scaled, nor in what order the answers came', () => {
    const scaled = factEvidence(LIKELY.map(([a, b, c, d]) => [a * 1e-40, b * 1e-40, c * 1e-40, d * 1e-40]));
    const turned = factEvidence([...LIKELY].reverse());
    const exact = factEvidence(LIKELY);
    exact.automatic.forEach((p, i) => {
      expect(scaled.automatic[i]).toBeCloseTo(p, 10);
      expect(turned.automatic[i]).toBeCloseTo(p, 10);
    });
  });

  it('uses the newest answers when there are many', () => {
    const many = Array.from({ length: 40 }, (_, i): Likelihood => (i < 28 ? [0, 0, 1, 0] : [1, 0, 0, 0]));
    const result = factEvidence(many);
    expect(result.n).toBe(NEWEST);
    expect(result.automatic[15]).toBeGreaterThan(0.7);
    expect(factEvidence([...many].reverse()).automatic[15]).toBeLessThan(0.001);
  });
});

describe('the level', () => {
  it('leaves a fact’s own answers out of its own prior', () => {
    const quick = factEvidence(Array.from({ length: 6 }, (): Likelihood => [1, 0.05, 0.01, 0.05]));
    const slow = factEvidence(Array.from({ length: 6 }, (): Likelihood => [0.01, 0.1, 1, 0.2]));
    const level = levelOf([
      { ease: 0, evidence: quick },
      { ease: 0, evidence: slow },
    ]);
    const mean = (w: Float64Array): number => w.reduce((sum, p, i) => sum + p * (Z_GRID[i] ?? 0), 0);
    // The quick fact's prior comes from the slow one, and the other way round.
    expect(mean(level.priorFor(0, 0))).toBeLessThan(-0.5);
    expect(mean(level.priorFor(0, 1))).toBeGreaterThan(0.5);
    expect(mean(level.priorFor(1, null))).toBeGreaterThan(mean(level.priorFor(-1, null)));
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
