import { seeded, normal } from '../random/random';
import { fitTimes, startTimes, type Timed } from './fit';
import { countTime, handSeconds, matchTime, PRIOR, strategyTime, StrategyTimes, type ChildTimes } from './times';

const TIMES: ChildTimes = {
  hand: { tap: 1.2 },
  retrieve: 0.6,
  pace: 0.7,
  unevenness: 1,
  countsAll: 0.3,
  lapseRate: 0.05,
  lapseSeconds: 5,
};

describe('strategy times', () => {
  it('puts knowing before counting, and counting more later', () => {
    const means = [
      strategyTime(TIMES, 'tap', 'retrieve').mean,
      countTime(TIMES, 'tap', 3).mean,
      countTime(TIMES, 'tap', 6).mean,
    ];
    expect(means[0]).toBeLessThan(means[1] ?? 0);
    expect(means[1]).toBeLessThan(means[2] ?? 0);
  });

  it('finds a quick answer likelier known and a slow one likelier counted', () => {
    const times = new StrategyTimes(TIMES, 'tap');
    const [knownQuick, , countedQuick] = times.densities(1.7, { fromGreater: 4, all: 9 });
    const [knownSlow, , countedSlow] = times.densities(5, { fromGreater: 4, all: 9 });
    expect(knownQuick).toBeGreaterThan(10 * countedQuick);
    expect(countedSlow).toBeGreaterThan(3 * knownSlow);
  });

  it('never finds an answer impossible, however long it took', () => {
    for (const seconds of [0.01, 30, 600])
      for (const d of new StrategyTimes(TIMES, 'tap').densities(seconds, { fromGreater: 2, all: 5 }))
        expect(d).toBeGreaterThan(0);
  });

  it('knows a lapse by its length, and counting all by its time', () => {
    const times = new StrategyTimes(TIMES, 'tap');
    const steps = { fromGreater: 2, all: 8 };
    const explain = (seconds: number): Float64Array => {
      const out = new Float64Array(9);
      times.explain(seconds, steps, out);
      return out;
    };
    expect(explain(1.7)[4]).toBeLessThan(0.05);
    expect(explain(9)[4]).toBeGreaterThan(0.9);
    expect(explain(3.1)[8]).toBeLessThan(0.05);
    expect(explain(7.5)[8]).toBeGreaterThan(0.8);
    times.densities(4, steps).forEach((density, s) => expect(explain(4)[s]).toBeCloseTo(density, 12));
  });

  it('takes the hand of the way of answering, in every strategy', () => {
    const two: ChildTimes = { ...TIMES, hand: { tap: 1.2, spoken: 2.4 } };
    expect([handSeconds(two, 'tap'), handSeconds(two, 'spoken')]).toEqual([1.2, 2.4]);
    for (const mean of [
      (mode: 'tap' | 'spoken') => matchTime(two, mode).mean,
      (mode: 'tap' | 'spoken') => strategyTime(two, mode, 'retrieve').mean,
      (mode: 'tap' | 'spoken') => strategyTime(two, mode, 'derive').mean,
      (mode: 'tap' | 'spoken') => strategyTime(two, mode, 'guess').mean,
      (mode: 'tap' | 'spoken') => countTime(two, mode, 4).mean,
    ])
      expect(mean('spoken') - mean('tap')).toBeGreaterThan(1.1);
    // A number copied in 2.4 s is usual for one hand, and not for the other.
    const copied = (mode: 'tap' | 'spoken'): number => new StrategyTimes(two, mode).match(2.4);
    expect(copied('spoken')).toBeGreaterThan(3 * copied('tap'));
  });

  it('borrows the hand of another mode, or the prior’s', () => {
    expect(handSeconds(TIMES, 'spoken')).toBeCloseTo(1.2);
    expect(handSeconds({ ...TIMES, hand: {} }, 'tap')).toBe(PRIOR.hand.median);
  });
});

const timed = (
  what: Timed['what'],
  seconds: number,
  items: number,
  weights: Timed['weights'] = [0, 0, 1, 0],
): Timed => ({
  what,
  mode: 'tap',
  seconds,
  source: 'tap',
  shift: 0,
  steps: { fromGreater: items, all: items },
  weights,
});

describe('fitting a child’s times', () => {
  it('takes start values from the data', () => {
    const answers = [2, 2.1, 2.2]
      .map((seconds) => timed('copy', seconds, 0))
      .concat(timed('count', 2.1 * 1.05 + 0.55 + 5 * 0.8, 5));
    const start = startTimes(answers, PRIOR);
    expect(start.hand.tap).toBeCloseTo(2.1, 5);
    expect(start.pace).toBeCloseTo(0.8, 5);
  });

  it('falls back on the prior without any answer', () => {
    expect(startTimes([], PRIOR)).toMatchObject({
      hand: {},
      retrieve: PRIOR.retrieveOverHand.median * PRIOR.hand.median,
    });
    expect(fitTimes([], startTimes([], PRIOR), PRIOR, 3)).toEqual(startTimes([], PRIOR));
  });

  it.each([
    [0.8, 0.5, 11],
    [2.4, 1.1, 12],
  ])('recovers a hand of %d s and a pace of %d s (seed %i)', (hand, pace, seed) => {
    const random = seeded(seed);
    const spread = (median: number, sigma: number): number => median * Math.exp(sigma * normal(random));
    const sum = (n: number): number => Array.from({ length: n }, () => spread(pace, 0.28)).reduce((x, y) => x + y, 0);
    const answers = Array.from({ length: 60 }, (_, i) =>
      i % 2 === 0
        ? timed('copy', spread(hand, 0.25), 0)
        : timed('count', spread(hand, 0.25) + spread(0.55, 0.4) + sum(6), 6),
    );
    const fitted = fitTimes(answers, startTimes(answers, PRIOR), PRIOR, 5);
    expect(Math.abs(Math.log((fitted.hand.tap ?? 0) / hand))).toBeLessThan(0.15);
    expect(Math.abs(Math.log(fitted.pace / pace))).toBeLessThan(0.15);
  });

  it('finds how long fetching takes among answers of unknown strategy (seed 5)', () => {
    const random = seeded(5);
    const spread = (median: number, sigma: number): number => median * Math.exp(sigma * normal(random));
    const answers = Array.from({ length: 90 }, (_, i) =>
      i % 3 === 0
        ? timed('copy', spread(1.1, 0.25), 0)
        : timed('fact', spread(1.1, 0.25) + spread(0.9, 0.35), 4, [0.8, 0.05, 0.1, 0.05]),
    );
    const fitted = fitTimes(answers, startTimes(answers, PRIOR), PRIOR, 5);
    expect(Math.abs(Math.log(fitted.retrieve / 0.9))).toBeLessThan(0.25);
  });
});
