import type { CountingSteps } from '../facts/counting';
import type { AnswerMode } from '../record/response';
import { densityAtLog, fentonWilkinson, momentsOf, sumOf, type LogNormal, type Moments } from '../statistics/logNormal';

/**
 * One child's times, in seconds (docs/model.md, "Time"). Medians of log-normal parts:
 * `hand` by answer mode: answering with nothing to work out; `retrieve`: fetching a known fact; `pace`: counting one item.
 */
export interface ChildTimes {
  readonly hand: Readonly<Partial<Record<AnswerMode, number>>>;
  readonly retrieve: number;
  readonly pace: number;
  /** How uneven the child's times are, as a multiple of the usual spread. */
  readonly unevenness: number;
  /** Share of counted answers that count all rather than on from the greater. */
  readonly countsAll: number;
  /** Share of answers that began after looking away, and how long that took (seconds). */
  readonly lapseRate: number;
  readonly lapseSeconds: number;
}

/** What children of a class have in common in one of their times: median in seconds or ratio, and standard deviation of its logarithm between children. */
export interface Shared {
  readonly median: number;
  readonly sd: number;
}
export interface SharedTimes {
  readonly hand: Shared;
  readonly retrieveOverHand: Shared;
  readonly paceOverHand: Shared;
  readonly unevenness: Shared;
}

/** Hyper-prior means before anything is known about the class. */
export const PRIOR: SharedTimes = {
  hand: { median: 1.22, sd: 0.5 },
  retrieveOverHand: { median: 0.5, sd: 0.4 },
  paceOverHand: { median: 0.6, sd: 0.35 },
  unevenness: { median: 1, sd: 0.3 },
};

/** Within-child spreads (standard deviation of the logarithm) and the parts that are not fitted: from trials with a prototype (docs/model.md, "Time"). */
const HAND_SPREAD = 0.27;
const RETRIEVE_SPREAD = 0.38;
const START = { median: 0.55, sigma: 0.4 };
const DERIVE = { median: 1.5, sigma: 0.4 };
const GUESS = { median: 1.0, sigma: 0.65 };
/** Spread of one counted item's time, as a share of the pace. */
const PACE_SPREAD = 0.3;

/** Lapses before a child's and a class's own are known; their spread as a share of their length; and a floor for what nothing explains (per second). */
export const LAPSE = { rate: 0.05, seconds: 5 } as const;
const LAPSE_SPREAD = 0.8;
const FLOOR = 1e-5;
/** Share of counted answers that count all rather than on from the greater, before a child's own way is known. */
export const COUNTS_ALL = 0.3;

/** How a child comes to an answer. */
export const STRATEGIES = ['retrieve', 'derive', 'count', 'guess'] as const;
export type Strategy = (typeof STRATEGIES)[number];

/** The hand time in an answer mode. A mode without its own borrows the mean of the others, or the prior's. */
export function handSeconds(times: ChildTimes, mode: AnswerMode): number {
  const own = times.hand[mode];
  if (own !== undefined) return own;
  const others = Object.values(times.hand);
  return others.length === 0
    ? PRIOR.hand.median
    : Math.exp(others.reduce((sum, s) => sum + Math.log(s), 0) / others.length);
}

const handMoments = (times: ChildTimes, mode: AnswerMode, shift = 0): Moments =>
  momentsOf(handSeconds(times, mode) * Math.exp(shift), HAND_SPREAD * times.unevenness);

/** Time of an answer that needs no working out: a numeral to copy. */
export const matchTime = handMoments;

/** Time of counting `steps` items, or on by `steps`: hand, start of counting, and the pace for every step. */
export function countTime(times: ChildTimes, mode: AnswerMode, steps: number, shift = 0): Moments {
  const pace = { mean: steps * times.pace, variance: steps * (PACE_SPREAD * times.pace) ** 2 };
  return sumOf(handMoments(times, mode, shift), momentsOf(START.median, START.sigma), pace);
}

/** Time of an answer by a strategy other than counting. */
export function strategyTime(
  times: ChildTimes,
  mode: AnswerMode,
  strategy: Exclude<Strategy, 'count'>,
  shift = 0,
): Moments {
  const hand = handMoments(times, mode, shift);
  if (strategy === 'guess') return sumOf(hand, momentsOf(GUESS.median, GUESS.sigma));
  const known = sumOf(hand, momentsOf(times.retrieve, RETRIEVE_SPREAD * times.unevenness));
  return strategy === 'retrieve' ? known : sumOf(known, momentsOf(DERIVE.median, DERIVE.sigma));
}

/** A time with its lapsed twin: the same strategy, begun after looking away. */
interface WithLapse {
  readonly usual: LogNormal;
  readonly lapsed: LogNormal;
}

/** Densities of answering at a time, by strategy: made once for a child, mode and shift of the hand time (logarithm), and asked for every answer. */
export class StrategyTimes {
  readonly #retrieve: WithLapse;
  readonly #derive: WithLapse;
  readonly #guess: WithLapse;
  readonly #match: WithLapse;
  readonly #counts = new Map<number, WithLapse>();

  constructor(
    private readonly times: ChildTimes,
    private readonly mode: AnswerMode,
    private readonly shift = 0,
  ) {
    this.#retrieve = this.#withLapse(strategyTime(times, mode, 'retrieve', shift));
    this.#derive = this.#withLapse(strategyTime(times, mode, 'derive', shift));
    this.#guess = this.#withLapse(strategyTime(times, mode, 'guess', shift));
    this.#match = this.#withLapse(matchTime(times, mode, shift));
  }

  #withLapse(moments: Moments): WithLapse {
    const away = this.times.lapseSeconds;
    return {
      usual: fentonWilkinson(moments),
      lapsed: fentonWilkinson({ mean: moments.mean + away, variance: moments.variance + (LAPSE_SPREAD * away) ** 2 }),
    };
  }
  #density(time: WithLapse, logSeconds: number): number {
    const { lapseRate } = this.times;
    return (
      (1 - lapseRate) * densityAtLog(time.usual, logSeconds) + lapseRate * densityAtLog(time.lapsed, logSeconds) + FLOOR
    );
  }
  #countOf(steps: number): WithLapse {
    let time = this.#counts.get(steps);
    if (!time) this.#counts.set(steps, (time = this.#withLapse(countTime(this.times, this.mode, steps, this.shift))));
    return time;
  }

  /** Density per second of a numeral copied in this time. */
  match(seconds: number): number {
    return this.#density(this.#match, Math.log(seconds));
  }

  /** Density per second of counting this many steps in this time. */
  counting(seconds: number, steps: number): number {
    return this.#density(this.#countOf(steps), Math.log(seconds));
  }

  /** Densities per second in the order of STRATEGIES; counting is the mixture of both ways. */
  densities(seconds: number, steps: CountingSteps): [number, number, number, number] {
    const at = Math.log(seconds);
    const on = this.#density(this.#countOf(steps.fromGreater), at);
    const all = steps.all === steps.fromGreater ? on : this.#density(this.#countOf(steps.all), at);
    const { countsAll } = this.times;
    return [
      this.#density(this.#retrieve, at),
      this.#density(this.#derive, at),
      (1 - countsAll) * on + countsAll * all,
      this.#density(this.#guess, at),
    ];
  }

  /** Density of a time, and what part of it is a lapse, into `out` at `at` and `at` + 4. */
  #both(time: WithLapse, logSeconds: number, out: Float64Array, at: number): void {
    const { lapseRate } = this.times;
    const lapsed = lapseRate * densityAtLog(time.lapsed, logSeconds);
    const density = (1 - lapseRate) * densityAtLog(time.usual, logSeconds) + lapsed + FLOOR;
    out[at] = density;
    out[at + 4] = lapsed / density;
  }

  /**
   * Into `out`, by strategy: densities per second as `densities` gives them (0 to 3), and the probability that an answer of this time was begun after looking away (4 to 7); and, if it was
   * counted, that all was counted (8).
   */
  explain(seconds: number, steps: CountingSteps, out: Float64Array): void {
    const at = Math.log(seconds);
    const { countsAll } = this.times;
    this.#both(this.#countOf(steps.all), at, out, 2);
    const all = countsAll * out[2]!;
    const allLapsed = out[6]!;
    if (steps.all !== steps.fromGreater) this.#both(this.#countOf(steps.fromGreater), at, out, 2);
    const on = (1 - countsAll) * out[2]!;
    out[8] = all / (on + all);
    out[6] = (1 - out[8]) * out[6]! + out[8] * allLapsed;
    out[2] = on + all;
    this.#both(this.#retrieve, at, out, 0);
    this.#both(this.#derive, at, out, 1);
    this.#both(this.#guess, at, out, 3);
  }
}
