import { countingSteps } from '../facts/counting';
import { parseFact } from '../facts/fact';
import { fentonWilkinson, medianMs, type Moments } from '../statistics/logNormal';
import { median } from '../statistics/quantile';
import { countTime, matchTime, strategyTime } from '../latency/times';
import type { AnswerMode, Response, Sign } from '../record/response';
import { schoolDays } from '../time/schoolDay';
import { isAnswer } from './evidenceOf';
import { hasTime } from './childRecord';
import { ANOTHER_HAND, offsetAt } from './hands';
import { heededSign } from './likelihood';
import { timeTells } from './timeTells';
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
  /** Of the right answers with a time, those whose time is nearer to remembering, and those nearer to counting; both 0 where time cannot tell. */
  readonly likeKnowing: number;
  readonly likeCounting: number;
  /** False where counting this fact is over too soon for time to tell, and the answers are not clearly slower than that. */
  readonly timeTells: boolean;
  /** How many of the judged answers have each sign. */
  readonly signs: Readonly<Record<Sign, number>>;
  /** Where this child's answers fall when there is nothing to work out. */
  readonly handMs: number;
  /** The same at the newest session in this mode, where the hand has changed since; else null. */
  readonly handLatelyMs: number | null;
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

const bandOf = (moments: Moments): Band => {
  const { mu, sigma } = fentonWilkinson(moments);
  return { fromMs: 1000 * Math.exp(mu - Z_DECILE * sigma), toMs: 1000 * Math.exp(mu + Z_DECILE * sigma) };
};

/** The answer mode most of the answers came in; tap when there are none. */
function mainMode(responses: readonly Response[]): AnswerMode {
  const counts = new Map<AnswerMode, number>();
  for (const r of responses) counts.set(r.answerMode, (counts.get(r.answerMode) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'tap';
}

/** By how much the hand was off at the newest answer in a mode; 0 for hardly. */
function handLately(responses: readonly Response[], mode: AnswerMode, { hands }: ChildEstimate): number {
  const newest = responses
    .filter((r) => r.answerMode === mode)
    .reduce<Response | null>((last, r) => (last === null || r.shownAt > last.shownAt ? r : last), null);
  const offset = newest === null ? 0 : offsetAt(hands, newest);
  return Math.abs(offset) >= ANOTHER_HAND ? offset : 0;
}

/**
 * The evidence for one fact of one child.
 * @param responses this child's responses to this fact, any number
 * @param timeZone the school's, whose days are counted; IANA name
 */
export function evidenceFor(
  factText: string,
  responses: readonly Response[],
  estimate: ChildEstimate,
  timeZone: string,
): Evidence {
  const fact = parseFact(factText);
  const judged = responses.filter(isAnswer).sort((a, b) => a.shownAt - b.shownAt);
  const mode = mainMode(judged.length > 0 ? judged : responses);
  const right = judged.filter((r) => r.outcome === 'correct');
  const countsAll = estimate.times.countsAll > 0.5;
  const steps = countsAll ? countingSteps(fact).all : countingSteps(fact).fromGreater;
  const hand = matchTime(estimate.times, mode);
  const known = strategyTime(estimate.times, mode, 'retrieve');
  const countingMs = medianMs(countTime(estimate.times, mode, steps));
  const timed = right.filter(hasTime);
  // By the hand of its own session; half way between the two by ratio, as times are compared.
  const isSlow = (r: Response & { responseMs: number }): boolean => {
    const shift = offsetAt(estimate.hands, r);
    const quick = medianMs(strategyTime(estimate.times, r.answerMode, 'retrieve', shift));
    const counted = medianMs(countTime(estimate.times, r.answerMode, steps, shift));
    return r.responseMs > Math.sqrt(quick * counted);
  };
  const tells = timeTells(fact, judged, estimate);
  const slow = tells ? timed.filter(isSlow).length : 0;
  const signed = (sign: Sign): number => judged.filter((r) => heededSign(r) === sign).length;
  const lately = handLately(responses, mode, estimate);
  return {
    fact: factText,
    mode,
    judged: judged.length,
    right: right.length,
    days: new Set(judged.map((r) => schoolDays(timeZone)(r.shownAt))).size,
    usualMs: median(timed.map((r) => r.responseMs)),
    likeKnowing: tells ? timed.length - slow : 0,
    likeCounting: slow,
    timeTells: tells,
    signs: { knew: signed('knew'), derived: signed('derived'), counted: signed('counted'), guessed: signed('guessed') },
    handMs: medianMs(hand),
    handLatelyMs: lately === 0 ? null : medianMs(matchTime(estimate.times, mode, lately)),
    handBand: bandOf(hand),
    knownBand: bandOf(known),
    countingMs,
    steps,
    countsAll,
    handIsOwn: (estimate.copies[mode] ?? 0) >= ENOUGH_COPIES,
  };
}
