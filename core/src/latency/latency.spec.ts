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
    const [knownQuick, , countedQuick] = times.explain(1.7, { fromGreater: 4, all: 9 }).densities;
    const [knownSlow, , countedSlow] = times.explain(5, { fromGreater: 4, all: 9 }).densities;
    expect(knownQuick).toBeGreaterThan(10 * countedQuick);
    expect(countedSlow).toBeGreaterThan(3 * knownSlow);
  });

  it('never finds an answer impossible, however long it took', () => {
    for (const seconds of [0.01, 30, 600])
      for (const d of new StrategyTimes(TIMES, 'tap').explain(seconds, { fromGreater: 2, all: 5 }).densities)
        expect(d).toBeGreaterThan(0);
  });

  it('knows a lapse by its length, and counting all by its time', () => {
    const times = new StrategyTimes(TIMES, 'tap');
    const steps = { fromGreater: 2, all: 8 };
    const explain = (seconds: number) => times.explain(seconds, steps);
    expect(explain(1.7).lapses[0]).toBeLessThan(0.05);
    expect(explain(9).lapses[0]).toBeGreaterThan(0.9);
    expect(explain(3.1).countedAll).toBeLessThan(0.05);
    expect(explain(7.5).countedAll).toBeGreaterThan(0.8);
  });

  it('mixes the densities of the strategies by their weights', () => {
    const times = new StrategyTimes(TIMES, 'tap');
    const steps = { fromGreater: 2, all: 8 };
    const { densities } = times.explain(4, steps);
    const weights = [0.4, 0.3, 0.2, 0.1] as const;
    const mixed = densities.reduce((sum, density, s) => sum + density * weights[s]!, 0);
    expect(times.mixture(4, steps, weights)).toBeCloseTo(mixed, 12);
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

  it('is later by the shift of what it went through, and more uneven where the child is', () => {
    const [usual, late] = [matchTime(TIMES, 'tap'), matchTime(TIMES, 'tap', Math.log(2))];
    expect(late.mean / usual.mean).toBeCloseTo(2, 10);
    const uneven: ChildTimes = { ...TIMES, unevenness: 2 };
    const spread = ({ mean, variance }: { mean: number; variance: number }): number => Math.sqrt(variance) / mean;
    expect(spread(matchTime(uneven, 'tap')) / spread(usual)).toBeGreaterThan(1.9);
    // Fetching is uneven too: what it adds to the hand alone.
    const fetching = (times: ChildTimes): number =>
      strategyTime(times, 'tap', 'retrieve').variance - matchTime(times, 'tap').variance;
    expect(fetching(uneven) / fetching(TIMES)).toBeGreaterThan(3.9);
  });

  it('adds fetching to the hand, working out to fetching, and a guess to the hand alone', () => {
    const mean = (strategy: 'retrieve' | 'derive' | 'guess'): number => strategyTime(TIMES, 'tap', strategy).mean;
    const hand = matchTime(TIMES, 'tap').mean;
    // A median of 0.6 s with a spread of 0.38, of 1.5 s with 0.4, of 1 s with 0.65: means of log-normal times.
    expect(mean('retrieve') - hand).toBeCloseTo(0.6 * Math.exp(0.38 ** 2 / 2), 10);
    expect(mean('derive') - mean('retrieve')).toBeCloseTo(1.5 * Math.exp(0.4 ** 2 / 2), 10);
    expect(mean('guess') - hand).toBeCloseTo(Math.exp(0.65 ** 2 / 2), 10);
  });

  it('tells a lapse in a counted answer by both ways of counting, each as likely as its time makes it', () => {
    const times = new StrategyTimes(TIMES, 'tap');
    const explain = (fromGreater: number, all: number) => times.explain(6.5, { fromGreater, all });
    const [on, all, both] = [explain(2, 2), explain(8, 8), explain(2, 8)];
    const lapse = ({ lapses }: ReturnType<typeof explain>): number => lapses[2];
    const density = ({ densities }: ReturnType<typeof explain>): number => densities[2];
    expect(lapse(both)).toBeCloseTo((1 - both.countedAll) * lapse(on) + both.countedAll * lapse(all), 12);
    expect(density(both)).toBeCloseTo(0.7 * density(on) + 0.3 * density(all), 12);
    expect(both.countedAll).toBeCloseTo((0.3 * density(all)) / density(both), 12);
    expect(lapse(on) - lapse(all)).toBeGreaterThan(0.1);
  });

  it('borrows the hand of another mode, or the prior’s', () => {
    expect(handSeconds({ ...TIMES, hand: { tap: 1, pad: 4 } }, 'spoken')).toBeCloseTo(2, 10);
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
  sitting: 0,
  within: 0.5,
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

  it('takes a hand from three copies, and from the quickest answers where there are fewer', () => {
    const fact = (seconds: number, mode: Timed['mode'] = 'tap'): Timed => ({ ...timed('fact', seconds, 4), mode });
    const copies = (...all: number[]): Timed[] => all.map((seconds) => timed('copy', seconds, 0));
    expect(startTimes([...copies(2, 2.5, 3), fact(0.9), fact(1)], PRIOR).hand.tap).toBeCloseTo(2.5, 10);
    // The 20th percentile of 1, 2, 3, 4 and 5 lies four fifths of the way from 1 to 2, as logarithms do; fetching adds nearly half.
    const few = startTimes([...copies(2, 3), fact(1), fact(4), fact(5)], PRIOR);
    expect(few.hand.tap).toBeCloseTo(2 ** 0.8 / 1.45, 10);
    expect(few).toMatchObject({ retrieve: 0.5 * few.hand.tap!, pace: 0.6 * few.hand.tap!, unevenness: 1 });
    const two = startTimes([...copies(2, 2, 2), ...[1, 2, 3, 4, 5].map((s) => fact(s, 'spoken'))], PRIOR);
    expect(Object.keys(two.hand).sort()).toEqual(['spoken', 'tap']);
    expect(two.hand.tap).toBeCloseTo(2, 10);
    expect(two.hand.spoken).toBeCloseTo(2 ** 0.8 / 1.45, 10);
    expect(two.retrieve).toBeCloseTo((0.5 * (2 + 2 ** 0.8 / 1.45)) / 2, 10);
  });

  it('takes a pace from what was counted alone, by the hand it was answered with', () => {
    const spoken = (one: Timed): Timed => ({ ...one, mode: 'spoken', source: 'spoken' });
    const counted = (hand: number, pace: number): Timed => timed('count', hand * 1.05 + 0.55 + 5 * pace, 5);
    const answers = [
      ...[2, 2, 2].map((seconds) => timed('copy', seconds, 0)),
      ...[4, 4, 4].map((seconds) => spoken(timed('copy', seconds, 0))),
      spoken(counted(4, 0.8)),
      spoken(counted(4, 0.9)),
      counted(2, 1),
      // No pace: a fact, nothing to count, and quicker than the hand allows.
      timed('fact', 30, 5),
      timed('count', 30, 0),
      timed('count', 1, 5),
    ];
    expect(startTimes(answers, PRIOR).pace).toBeCloseTo(0.9, 10);
  });

  it('without answers comes to what is usual for the hand', () => {
    const start = { ...startTimes([], PRIOR), hand: { tap: 2, pad: 2 }, retrieve: 3, pace: 4, unevenness: 2 };
    const fitted = fitTimes([], start, PRIOR, 30);
    expect(fitted.hand).toEqual({ tap: 2, pad: 2 });
    expect([fitted.retrieve, fitted.pace, fitted.unevenness].map((x) => Number(x.toFixed(2)))).toEqual([1, 1.2, 1]);
  });

  it('leaves a hand that was given where it is, and adds those that were not', () => {
    const answers = [
      ...[2, 2, 2].map((seconds) => timed('copy', seconds, 0)),
      ...[3, 3, 3].map((seconds): Timed => ({ ...timed('copy', seconds, 0), mode: 'pad', source: 'pad' })),
    ];
    const start = { ...startTimes([], PRIOR), hand: { tap: 1 } };
    const { tap, pad } = fitTimes(answers, start, PRIOR, 0).hand;
    expect(tap).toBe(1);
    expect(pad).toBeCloseTo(3, 10);
    expect(fitTimes(answers, { ...start, hand: { tap: 1, pad: 1 } }, PRIOR, 0).hand).toEqual({ tap: 1, pad: 1 });
  });

  it('weighs one copy against what is usual of hands: 3 s where 1.22 s is usual lie at about 2.5 s', () => {
    const start = { ...startTimes([], PRIOR), hand: { tap: 1.22 } };
    const { hand } = fitTimes([timed('copy', 3, 0)], start, PRIOR, 12);
    expect(hand.tap).toBeGreaterThan(2.2);
    expect(hand.tap).toBeLessThan(2.75);
  });

  it.each([
    ['fetched', [1, 0, 0, 0], 0.6],
    ['worked out', [0, 1, 0, 0], 0.6 + 1.55],
    ['guessed', [0, 0, 0, 1], 1.2],
    ['counted', [0, 0, 1, 0], 0.6 + 4 * 0.7],
    ['fetched or guessed', [0.5, 0, 0, 0.5], 0.8],
  ] as const)('finds a slow hand from a poor start when all is %s', (_, weights, more) => {
    const answers = Array.from({ length: 40 }, (_, i) =>
      timed('fact', (3 + more) * (1 + 0.02 * ((i % 9) - 4)), 4, weights),
    );
    const start: ChildTimes = { ...TIMES, hand: { tap: 1.2 } };
    const { hand } = fitTimes(answers, start, PRIOR, 12);
    // It began a factor of two and a half away.
    expect(Math.abs(Math.log(hand.tap! / 3))).toBeLessThan(0.45);
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
