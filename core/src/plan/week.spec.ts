import { simulateClass } from '../rehearsal/class';
import { HARBOUR_CHILDREN } from '../rehearsal/names';
import { judgeClass } from '../reading/judgeChild';
import { DEFAULT_READING_SETTINGS } from '../reading/reading';
import { isAt } from './need';
import { planWeek, type WeekWish } from './week';

const DAY = 86_400_000;
const MONDAY = Date.UTC(2026, 10, 30, 9);
let made = 0;
const names = HARBOUR_CHILDREN.slice(0, 24);
const { responses } = simulateClass({ seed: 3, names, weeks: 3, until: MONDAY, makeId: () => `r${made++}` });
const children = judgeClass(responses, { settings: DEFAULT_READING_SETTINGS }).map(({ estimate, readings }) => {
  const own = responses.filter((r) => r.child === estimate.child);
  return {
    child: estimate.child,
    readings,
    lastAsked: new Map(own.map((r) => [r.fact, r.shownAt])),
    lastAskedAt: Math.max(...own.map((r) => r.shownAt)),
  };
});
const wish = (more: Partial<WeekWish> = {}): WeekWish => ({
  children,
  days: [0, 1, 2, 3, 4].map((day) => MONDAY + day * DAY),
  timeZone: 'UTC',
  adults: 2,
  minutes: 15,
  group: 4,
  times: 2,
  seed: 1,
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

  it('is the same for the same seed, another for another', () => {
    const who = (seed: number): string =>
      planWeek(wish({ seed }))
        .map((d) => d.sessions.map((s) => s.children.map((c) => c.child).join('+')).join())
        .join('|');
    expect(who(5)).toBe(who(5));
    expect(who(5)).not.toBe(who(6));
  });
});
