import type { Response } from '../record/response';
import { schoolDays, type DayOf } from '../time/schoolDay';
import { isEvidence, isJudged } from './evidenceOf';

/** Half-lives tried for a fact got right on one day, in days; each further day on which it was right doubles it. */
const TRIED = [2, 3, 5, 8, 12, 20, 32] as const;
/** Before anything is known of a child: in the middle. Worth as many returns. */
export const USUAL_HALF_LIFE_DAYS = 8;
const PRIOR_WEIGHT = 4;

/** Returns to facts that were right before, after so many days and with so many right days behind them: how often it was still right, and how often not. */
interface Returns {
  readonly gapDays: number;
  readonly rightDays: number;
  right: number;
  wrong: number;
}
/** With more right days behind it a fact is not forgotten within years: they are told apart no further. */
const MOST_RIGHT_DAYS = 16;

/** Returns of a child's facts, from day to day. A day is right when its first judged answer was right and not seen to be counted. */
function returnsOf(responses: readonly Response[], dayOf: DayOf): Iterable<Returns> {
  const byFact = new Map<string, Response[]>();
  for (const r of responses) {
    if (!isJudged(r) || !isEvidence(r)) continue;
    const list = byFact.get(r.fact);
    if (list) list.push(r);
    else byFact.set(r.fact, [r]);
  }
  const returns = new Map<number, Returns>();
  for (const answers of byFact.values()) {
    const days = new Map<number, boolean>();
    for (const r of [...answers].sort((a, b) => a.shownAt - b.shownAt)) {
      const day = dayOf(r.shownAt);
      if (!days.has(day)) days.set(day, r.outcome === 'correct' && r.sign !== 'counted');
    }
    let rightDays = 0;
    [...days].forEach(([day, right], i, all) => {
      const [before, wasRight] = all[i - 1] ?? [day, false];
      if (wasRight) {
        const alike = (day - before) * (MOST_RIGHT_DAYS + 1) + rightDays;
        let found = returns.get(alike);
        if (!found) returns.set(alike, (found = { gapDays: day - before, rightDays, right: 0, wrong: 0 }));
        found[right ? 'right' : 'wrong']++;
      }
      rightDays = right ? Math.min(MOST_RIGHT_DAYS, rightDays + 1) : 0;
    });
  }
  return returns.values();
}

/** Chance that a fact is still there after so many days: halves with every half-life, which doubles with each right day (an exponential forgetting curve). */
export const stillThere = (gapDays: number, rightDays: number, halfLifeDays: number): number =>
  2 ** (-gapDays / (halfLifeDays * 2 ** Math.max(0, rightDays - 1)));

/** Half-life of what a child got right once, in days: the likeliest of a few candidates, with a few pseudo-observations at the usual pace. @param timeZone the school's, whose days are meant */
export function halfLifeDays(responses: readonly Response[], timeZone: string): number {
  const returns = [...returnsOf(responses, schoolDays(timeZone))];
  let best = { life: USUAL_HALF_LIFE_DAYS, score: -Infinity };
  for (const life of TRIED) {
    let score = (-PRIOR_WEIGHT * Math.log(life / USUAL_HALF_LIFE_DAYS) ** 2) / 2;
    for (const { gapDays, rightDays, right, wrong } of returns) {
      const p = Math.min(0.98, Math.max(0.05, stillThere(gapDays, rightDays, life)));
      score += right * Math.log(p) + wrong * Math.log(1 - p);
    }
    if (score > best.score) best = { life, score };
  }
  return best.life;
}
