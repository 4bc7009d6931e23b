import { factText } from '../facts/fact';
import { HARBOUR_CHILDREN } from '../rehearsal/names';
import type { Reading } from '../reading/reading';
import { someReading } from '../testing/reading';
import { isAt } from './need';
import { planWeek, type WeekWish } from './week';
import { reason } from '../words/english/plan';

const DAY = 86_400_000;
const MONDAY = Date.UTC(2026, 10, 30, 9);
const names = HARBOUR_CHILDREN.slice(0, 24);
const reading = (child: string, fact: string, p: number): Reading =>
  someReading(fact, { child, pAutomatic: p, reading: p > 0.8 ? 'knows' : 'counts' });
/** Children who know the sums below numbers from three to ten, last asked on one of the nine days before. */
const children = names.map((child, i) => {
  const number = 3 + (i % 8);
  const readings = [
    ...Array.from({ length: 10 }, (_, n) => reading(child, `show:${n + 1}:frame-fives`, n < number ? 0.95 : 0.5)),
    ...Array.from({ length: number + 1 }, (_, whole) =>
      Array.from({ length: whole + 1 }, (_, a) =>
        reading(child, factText('add', whole, a), whole < number ? 0.95 : 0.4),
      ),
    ).flat(),
  ];
  const at = MONDAY - (1 + (i % 9)) * DAY;
  return { child, readings, lastAsked: new Map(readings.map((r) => [r.fact, at])), lastAskedAt: at };
});
const wish = (more: Partial<WeekWish> = {}): WeekWish => ({
  children,
  days: [0, 1, 2, 3, 4].map((day) => MONDAY + day * DAY),
  timeZone: 'UTC',
  adults: 2,
  minutes: 15,
  group: 4,
  times: 2,
  ...more,
});
const heard = (week: ReturnType<typeof planWeek>): number[] =>
  names.map(
    (name) => week.flatMap((d) => d.sessions.flatMap((s) => s.children)).filter((c) => c.child === name).length,
  );

describe('a week', () => {
  it('hears each of 24 children twice with two adults and fifteen minutes, on different days', () => {
    const week = planWeek(wish());
    expect(heard(week)).toEqual(names.map(() => 2));
    for (const { sessions } of week) {
      const today = sessions.flatMap((s) => s.children.map((c) => c.child));
      expect(new Set(today).size).toBe(today.length);
    }
  });

  it('says “planned again” where the last time has not been, and “last asked” only of what was', () => {
    const turns = planWeek(wish()).flatMap(({ sessions }) => sessions.flatMap((s) => s.children));
    for (const name of names) {
      const [first, second] = turns.filter(({ child }) => child === name).map(reason);
      expect([name, first]).toEqual([name, expect.stringContaining('last asked ')]);
      expect([name, second]).toEqual([name, expect.stringMatching(/planned again after \d days?$/)]);
      expect(second).not.toContain('last asked');
    }
  });

  it.each<[more: Partial<WeekWish>, how: string]>([
    [{}, 'as usual'],
    [{ group: 2 }, 'in pairs'],
    [{ group: 1, adults: 3 }, 'one by one'],
    [{ times: 4, minutes: 30 }, 'nearly every day'],
    [{ times: 5, minutes: 40, group: 6 }, 'every day'],
    [{ minutes: 8, adults: 1 }, 'with little time'],
    [{ group: 3 }, 'in threes'],
  ])('%j: nobody is taken twice on a day, and nobody is dropped (%s)', (more) => {
    const asked = wish(more);
    const week = planWeek(asked);
    for (const { sessions } of week) {
      const today = sessions.flatMap((s) => s.children.map((c) => c.child));
      expect([...new Set(today)]).toEqual(today);
    }
    const counts = heard(week);
    const seats = week.flatMap((d) => d.sessions).reduce((sum, s) => sum + s.children.length, 0);
    expect(Math.max(...counts)).toBeLessThanOrEqual(asked.times);
    // Short time is shared: nobody is two sessions behind another.
    expect(Math.min(...counts)).toBeGreaterThanOrEqual(Math.min(asked.times, Math.floor(seats / names.length)));
  });

  it('hears whoever was away on the last days of the week that are left, though the day’s share is full', () => {
    // Fourteen of 24 are away until Thursday; the share of a day is twelve.
    const away = new Set(names.slice(0, 14));
    const week = planWeek(
      wish({ minutes: 60, away: (child, day) => day < 3 && away.has(child as (typeof names)[number]) }),
    );
    for (const { sessions } of week.slice(3)) {
      const today = sessions.flatMap((s) => s.children.map((c) => c.child));
      expect([...away].filter((child) => !today.includes(child))).toEqual([]);
    }
    expect(heard(week)).toEqual(names.map(() => 2));
  });

  it('lets a child who is away wait for the next day that fits, and hears them as often', () => {
    const away = names.slice(0, 3);
    const week = planWeek(wish({ away: (child, day) => day === 0 && away.some((one) => one === child) }));
    const first = week[0]!.sessions.flatMap((s) => s.children.map((c) => c.child));
    for (const child of away) expect(first).not.toContain(child);
    expect(heard(week)).toEqual(names.map(() => 2));
  });

  it('in the middle of a week hears those first who were heard least often in it', () => {
    const tuesday = MONDAY + DAY;
    // All of them yesterday; every second one on Monday too.
    const twice = new Set(names.filter((_, i) => i % 2 === 0));
    const midweek = children.map((one) => ({
      ...one,
      lastAskedAt: tuesday,
      lastAsked: new Map(
        [...one.lastAsked.keys()].map((f, i) => [f, i % 2 === 0 && twice.has(one.child) ? MONDAY : tuesday]),
      ),
    }));
    // Alone, so that nobody comes along as company: there is time for fourteen of 24.
    const one = wish({ children: midweek, days: [MONDAY + 2 * DAY], times: 3, group: 1 });
    const now = planWeek(one)[0]!.sessions.map(({ children: [only] }) => only!.child);
    expect(now).toHaveLength(14);
    expect(names.filter((name) => !twice.has(name) && !now.includes(name))).toEqual([]);
  });

  it('at its end hears those who were away, and nobody more often than wanted', () => {
    const [, missed, , , late] = names;
    const week = children.map((one) => {
      const on = one.child === missed || one.child === late ? [MONDAY] : [MONDAY, MONDAY + 2 * DAY];
      return { ...one, lastAskedAt: on.at(-1)!, lastAsked: new Map(on.map((at, i) => [`1+${i + 1}`, at])) };
    });
    const [friday, monday] = planWeek(wish({ children: week, days: [MONDAY + 4 * DAY, MONDAY + 7 * DAY] }));
    expect(friday!.sessions.flatMap((s) => s.children.map((c) => c.child)).sort()).toEqual([missed, late].sort());
    // Another week begins.
    expect(monday!.sessions.flatMap((s) => s.children).length).toBeGreaterThan(10);
  });

  it('keeps to the minutes of every adult, and to the size of groups', () => {
    for (const more of [{}, { minutes: 8, adults: 1 }, { group: 2 }, { minutes: 20, adults: 3, group: 6 }]) {
      const asked = wish(more);
      for (const { sessions } of planWeek(asked)) {
        for (let adult = 0; adult < asked.adults; adult++) {
          const own = sessions.filter((s) => s.adult === adult);
          expect(own.reduce((sum, s) => sum + s.minutes, 0)).toBeLessThanOrEqual(asked.minutes);
        }
        for (const { children: together } of sessions) expect(together.length).toBeLessThanOrEqual(asked.group);
      }
    }
  });

  it('shares short time evenly: nobody a second time before everybody once', () => {
    const counts = heard(planWeek(wish({ adults: 1, minutes: 8 })));
    expect(Math.max(...counts) - Math.min(...counts)).toBeLessThanOrEqual(1);
  });

  it('asks most of each child at a need of the session’s title, at their own number', () => {
    const all = planWeek(wish()).flatMap((d) => d.sessions.flatMap((s) => s.children));
    const asked = all.flatMap(({ need, facts }) => facts.map(({ fact }) => isAt(need, fact)));
    expect(asked.filter(Boolean).length / asked.length).toBeGreaterThanOrEqual(0.6);
  });
});
