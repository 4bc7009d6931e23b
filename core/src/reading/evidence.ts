import { countingSteps } from '../facts/counting';
import { parseFact } from '../facts/fact';
import { matching } from '../statistics/logNormal';
import { median } from '../statistics/quantile';
import { countTime, matchTime, strategyTime } from '../latency/times';
import type { AnswerMode, Response } from '../record/response';
import { isEvidence } from './evidenceOf';
import type { ChildEstimate } from './reading';

/** A band of time in milliseconds that holds the middle four fifths of answers. */
export interface Band {
  readonly fromMs: number;
  readonly toMs: number;
}

/** Evidence for one reading, as data for the sentence and the time line. Times in milliseconds. */
export interface Evidence {
  readonly fact: string;
  readonly mode: AnswerMode;
  readonly judged: number;
  readonly right: number;
  readonly days: number;
  /** Median time of the right ones among the judged answers; null when none had a time. */
  readonly usualMs: number | null;
  /** Where this child's answers fall when there is nothing to work out. */
  readonly handMs: number;
  readonly handBand: Band;
  /** Where answers from memory fall. */
  readonly knownBand: Band;
  /** Where counting this fact would land, in the way this child mostly counts, and how many words that takes. */
  readonly countingMs: number;
  readonly steps: number;
  /** The child mostly counts all rather than on from the greater part. */
  readonly countsAll: boolean;
  /** The hand time is measured by copies of the child's own in this mode, not borrowed. */
  readonly handIsOwn: boolean;
}

/** z of the 10 % and 90 % quantiles of a normal distribution. */
const Z_DECILE = 1.2816;
const ENOUGH_COPIES = 3;

const bandOf = (moments: { mean: number; variance: number }): Band => {
  const { mu, sigma } = matching(moments);
  return { fromMs: 1000 * Math.exp(mu - Z_DECILE * sigma), toMs: 1000 * Math.exp(mu + Z_DECILE * sigma) };
};
const middle = (moments: { mean: number; variance: number }): number => 1000 * Math.exp(matching(moments).mu);

/** The answer mode most of the answers came in; tap when there are none. */
function mainMode(responses: readonly Response[]): AnswerMode {
  const counts = new Map<AnswerMode, number>();
  for (const r of responses) counts.set(r.answerMode, (counts.get(r.answerMode) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'tap';
}

/**
 * The evidence for one fact of one child.
 * @param responses this child's responses to this fact, any number
 */
export function evidenceFor(factText: string, responses: readonly Response[], estimate: ChildEstimate): Evidence {
  const fact = parseFact(factText);
  const judged = responses.filter(isEvidence);
  const mode = mainMode(judged.length > 0 ? judged : responses);
  const right = judged.filter((r) => r.outcome === 'correct');
  const countsAll = estimate.times.countsAll > 0.5;
  const steps = countsAll ? countingSteps(fact).all : countingSteps(fact).fromGreater;
  const hand = matchTime(estimate.times, mode);
  return {
    fact: factText,
    mode,
    judged: judged.length,
    right: right.length,
    days: new Set(judged.map((r) => Math.floor(r.shownAt / 86_400_000))).size,
    usualMs: median(right.flatMap((r) => (r.responseMs === null ? [] : [r.responseMs]))),
    handMs: middle(hand),
    handBand: bandOf(hand),
    knownBand: bandOf(strategyTime(estimate.times, mode, 'retrieve')),
    countingMs: middle(countTime(estimate.times, mode, steps)),
    steps,
    countsAll,
    handIsOwn: (estimate.copies[mode] ?? 0) >= ENOUGH_COPIES,
  };
}
