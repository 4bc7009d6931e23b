import fc from '../testing/property';
import { auc, balancedAccuracy, brier, calibrationError, type Judged01 } from './score';

const judgements = fc.array(fc.record({ p: fc.constantFrom(0, 0.1, 0.25, 0.5, 0.8, 1), truth: fc.boolean() }), {
  minLength: 1,
  maxLength: 60,
});

describe('scores', () => {
  const sure: Judged01[] = [
    { p: 1, truth: true },
    { p: 0, truth: false },
  ];

  it('are perfect for a judge that is always right and sure', () => {
    expect([brier(sure), calibrationError(sure), auc(sure), balancedAccuracy(sure)]).toEqual([0, 0, 1, 1]);
  });

  it('are those of a coin for a coin', () => {
    const coin = sure.map(({ truth }) => ({ p: 0.5, truth }));
    expect([brier(coin), calibrationError(coin), auc(coin), balancedAccuracy(coin)]).toEqual([0.25, 0, 0.5, 0.5]);
  });

  it('do not exist where there is nothing to score', () => {
    expect([brier([]), calibrationError([]), auc(sure.slice(0, 1)), balancedAccuracy(sure.slice(0, 1))]).toEqual([
      null,
      null,
      null,
      null,
    ]);
  });

  it('the area is the share of pairs in the right order, counted one by one', () => {
    fc.assert(
      fc.property(judgements, (all) => {
        const yes = all.filter((j) => j.truth);
        const no = all.filter((j) => !j.truth);
        const pairs = yes.flatMap((a) => no.map((b) => (a.p > b.p ? 1 : a.p === b.p ? 0.5 : 0)));
        const slow = pairs.length === 0 ? null : pairs.reduce<number>((sum, x) => sum + x, 0) / pairs.length;
        const fast = auc(all);
        if (slow === null) expect(fast).toBeNull();
        else expect(fast).toBeCloseTo(slow, 10);
      }),
    );
  });

  it('over-sure probabilities cost calibration', () => {
    const often = Array.from({ length: 10 }, (_, i) => ({ p: 0.95, truth: i < 7 }));
    expect(calibrationError(often)).toBeCloseTo(0.25, 10);
  });
});
