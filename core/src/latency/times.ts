import type { CountingSteps } from '../facts/counting';
import type { AnswerMode } from '../record/response';
import { fentonWilkinson, LogNormalDensity, momentsOf, sumOf, type Moments } from '../statistics/logNormal';

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
class Lapsing {
  readonly #usual: LogNormalDensity;
  readonly #lapsed: LogNormalDensity;

  constructor({ mean, variance }: Moments, { lapseRate, lapseSeconds }: ChildTimes) {
    const away = { mean: mean + lapseSeconds, variance: variance + (LAPSE_SPREAD * lapseSeconds) ** 2 };
    this.#usual = new LogNormalDensity(fentonWilkinson({ mean, variance }), 1 - lapseRate);
    this.#lapsed = new LogNormalDensity(fentonWilkinson(away), lapseRate);
  }
  /** Density per second. @param logSeconds logarithm of `seconds` */
  density(seconds: number, logSeconds: number): number {
    return this.#usual.at(seconds, logSeconds) + this.#lapsed.at(seconds, logSeconds) + FLOOR;
  }
  /** What part of that density is the lapsed twin's. */
  lapsedPart(seconds: number, logSeconds: number, density: number): number {
    return this.#lapsed.at(seconds, logSeconds) / density;
  }
}

/** Densities of answering at a time, by strategy: made once for a child, mode and shift of the hand time (logarithm), and asked for every answer. */
export class StrategyTimes {
  readonly #retrieve: Lapsing;
  readonly #derive: Lapsing;
  readonly #guess: Lapsing;
  readonly #match: Lapsing;
  readonly #counts: Lapsing[] = [];

  constructor(
    private readonly times: ChildTimes,
    private readonly mode: AnswerMode,
    private readonly shift = 0,
  ) {
    this.#retrieve = new Lapsing(strategyTime(times, mode, 'retrieve', shift), times);
    this.#derive = new Lapsing(strategyTime(times, mode, 'derive', shift), times);
    this.#guess = new Lapsing(strategyTime(times, mode, 'guess', shift), times);
    this.#match = new Lapsing(matchTime(times, mode, shift), times);
  }

  #countOf(steps: number): Lapsing {
    return (this.#counts[steps] ??= new Lapsing(countTime(this.times, this.mode, steps, this.shift), this.times));
  }

  /** Density per second of a numeral copied in this time. */
  match(seconds: number, logSeconds = Math.log(seconds)): number {
    return this.#match.density(seconds, logSeconds);
  }

  /** Density per second of counting this many steps in this time. */
  counting(seconds: number, steps: number, logSeconds = Math.log(seconds)): number {
    return this.#countOf(steps).density(seconds, logSeconds);
  }

  /** Density per second of an answer whose strategies have these weights, in the order of STRATEGIES; counting is the mixture of both ways. */
  mixture(
    seconds: number,
    steps: CountingSteps,
    weights: readonly [number, number, number, number],
    logSeconds = Math.log(seconds),
  ): number {
    const on = this.#countOf(steps.fromGreater).density(seconds, logSeconds);
    const all = steps.all === steps.fromGreater ? on : this.#countOf(steps.all).density(seconds, logSeconds);
    return (
      weights[0] * this.#retrieve.density(seconds, logSeconds) +
      weights[1] * this.#derive.density(seconds, logSeconds) +
      weights[2] * (on + this.times.countsAll * (all - on)) +
      weights[3] * this.#guess.density(seconds, logSeconds)
    );
  }

  /** What a time says of how the answer came about. */
  explain(seconds: number, steps: CountingSteps): TimeExplained {
    const at = Math.log(seconds);
    const { countsAll } = this.times;
    const part = (time: Lapsing): { density: number; lapse: number } => {
      const density = time.density(seconds, at);
      return { density, lapse: time.lapsedPart(seconds, at, density) };
    };
    const [retrieve, derive, guess] = [part(this.#retrieve), part(this.#derive), part(this.#guess)];
    const all = part(this.#countOf(steps.all));
    const on = steps.all === steps.fromGreater ? all : part(this.#countOf(steps.fromGreater));
    const counted = (1 - countsAll) * on.density + countsAll * all.density;
    const countedAll = (countsAll * all.density) / counted;
    return {
      densities: [retrieve.density, derive.density, counted, guess.density],
      lapses: [retrieve.lapse, derive.lapse, on.lapse + countedAll * (all.lapse - on.lapse), guess.lapse],
      countedAll,
    };
  }
}

/** What a time says, by strategy in the order of STRATEGIES. */
export interface TimeExplained {
  /** Per second. */
  readonly densities: readonly [number, number, number, number];
  /** Probability, given the strategy, that the answer was begun after looking away. */
  readonly lapses: readonly [number, number, number, number];
  /** If it was counted, the probability that all was counted. */
  readonly countedAll: number;
}
