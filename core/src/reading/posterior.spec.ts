import type { Likelihood } from './likelihood';
import {
  sequenceLikelihood,
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
  type LikelihoodTerm,
} from './posterior';

const ANSWERS: Likelihood[] = [
  [0.9, 0.2, 0.05, 0.1],
  [0.1, 0.3, 0.8, 0.2],
  [0.7, 0.1, 0.2, 0.05],
  [0.02, 0.1, 0.6, 0.3],
];
const OTHERS: Others = [0.25, 0.6, 0.15];
const account = (answers: readonly Likelihood[]): LikelihoodTerm[] => [
  { account: sequenceLikelihood(answers, new Splitting(OTHERS)), weight: null },
];

/** Prior weights at one point of the grid alone. */
const onlyAt = (z: number): Float64Array => Float64Array.from(Z_GRID, (_, g) => Number(g === z));

/** x (x + 1) … (x + n − 1). */
const risingProduct = (x: number, n: number): number =>
  Array.from({ length: n }, (_, i) => x + i).reduce((product, factor) => product * factor, 1);

/** P(share ≥ x) under Beta(a, b) with whole a and b, as the sum of a binomial: no special function. */
function betaAbove(x: number, a: number, b: number): number {
  const n = a + b - 1;
  let choose = 1;
  let above = 0;
  for (let j = 0; j < a; j++) {
    above += choose * x ** j * (1 - x) ** (n - j);
    choose *= (n - j) / (j + 1);
  }
  return above;
}

/**
 * The model written out (docs/model.md): Beta priors of the share retrieved at each scatter, and a Dirichlet of concentration three around the child's split of
 * the rest. All numbers are the document's, none is read from the code.
 */
const PRIORS = (know: number): readonly { a: number; b: number }[] => {
  const worth = (answers: number, mean: number) => ({ a: answers * mean, b: answers * (1 - mean) });
  const slowly = Math.min(1, Math.max(0, (know - 0.15) / 0.7));
  const atOnce = Math.min(1, Math.max(0, (know - 0.35) / 0.3));
  return [
    worth(2, know),
    worth(12, know),
    worth(40, know),
    worth(200, 0.04 + 0.86 * slowly),
    worth(200, 0.03 + 0.94 * slowly),
    worth(200, 0.04 + 0.86 * atOnce),
    worth(200, 0.03 + 0.94 * atOnce),
  ];
};
const CONCENTRATION = 3;

/** Sums over all 4ⁿ ways to say which answer came by which strategy: slow, and obviously right. @param known how many answers, the first ones, were given when the fact was learned */
function byEnumeration(know: number, scatter: number, answers: readonly Likelihood[], known = answers.length) {
  const m = answers.length;
  let evidence = 0;
  let automatic = 0;
  let squared = 0;
  const shares = [0, 0, 0, 0];
  for (let assignment = 0; assignment < 4 ** m; assignment++) {
    const used = [0, 0, 0, 0];
    let likelihood = 1;
    answers.forEach((answer, i) => {
      const strategy = Math.floor(assignment / 4 ** i) % 4;
      used[strategy]!++;
      likelihood *= strategy === 0 && i >= known ? 0 : answer[strategy]!;
    });
    const k = used[0]!;
    const rest = m - k;
    const split =
      OTHERS.reduce((product, share, s) => product * risingProduct(CONCENTRATION * share, used[s + 1]!), 1) /
      risingProduct(CONCENTRATION, rest);
    if (likelihood === 0) continue;
    const { a, b } = PRIORS(know)[scatter]!;
    const w = (likelihood * split * risingProduct(a, k) * risingProduct(b, known - k)) / risingProduct(a + b, known);
    const mean = (a + k) / (a + b + known);
    evidence += w;
    automatic += w * betaAbove(0.8, Math.round(a) + k, Math.round(b) + known - k);
    squared += (w * mean * (a + k + 1)) / (a + b + known + 1);
    shares[0]! += w * mean;
    OTHERS.forEach((share, s) => {
      shares[s + 1]! += (w * (1 - mean) * (CONCENTRATION * share + used[s + 1]!)) / (CONCENTRATION + rest);
    });
  }
  const mean = shares.map((share) => share / evidence);
  return { evidence, automatic: automatic / evidence, shares: mean, variance: squared / evidence - mean[0]! ** 2 };
}

describe('the exact posterior', () => {
  // At z = 0 all parameters of all scatters are whole numbers, so that P(share ≥ 0.8) is a sum of terms; elsewhere it is not looked at.
  const MIDDLE = Z_GRID.findIndex((z) => Math.abs(z) < 1e-9);
  const knowAt = (g: number): number => 1 / (1 + Math.exp(-Z_GRID[g]!));

  it.each(SCATTERS.map((_, scatter) => scatter))(
    'is that of plain enumeration, scatter %i: chance of automatic',
    (scatter) => {
      for (let n = 0; n <= ANSWERS.length; n++) {
        const answers = ANSWERS.slice(0, n);
        const exact = factPosterior(account(answers), scatter, OTHERS, onlyAt(MIDDLE));
        expect(exact.pAutomatic).toBeCloseTo(byEnumeration(0.5, scatter, answers).automatic, 12);
      }
    },
  );

  it.each(SCATTERS.flatMap((_, scatter) => [3, 11, 15, 20, 27].map((g) => [scatter, g])))(
    'is that of plain enumeration, scatter %i, grid point %i: shares, spread and likelihood',
    (scatter, g) => {
      const slow = byEnumeration(knowAt(g), scatter, ANSWERS);
      const exact = factPosterior(account(ANSWERS), scatter, OTHERS, onlyAt(g));
      exact.shares.forEach((share, s) => expect(share).toBeCloseTo(slow.shares[s]!, 12));
      expect(exact.variance).toBeCloseTo(slow.variance, 12);
      const [here, middle] = [likelihoodOn(account(ANSWERS), scatter)[g]!, likelihoodOn(account(ANSWERS), 1)[MIDDLE]!];
      expect(here / middle / (slow.evidence / byEnumeration(0.5, 1, ANSWERS).evidence)).toBeCloseTo(1, 12);
    },
  );

  it.each([0, 1, 2, 3])(
    'holds for a fact learned with the newest %i answers behind it, none retrieved before',
    (known) => {
      const splitting = new Splitting(OTHERS);
      const said: LikelihoodTerm[] = [{ account: sequenceLikelihood(ANSWERS, splitting, known), weight: null }];
      for (const scatter of [1, 4]) {
        const slow = byEnumeration(0.5, scatter, ANSWERS, known);
        const exact = factPosterior(said, scatter, OTHERS, onlyAt(MIDDLE));
        expect(exact.pAutomatic).toBeCloseTo(slow.automatic, 12);
        exact.shares.forEach((share, s) => expect(share).toBeCloseTo(slow.shares[s]!, 12));
        // On the scale of the unchanged account, so that one can be weighed against the other.
        const whole = byEnumeration(0.5, scatter, ANSWERS);
        const ratio = likelihoodOn(said, scatter)[MIDDLE]! / likelihoodOn(account(ANSWERS), scatter)[MIDDLE]!;
        expect(ratio / (slow.evidence / whole.evidence)).toBeCloseTo(1, 12);
      }
    },
  );

  it('mixes the ways in which answers may have come about by their weights', () => {
    const splitting = new Splitting(OTHERS);
    const ways = [2, 4].map((known) => sequenceLikelihood(ANSWERS, splitting, known));
    const half = (share: number) => Float64Array.from(Z_GRID, () => share);
    const mixed = factPosterior(
      ways.map((one, i) => ({ account: one, weight: half([0.3, 0.7][i]!) })),
      1,
      OTHERS,
      onlyAt(MIDDLE),
    );
    const each = ways.map((one) => factPosterior([{ account: one, weight: null }], 1, OTHERS, onlyAt(MIDDLE)));
    const w = ways.map((one, i) => [0.3, 0.7][i]! * likelihoodOn([{ account: one, weight: null }], 1)[MIDDLE]!);
    const expected = (w[0]! * each[0]!.pAutomatic + w[1]! * each[1]!.pAutomatic) / (w[0]! + w[1]!);
    expect(mixed.pAutomatic).toBeCloseTo(expected, 12);
  });

  it('is a number even where the answers are beyond all numbers', () => {
    const never: LikelihoodTerm[] = [
      { account: { m: 1, n: 1, ways: new Float64Array(2), split: new Float64Array(6) }, weight: null },
    ];
    const prior = onlyAt(MIDDLE);
    expect(factPosterior(never, 1, OTHERS, prior)).toEqual(factPosterior(account([]), 1, OTHERS, prior));
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
