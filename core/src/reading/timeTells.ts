import { countingSteps, tooShortToTell } from '../facts/counting';
import { isNumberFact, type Fact } from '../facts/fact';
import { countTime, strategyTime } from '../latency/times';
import type { Response } from '../record/response';
import { medianMs } from '../statistics/logNormal';
import { median } from '../statistics/quantile';
import { hasTime } from './childRecord';
import { offsetAt } from './hands';
import { NEWEST } from './posterior';
import type { ChildEstimate } from './reading';

/** As a multiple of the slower of knowing and counting on: a usual time beyond it is neither. */
const CLEARLY_SLOWER = 1.4;
/** Right answers that a usual time is taken from, at least. */
const LEAST_TIMES = 3;

/**
 * Whether time tells how a fact was answered. Where counting takes a word or less, quick answers may be known or counted on, and time cannot tell; but answers that are clearly slower than both were
 * counted from one, or worked out.
 * @param answers to the fact, oldest first; the newest NEWEST tell
 */
export function timeTells(
  fact: Fact,
  answers: readonly Response[],
  { times, hands }: Pick<ChildEstimate, 'times' | 'hands'>,
): boolean {
  if (!tooShortToTell(fact)) return true;
  // What lies at a glance takes no longer to count all than to count on: slow is not another way.
  if (!isNumberFact(fact)) return false;
  const { fromGreater } = countingSteps(fact);
  const slower = answers
    .slice(-NEWEST)
    .filter(hasTime)
    .filter(({ outcome }) => outcome === 'correct')
    .map((r) => {
      const shift = offsetAt(hands, r);
      const known = medianMs(strategyTime(times, r.answerMode, 'retrieve', shift));
      return r.responseMs / Math.max(known, medianMs(countTime(times, r.answerMode, fromGreater, shift)));
    });
  return slower.length >= LEAST_TIMES && median(slower)! >= CLEARLY_SLOWER;
}
