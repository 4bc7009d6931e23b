import { schoolDays } from '../time/schoolDay';
import { apart } from './classPlan';
import { nameOf, type Need } from './need';
import type { WeekDay, WeekWish } from './week';

/** What each of these costs in a week: how the plan weighs what it cannot all have. Set by hand, so that each line outweighs those below it in a usual class. */
const COSTS = {
  /** A hearing fewer than wanted. */
  missed: 50,
  /** A step between a child's number and that of the first child of their session; children whose needs do not go together, as many steps as `STRANGERS`. */
  apart: 3,
  /** A child works at another need than their best. */
  secondBest: 2,
  /** A child is heard on two days running. */
  nextDay: 2,
  /** Two children who have met in these days meet again. */
  metAgain: 1,
  /** A day that passes until a child is heard, from when they were asked last. */
  waiting: 0.5,
  /** A minute of an adult. */
  minute: 0.5,
};
const STRANGERS = 4;
/** Longer than this nobody waits more. */
const LONGEST_WAIT_DAYS = 30;

/**
 * What a week costs: the objective that `planWeek` keeps low by its greedy rules, and is held against (docs/planning.md).
 * @param bestOf the need that a child has most to gain from on these days
 * @returns a number without a unit, 0 or more
 */
export function weekCost(
  week: readonly WeekDay[],
  { children, times, timeZone, days }: Pick<WeekWish, 'children' | 'times' | 'timeZone' | 'days'>,
  bestOf: (child: string) => Need,
): number {
  const dayOf = schoolDays(timeZone);
  const heard = new Map<string, number[]>(children.map(({ child }) => [child, []]));
  const met = new Set<string>();
  let cost = 0;
  for (const { day, sessions } of week)
    for (const { children: together, minutes } of sessions) {
      cost += COSTS.minute * minutes;
      together.forEach(({ child, need }, i) => {
        heard.get(child)!.push(dayOf(day));
        cost += COSTS.apart * Math.min(STRANGERS, apart(together[0]!.need, need));
        if (nameOf(bestOf(child)) !== nameOf(need)) cost += COSTS.secondBest;
        for (const { child: other } of together.slice(i + 1)) {
          const pair = [child, other].sort().join(' ');
          if (met.has(pair)) cost += COSTS.metAgain;
          met.add(pair);
        }
      });
    }
  for (const { child, lastAskedAt } of children) {
    const on = heard.get(child)!;
    const since = lastAskedAt === null ? -Infinity : dayOf(lastAskedAt);
    const until = on[0] ?? dayOf(days.at(-1) ?? 0) + 1;
    cost += COSTS.missed * Math.max(0, times - on.length);
    cost += COSTS.nextDay * on.filter((d, i) => d - (on[i - 1] ?? since) === 1).length;
    cost += COSTS.waiting * Math.min(LONGEST_WAIT_DAYS, until - since);
  }
  return cost;
}
