import { factText } from '../facts/fact';
import { seeded, type Random } from '../random/random';
import { someReading } from '../testing/reading';
import { minutesOf, QUESTIONS, sessionOf, type ChildNeed, type PlannedChild } from './classPlan';
import { sessionsOf } from './session';
import { planWeek, type WeekDay, type WeekWish } from './week';
import { weekCost } from './weekCost';

const DAY = 86_400_000;
const MONDAY = Date.UTC(2026, 10, 30, 9);

/** A child who knows the sums below a number, was asked some days ago, and gets the rest right now and then. */
function childOf(child: string, random: Random): PlannedChild {
  const number = 3 + Math.floor(random() * 7);
  const readings = Array.from({ length: number + 1 }, (_, whole) =>
    Array.from({ length: whole + 1 }, (_, a) =>
      someReading(factText('add', whole, a), { child, pAutomatic: whole < number ? 0.95 : 0.2 + 0.5 * random() }),
    ),
  ).flat();
  const at = MONDAY - (1 + Math.floor(random() * 9)) * DAY;
  return { child, readings, lastAsked: new Map(readings.map((r) => [r.fact, at])), lastAskedAt: at };
}

/** Every way to put these into groups of at most so many. */
function* partitions<T>(all: readonly T[], most: number): Generator<T[][]> {
  const [first, ...rest] = all;
  if (first === undefined) {
    yield [];
    return;
  }
  for (let mask = 0; mask < 1 << rest.length; mask++) {
    const own = rest.filter((_, i) => mask & (1 << i));
    if (own.length >= most) continue;
    for (const others of partitions(
      rest.filter((_, i) => !(mask & (1 << i))),
      most,
    ))
      yield [[first, ...own], ...others];
  }
}

/** The least that any week costs: every child on every day or none, in every grouping that the minutes allow, at their best need or another that will do. */
function least(wish: WeekWish, needs: ReadonlyMap<string, readonly ChildNeed[]>): number {
  const dayPlans = (who: readonly string[]): WeekDay['sessions'][] => {
    const found: WeekDay['sessions'][] = [];
    for (const groups of partitions(who, wish.group)) {
      const minutes = groups.reduce((sum, group) => sum + minutesOf(group.length, QUESTIONS), 0);
      if (minutes > wish.minutes) continue;
      let sets: ChildNeed[][][] = [[]];
      for (const group of groups) {
        let ways: ChildNeed[][] = [[]];
        for (const child of group) ways = ways.flatMap((way) => needs.get(child)!.map((need) => [...way, need]));
        sets = sets.flatMap((set) => ways.map((way) => [...set, way]));
      }
      found.push(...sets.map((set) => set.map((way) => ({ ...sessionOf(way, QUESTIONS), adult: 0 }))));
    }
    return found;
  };
  const names = wish.children.map(({ child }) => child);
  const best = (child: string) => needs.get(child)![0]!.need;
  let cheapest = Infinity;
  for (let places = 0; places < (wish.days.length + 1) ** names.length; places++) {
    const on = names.map((_, i) => Math.floor(places / (wish.days.length + 1) ** i) % (wish.days.length + 1));
    let weeks: WeekDay[][] = [[]];
    for (const [at, day] of wish.days.entries()) {
      const plans = dayPlans(names.filter((_, i) => on[i] === at));
      weeks = weeks.flatMap((week) => plans.map((sessions) => [...week, { day, sessions }]));
    }
    for (const week of weeks) cheapest = Math.min(cheapest, weekCost(week, wish, best));
  }
  return cheapest;
}

describe('a week’s cost', () => {
  it('is at most a quarter above that of the cheapest of all weeks, for a few children', () => {
    const over = Array.from({ length: 20 }, (_, seed) => {
      const random = seeded(seed + 1);
      const children = ['Odo', 'Ivo', 'Zadie', 'Bram'].map((name) => childOf(name, random));
      const wish: WeekWish = {
        children,
        days: [MONDAY, MONDAY + DAY],
        timeZone: 'UTC',
        adults: 1,
        minutes: 8,
        group: 3,
        times: 1,
        seed,
      };
      const needs = new Map(
        children.map((one) => {
          const own = sessionsOf({ ...one, now: MONDAY, timeZone: 'UTC', aim: 'practise', count: QUESTIONS });
          const first = own();
          const all = [first.need, ...first.others];
          const ways = all.map((need): ChildNeed => ({ child: one.child, daysSince: null, ...own(need) }));
          return [one.child, ways] as const;
        }),
      );
      const planned = weekCost(planWeek(wish), wish, (child) => needs.get(child)![0]!.need);
      return planned / least(wish, needs);
    });
    expect(Math.min(...over)).toBeGreaterThanOrEqual(1 - 1e-9);
    expect(over.reduce((sum, one) => sum + one, 0) / over.length).toBeLessThan(1.06);
    expect(Math.max(...over)).toBeLessThan(1.25);
  });
});
