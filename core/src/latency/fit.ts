import { parseFact, type Fact } from '../facts/fact';
import { ANSWER_MODES, type AnswerMode, type Response } from '../record/response';
import { median, quantile } from './logNormal';
import { PRIOR, StrategyTimes, type ChildTimes } from './times';

/** An answer whose time may be trusted, with what it was about. */
export interface Timed {
  readonly response: Response;
  readonly fact: Fact;
  readonly seconds: number;
}

/** Log of how likely this answer is, given the child's times. The caller knows about strategies and shares; this file only about times. */
export type Explains = (timed: Timed, times: StrategyTimes, paceSeconds: number) => number;

/** Newest timed answers that the fit reads: more add time, not knowledge. */
const NEWEST_TIMED = 400;
/** A hand time is believed from its own copies from this many on (READING.md, section 1). */
const ENOUGH_COPIES = 3;
/** Start of counting, seconds, for start values only. */
const START_SECONDS = 0.55;
const ROUNDS = 4;

/** The answers with a trusted time, oldest first, newest only. */
export function timedAnswers(responses: readonly Response[]): Timed[] {
  return responses
    .filter((r) => r.responseMs !== null && r.responseMs > 0 && r.void === '' && r.flags.length === 0 && r.aid === 'none')
    .slice(-NEWEST_TIMED)
    .map((response) => ({ response, fact: parseFact(response.fact), seconds: (response.responseMs ?? 0) / 1000 }));
}

const modesIn = (timed: readonly Timed[]): AnswerMode[] => ANSWER_MODES.filter((mode) => timed.some((t) => t.response.answerMode === mode));

/**
 * Start values from the data itself: with wrong ones the fit can settle on "counts all, impossibly fast". Hand: median of copied numerals, or the 20th
 * percentile of all times less what fetching adds. Pace: median over `count` rows.
 */
export function startTimes(timed: readonly Timed[]): ChildTimes {
  const hand: Partial<Record<AnswerMode, number>> = {};
  for (const mode of modesIn(timed)) {
    const own = timed.filter((t) => t.response.answerMode === mode);
    const copies = own.filter((t) => t.fact.kind === 'match').map((t) => Math.log(t.seconds));
    const low = quantile(
      own.map((t) => Math.log(t.seconds)),
      0.2,
    );
    const value = copies.length >= ENOUGH_COPIES ? median(copies) : low === null ? null : low - Math.log(1.45);
    if (value !== null) hand[mode] = Math.exp(value);
  }
  const anyHand = median(Object.values(hand)) ?? PRIOR.hand.median;
  const paces = timed
    .filter((t) => t.fact.kind === 'count' && t.fact.answer > 0)
    .map((t) => (t.seconds - 1.05 * (hand[t.response.answerMode] ?? anyHand) - START_SECONDS) / t.fact.answer)
    .filter((pace) => pace > 0.05);
  return { hand, retrieve: PRIOR.retrieveOverHand.median * anyHand, pace: median(paces) ?? PRIOR.paceOverHand.median * anyHand };
}

const bell = (x: number, mean: number, sd: number): number => -0.5 * ((x - mean) / sd) ** 2;

function logPrior(times: ChildTimes): number {
  const hands = Object.values(times.hand).map(Math.log);
  const meanHand = hands.length === 0 ? Math.log(PRIOR.hand.median) : hands.reduce((sum, h) => sum + h, 0) / hands.length;
  return (
    hands.reduce((sum, h) => sum + bell(h, Math.log(PRIOR.hand.median), PRIOR.hand.sd), 0) +
    bell(Math.log(times.retrieve) - meanHand, Math.log(PRIOR.retrieveOverHand.median), PRIOR.retrieveOverHand.sd) +
    bell(Math.log(times.pace) - meanHand, Math.log(PRIOR.paceOverHand.median), PRIOR.paceOverHand.sd)
  );
}

/** The times with one of them, addressed by mode or name, multiplied. */
function scaled(times: ChildTimes, which: AnswerMode | 'retrieve' | 'pace', factor: number): ChildTimes {
  if (which === 'retrieve' || which === 'pace') return { ...times, [which]: times[which] * factor };
  return { ...times, hand: { ...times.hand, [which]: (times.hand[which] ?? PRIOR.hand.median) * factor } };
}

/**
 * The child's most probable times: ascent from start values, one time after the other on the log scale, halving the step where nothing is gained.
 * A slow child is slow in its hand; only what is beyond the hand speaks of counting.
 * @param explains log-likelihood of one answer given times, summed over strategies by the caller
 */
export function fitTimes(timed: readonly Timed[], start: ChildTimes, explains: Explains): ChildTimes {
  const modes = modesIn(timed);
  const score = (times: ChildTimes): number => {
    const byMode = new Map(modes.map((mode) => [mode, new StrategyTimes(times, mode)]));
    return timed.reduce((sum, t) => {
      const densities = byMode.get(t.response.answerMode);
      return densities ? sum + explains(t, densities, times.pace) : sum;
    }, logPrior(times));
  };
  let best = start;
  let bestScore = score(start);
  const steps = new Map<AnswerMode | 'retrieve' | 'pace', number>([...modes, 'retrieve' as const, 'pace' as const].map((name) => [name, 0.16]));
  for (let round = 0; round < ROUNDS; round++) {
    for (const [name, step] of steps) {
      const tries = [Math.exp(step), Math.exp(-step)].map((factor) => scaled(best, name, factor));
      const scores = tries.map(score);
      const better = (scores[0] ?? -Infinity) >= (scores[1] ?? -Infinity) ? 0 : 1;
      const gained = scores[better] ?? -Infinity;
      if (gained > bestScore) {
        best = tries[better]!;
        bestScore = gained;
      } else steps.set(name, step / 2);
    }
  }
  return best;
}
