import { countingSteps } from '../facts/counting';
import { parseFact } from '../facts/fact';
import { medianMs } from '../statistics/logNormal';
import { median } from '../statistics/quantile';
import { countTime, strategyTime } from '../latency/times';
import type { AnswerMode, Response } from '../record/response';
import { isEvidence } from './evidenceOf';
import type { ChildEstimate } from './reading';

/** Time against how much there is to count: flat where facts are known, rising where they are counted. Times in milliseconds. */
export interface StepLines {
  readonly mode: AnswerMode;
  readonly points: readonly { readonly steps: number; readonly ms: number; readonly fact: string }[];
  /** Line through the points: the median of all slopes between pairs (Theil 1950, Sen 1968), so that a lapse does not tilt it. Null with fewer than three different numbers of steps. */
  readonly fitted: { readonly atZeroMs: number; readonly perStepMs: number } | null;
  /** Where this child's remembered answers fall, whatever the steps. */
  readonly knownMs: number;
  /** Where its counted answers fall, by steps from 0. */
  readonly countedMs: readonly number[];
}

const MOST_STEPS = 10;
/** Newest correct answers used for the line: the number of pairs grows with the square. */
const NEWEST_POINTS = 150;

function theilSen(points: readonly { steps: number; ms: number }[]): StepLines['fitted'] {
  if (new Set(points.map((p) => p.steps)).size < 3) return null;
  const slopes: number[] = [];
  points.forEach((a, i) => {
    for (const b of points.slice(i + 1)) if (a.steps !== b.steps) slopes.push((b.ms - a.ms) / (b.steps - a.steps));
  });
  const perStepMs = median(slopes) ?? 0;
  return { perStepMs, atZeroMs: median(points.map((p) => p.ms - perStepMs * p.steps)) ?? 0 };
}

/**
 * @param responses this child's, oldest first; of these the right, judged ones in the most used answer mode are drawn
 * @param all count all rather than on from the greater: the child's own way
 */
export function stepLines(responses: readonly Response[], estimate: ChildEstimate, all: boolean): StepLines {
  const timed = responses.filter((r) => isEvidence(r) && r.outcome === 'correct' && r.responseMs !== null);
  const modes = new Map<AnswerMode, number>();
  for (const r of timed) modes.set(r.answerMode, (modes.get(r.answerMode) ?? 0) + 1);
  const mode = [...modes].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 'tap';
  const points = timed
    .filter((r) => r.answerMode === mode)
    .slice(-NEWEST_POINTS)
    .map((r) => {
      const steps = countingSteps(parseFact(r.fact));
      return { steps: all ? steps.all : steps.fromGreater, ms: r.responseMs ?? 0, fact: r.fact };
    });
  return {
    mode,
    points,
    fitted: theilSen(points),
    knownMs: medianMs(strategyTime(estimate.times, mode, 'retrieve')),
    countedMs: Array.from({ length: MOST_STEPS + 1 }, (_, steps) => medianMs(countTime(estimate.times, mode, steps))),
  };
}
