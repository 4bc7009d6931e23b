import { seeded, normal } from '../random/random';
import type { Response } from '../record/response';
import { fitTimes, startTimes, timedAnswers, type Explains } from './fit';
import { densityAtLog, matching, median, momentsOf, quantile, sumOf } from './logNormal';
import { countTime, handSeconds, PRIOR, strategyTime, StrategyTimes, type ChildTimes } from './times';

const TIMES: ChildTimes = { hand: { tap: 1.2 }, retrieve: 0.6, pace: 0.7 };

describe('log-normal times', () => {
  it('matches mean and variance of a sum', () => {
    const moments = sumOf(momentsOf(1.2, 0.27), momentsOf(0.6, 0.38));
    const { mu, sigma } = matching(moments);
    const back = momentsOf(Math.exp(mu), sigma);
    expect(back.mean).toBeCloseTo(moments.mean, 10);
    expect(back.variance).toBeCloseTo(moments.variance, 10);
  });

  it('has a density that sums to one', () => {
    const time = matching(momentsOf(1.5, 0.4));
    let sum = 0;
    for (let t = 0.005; t < 30; t += 0.01) sum += densityAtLog(time, Math.log(t)) * 0.01;
    expect(sum).toBeCloseTo(1, 4);
  });

  it('refuses a time of no length', () => {
    expect(() => matching({ mean: 0, variance: 1 })).toThrow(RangeError);
  });

  it('finds quantiles as R does (type 7), and none of nothing', () => {
    expect(quantile([1, 2, 3, 4], 0.2)).toBeCloseTo(1.6);
    expect(median([3, 1, 2])).toBe(2);
    expect(median([])).toBeNull();
  });
});

describe('strategy times', () => {
  it('puts knowing before counting, and counting more later', () => {
    const means = [strategyTime(TIMES, 'tap', 'retrieve').mean, countTime(TIMES, 'tap', 3).mean, countTime(TIMES, 'tap', 6).mean];
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
      for (const d of new StrategyTimes(TIMES, 'tap').densities(seconds, { fromGreater: 2, all: 5 })) expect(d).toBeGreaterThan(0);
  });

  it('borrows the hand of another mode, or the prior’s', () => {
    expect(handSeconds(TIMES, 'spoken')).toBeCloseTo(1.2);
    expect(handSeconds({ ...TIMES, hand: {} }, 'tap')).toBe(PRIOR.hand.median);
  });
});

const row = (fact: string, kind: Response['kind'], seconds: number, i: number): Response => ({
  id: String(i).padStart(5, '0'),
  child: 'Odo',
  sitting: 's',
  shownAt: i * 1000,
  kind,
  fact,
  answerMode: 'tap',
  exposureMs: null,
  responseMs: seconds * 1000,
  given: '1',
  outcome: 'correct',
  sign: null,
  finerSigns: [],
  aid: 'none',
  void: '',
  flags: [],
});

/** Copies and counts alone: what they were is certain. */
const explains: Explains = ({ fact, seconds }, times) => Math.log(fact.kind === 'match' ? times.match(seconds) : times.counting(seconds, fact.answer));

describe('fitting a child’s times', () => {
  it('takes start values from the data', () => {
    const timed = timedAnswers(
      [1, 2, 3].map((n, i) => row(`match:${n}`, 'match', 2 + 0.1 * i, i)).concat(row('count:5:scatter', 'count', 2.1 * 1.05 + 0.55 + 5 * 0.8, 9)),
    );
    const start = startTimes(timed);
    expect(start.hand.tap).toBeCloseTo(2.1, 5);
    expect(start.pace).toBeCloseTo(0.8, 5);
  });

  it('falls back on the prior without any answer', () => {
    expect(startTimes([])).toMatchObject({ hand: {}, retrieve: PRIOR.retrieveOverHand.median * PRIOR.hand.median });
  });

  it.each([
    [0.8, 0.5, 11],
    [2.4, 1.1, 12],
  ])('recovers a hand of %d s and a pace of %d s (seed %i)', (hand, pace, seed) => {
    const random = seeded(seed);
    const spread = (median: number, sigma: number): number => median * Math.exp(sigma * normal(random));
    const rows = Array.from({ length: 60 }, (_, i) =>
      i % 2 === 0
        ? row('match:5', 'match', spread(hand, 0.25), i)
        : row(
            'count:6:scatter',
            'count',
            spread(hand, 0.25) + spread(0.55, 0.4) + Array.from({ length: 6 }, () => spread(pace, 0.28)).reduce((a, b) => a + b, 0),
            i,
          ),
    );
    const timed = timedAnswers(rows);
    const fitted = fitTimes(timed, startTimes(timed), explains);
    expect(Math.abs(Math.log((fitted.hand.tap ?? 0) / hand))).toBeLessThan(0.15);
    expect(Math.abs(Math.log(fitted.pace / pace))).toBeLessThan(0.15);
  });

  it('leaves out void, flagged and aided answers', () => {
    const bad: Response[] = [
      { ...row('match:1', 'match', 1, 0), void: 'spoiled' },
      { ...row('match:1', 'match', 1, 1), flags: ['hidden'] },
      { ...row('match:1', 'match', 1, 2), aid: 'prompt' },
      { ...row('match:1', 'match', 1, 3), responseMs: null },
    ];
    expect(timedAnswers(bad)).toEqual([]);
  });
});
