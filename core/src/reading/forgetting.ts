import type { Response } from '../record/response';
import type { DayOf } from '../time/schoolDay';

/** Half-lives tried for a fact got right on one day, in days; each further day on which it was right doubles it. */
const TRIED = [2, 3, 5, 8, 12, 20, 32] as const;
/** Before anything is known of a child: in the middle. Worth as many returns. */
export const USUAL_HALF_LIFE_DAYS = 8;
const PRIOR_WEIGHT = 4;

/** Returns to facts that were right before, by the gap in days and the number of right days before it: how often it was still right, and how often not. */
interface Returns {
  readonly gapDays: number;
  readonly rightDays: number;
  right: number;
  wrong: number;
}
/** With more right days behind it a fact is not forgotten within years: they are told apart no further. */
const MOST_RIGHT_DAYS = 16;

/** A day on which a fact was asked; right when its first answer that is evidence was right and not seen to be counted. */
interface DayAsked {
  readonly day: number;
  readonly right: boolean;
}

/** The school's days on which a fact was asked. @param evidence of one fact, oldest first */
export function askedByDay(evidence: readonly Response[], dayOf: DayOf): DayAsked[] {
  const days: DayAsked[] = [];
  let before: number | null = null;
  for (const r of evidence) {
    const day = dayOf(r.shownAt);
    if (day === before) continue;
    days.push({ day, right: r.outcome === 'correct' && r.sign !== 'counted' });
    before = day;
  }
  return days;
}

/** Returns of a child's facts, from day to day. */
function returnsOf(facts: readonly (readonly DayAsked[])[]): Iterable<Returns> {
  const returns = new Map<number, Returns>();
  for (const days of facts) {
    let before = 0;
    let rightBefore = 0;
    for (const { day, right } of days) {
      if (rightBefore > 0) {
        const gapDays = day - before;
        const alike = gapDays * (MOST_RIGHT_DAYS + 1) + rightBefore;
        let found = returns.get(alike);
        if (!found) returns.set(alike, (found = { gapDays, rightDays: rightBefore, right: 0, wrong: 0 }));
        found[right ? 'right' : 'wrong']++;
      }
      rightBefore = right ? Math.min(MOST_RIGHT_DAYS, rightBefore + 1) : 0;
      before = day;
    }
  }
  return returns.values();
}

/** Probability that a fact is still retrieved after a gap of `days`: halves with every half-life, which doubles with each right day (an exponential forgetting curve). */
export const retention = (gapDays: number, rightDays: number, halfLifeDays: number): number =>
  2 ** (-gapDays / (halfLifeDays * 2 ** Math.max(0, rightDays - 1)));

/** Half-life of what a child got right once, in days: the likeliest of a few candidates, with a few pseudo-observations at the usual pace. */
export function halfLifeDays(facts: readonly (readonly DayAsked[])[]): number {
  const returns = [...returnsOf(facts)];
  let best = { life: USUAL_HALF_LIFE_DAYS, score: -Infinity };
  for (const life of TRIED) {
    let score = (-PRIOR_WEIGHT * Math.log(life / USUAL_HALF_LIFE_DAYS) ** 2) / 2;
    for (const { gapDays, rightDays, right, wrong } of returns) {
      const p = Math.min(0.98, Math.max(0.05, retention(gapDays, rightDays, life)));
      score += right * Math.log(p) + wrong * Math.log(1 - p);
    }
    if (score > best.score) best = { life, score };
  }
  return best.life;
}
