import type { CountingSteps } from '../facts/counting';
import { ANSWER_MODES, type AnswerMode } from '../record/response';
import { grouped } from '../statistics/grouped';
import { median, quantile } from '../statistics/quantile';
import { COUNTS_ALL, LAPSE, StrategyTimes, type ChildTimes, type SharedTimes } from './times';

/** An answer with a trustworthy time. `copy` and `count` say what the child did; for a `fact` the strategy is unknown. */
export interface Timed {
  readonly what: 'copy' | 'count' | 'fact';
  readonly mode: AnswerMode;
  readonly seconds: number;
  /** What it went through beside the child (`sourceOf`), and by how much later than others that makes the hand time (logarithm). The latter is changed by the caller between fits. */
  readonly source: string;
  shift: number;
  /** Its sitting's place among the child's, the oldest first. */
  readonly sitting: number;
  /** Where in its sitting it came, 0 = first … 1 = last. */
  readonly within: number;
  /** Steps to count, and weight of each strategy before the time is looked at, in the order of STRATEGIES. Changed by the caller between fits. */
  steps: CountingSteps;
  weights: readonly [number, number, number, number];
}

/** A hand time is believed from its own copies from this many on (docs/model.md, "Time"). */
const ENOUGH_COPIES = 3;
/** Start of counting, seconds, for initial values only. */
const START_SECONDS = 0.55;
const FIRST_STEP = 0.16;

const modesIn = (timed: readonly Timed[]): AnswerMode[] =>
  ANSWER_MODES.filter((mode) => timed.some((t) => t.mode === mode));

/**
 * Start values from the data itself: with wrong ones the fit can settle on "counts all, impossibly fast". Hand: median of copied numerals, or the 20th
 * percentile of all times less what fetching adds. Pace: median over `count` rows.
 */
export function startTimes(timed: readonly Timed[], shared: SharedTimes): ChildTimes {
  const hand: Partial<Record<AnswerMode, number>> = {};
  for (const mode of modesIn(timed)) {
    const own = timed.filter((t) => t.mode === mode);
    const copies = own.filter((t) => t.what === 'copy').map((t) => Math.log(t.seconds));
    const low = quantile(
      own.map((t) => Math.log(t.seconds)),
      0.2,
    );
    const value = copies.length >= ENOUGH_COPIES ? median(copies) : low === null ? null : low - Math.log(1.45);
    if (value !== null) hand[mode] = Math.exp(value);
  }
  const anyHand = median(Object.values(hand)) ?? shared.hand.median;
  const paces = timed
    .filter((t) => t.what === 'count' && t.steps.all > 0)
    .map((t) => (t.seconds - 1.05 * (hand[t.mode] ?? anyHand) - START_SECONDS) / t.steps.all)
    .filter((pace) => pace > 0.05);
  return {
    hand,
    retrieve: shared.retrieveOverHand.median * anyHand,
    pace: median(paces) ?? shared.paceOverHand.median * anyHand,
    unevenness: shared.unevenness.median,
    countsAll: COUNTS_ALL,
    lapseRate: LAPSE.rate,
    lapseSeconds: LAPSE.seconds,
  };
}

const normalLogDensity = (x: number, mean: number, sd: number): number => -0.5 * ((x - mean) / sd) ** 2;

function logPrior(times: ChildTimes, shared: SharedTimes): number {
  const hands = Object.values(times.hand).map(Math.log);
  const meanHand =
    hands.length === 0 ? Math.log(shared.hand.median) : hands.reduce((sum, h) => sum + h, 0) / hands.length;
  return (
    hands.reduce((sum, h) => sum + normalLogDensity(h, Math.log(shared.hand.median), shared.hand.sd), 0) +
    normalLogDensity(
      Math.log(times.retrieve) - meanHand,
      Math.log(shared.retrieveOverHand.median),
      shared.retrieveOverHand.sd,
    ) +
    normalLogDensity(Math.log(times.pace) - meanHand, Math.log(shared.paceOverHand.median), shared.paceOverHand.sd) +
    normalLogDensity(Math.log(times.unevenness), Math.log(shared.unevenness.median), shared.unevenness.sd)
  );
}

/** The times that are fitted beside the hand times. */
const FITTED = ['retrieve', 'pace', 'unevenness'] as const;
type Fitted = (typeof FITTED)[number];
const isFitted = (which: AnswerMode | Fitted): which is Fitted => FITTED.some((name) => name === which);

/** The times with one of them, named by mode or name, multiplied by a factor. */
function scaled(times: ChildTimes, which: AnswerMode | Fitted, factor: number): ChildTimes {
  if (isFitted(which)) return { ...times, [which]: times[which] * factor };
  return { ...times, hand: { ...times.hand, [which]: times.hand[which]! * factor } };
}

/** Log-density of an answer's time: of a fact, under its strategy weights. @param logSeconds of its time */
export function explained(t: Timed, times: StrategyTimes, logSeconds = Math.log(t.seconds)): number {
  if (t.what === 'copy') return Math.log(times.match(t.seconds, logSeconds));
  if (t.what === 'count') return Math.log(times.counting(t.seconds, t.steps.all, logSeconds));
  return Math.log(times.mixture(t.seconds, t.steps, t.weights, logSeconds));
}

/** How probable times are, given the answers (logarithm, up to a constant). */
export function logPosterior(timed: readonly Timed[], times: ChildTimes, shared: SharedTimes): number {
  return scoring(timed, shared)(times);
}

/** The same as a function of the times, for the answers sorted once by what they went through. */
function scoring(timed: readonly Timed[], shared: SharedTimes): (times: ChildTimes) => number {
  const alike = [...grouped(timed, ({ source, shift }) => `${source} ${shift}`).values()];
  return (times) => {
    let sum = logPrior(times, shared);
    for (const own of alike) {
      const densities = new StrategyTimes(times, own[0]!.mode, own[0]!.shift);
      for (const t of own) sum += explained(t, densities);
    }
    return sum;
  };
}

/**
 * The child's most probable times: coordinate ascent on the log scale from initial values, halving the step where nothing is gained. A slow child has a slow hand; only time beyond the hand time is evidence of counting.
 * @param rounds how often every time is tried
 */
export function fitTimes(timed: readonly Timed[], start: ChildTimes, shared: SharedTimes, rounds: number): ChildTimes {
  const modes = modesIn(timed);
  const score = scoring(timed, shared);
  const missing = modes.filter((mode) => start.hand[mode] === undefined);
  let best: ChildTimes =
    missing.length === 0 ? start : { ...start, hand: { ...startTimes(timed, shared).hand, ...start.hand } };
  let bestScore = score(best);
  const steps = new Map<AnswerMode | Fitted, number>([...modes, ...FITTED].map((name) => [name, FIRST_STEP]));
  for (let round = 0; round < rounds; round++) {
    for (const [name, step] of steps) {
      const up = scaled(best, name, Math.exp(step));
      const upScore = score(up);
      const better =
        upScore > bestScore
          ? { times: up, score: upScore }
          : ((down) => ({ times: down, score: score(down) }))(scaled(best, name, Math.exp(-step)));
      if (better.score > bestScore) {
        best = better.times;
        bestScore = better.score;
      } else steps.set(name, step / 2);
    }
  }
  return best;
}
