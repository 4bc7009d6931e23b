import type { Response } from '../record/response';
import { isEvidence, isJudged } from '../reading/evidenceOf';

const DAY_MS = 86_400_000;
/** Half-lives tried for a fact got right on one day, in days; each further day on which it was right doubles it. */
const TRIED = [2, 3, 5, 8, 12, 20, 32] as const;
/** Before anything is known of a child: in the middle. Worth as many returns. */
export const USUAL_HALF_LIFE_DAYS = 8;
const PRIOR_WEIGHT = 4;

/** One return to a fact that was right before: after so many days, with so many right days behind it. */
interface Return {
  readonly gapDays: number;
  readonly rightDays: number;
  readonly right: boolean;
}

/** Returns of a child's facts, from day to day. A day is right when its first judged answer was right and not seen to be counted. */
function returnsOf(responses: readonly Response[]): Return[] {
  const byFact = new Map<string, Response[]>();
  for (const r of responses) {
    if (!isJudged(r) || !isEvidence(r)) continue;
    const list = byFact.get(r.fact);
    if (list) list.push(r);
    else byFact.set(r.fact, [r]);
  }
  const returns: Return[] = [];
  for (const answers of byFact.values()) {
    const days = new Map<number, boolean>();
    for (const r of [...answers].sort((a, b) => a.shownAt - b.shownAt)) {
      const day = Math.floor(r.shownAt / DAY_MS);
      if (!days.has(day)) days.set(day, r.outcome === 'correct' && r.sign !== 'counted');
    }
    let rightDays = 0;
    [...days].forEach(([day, right], i, all) => {
      const [before, wasRight] = all[i - 1] ?? [day, false];
      if (wasRight) returns.push({ gapDays: day - before, rightDays, right });
      rightDays = right ? rightDays + 1 : 0;
    });
  }
  return returns;
}

/** Chance that a fact is still there after so many days: halves with every half-life, which doubles with each right day (an exponential forgetting curve). */
export const stillThere = (gapDays: number, rightDays: number, halfLifeDays: number): number =>
  2 ** (-gapDays / (halfLifeDays * 2 ** Math.max(0, rightDays - 1)));

/** How long it takes a child to forget half of what it got right once, in days: the likeliest of a few, with a few imagined returns at the usual pace. */
export function halfLifeDays(responses: readonly Response[]): number {
  const returns = returnsOf(responses);
  const likelihood = (life: number): number => {
    const own = returns.reduce((sum, { gapDays, rightDays, right }) => {
      const p = Math.min(0.98, Math.max(0.05, stillThere(gapDays, rightDays, life)));
      return sum + Math.log(right ? p : 1 - p);
    }, 0);
    return own - (PRIOR_WEIGHT * Math.log(life / USUAL_HALF_LIFE_DAYS) ** 2) / 2;
  };
  return TRIED.reduce<number>((best, life) => (likelihood(life) > likelihood(best) ? life : best), USUAL_HALF_LIFE_DAYS);
}
