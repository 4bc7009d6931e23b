import fc from '../testing/property';
import { factText } from '../facts/fact';
import type { Reading } from '../reading/reading';
import { someReading } from '../testing/reading';
import { minutesOf, plannedFor, QUESTIONS, type PlannedChild } from './classPlan';
import { apart } from './need';
import { planDay, seatsIn, type DayWish, type PlannedDay } from './day';
import { planWeek } from './week';

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 10, 25, 9);
/** The more days it was right on, the slower it fades. */
const reading = (fact: string, p: number): Reading =>
  someReading(fact, { pAutomatic: p, reading: p > 0.8 ? 'knows' : 'counts', days: 1 + (fact.charCodeAt(0) % 4) });
/** A child who sees amounts, knows the sums below a number and counts those of it: children of different numbers need different things. */
const sumsBelow = (number: number): Reading[] => [
  ...Array.from({ length: 10 }, (_, i) => reading(`show:${i + 1}:frame-fives`, 0.95)),
  ...Array.from({ length: 5 }, (_, i) => reading(`show:${i + 1}:five`, 0.95)),
  ...Array.from({ length: 6 }, (_, i) => reading(`${i}+?=5`, number > 5 ? 0.95 : 0.4)),
  ...Array.from({ length: number + 1 }, (_, whole) =>
    Array.from({ length: whole + 1 }, (_, a) => reading(factText('add', whole, a), whole < number ? 0.95 : 0.35)),
  ).flat(),
];
/** Asked its facts on different days and hours, the last of them so many days ago. */
function child(name: string, number: number, daysAgo: number | null): PlannedChild {
  const readings = daysAgo === null ? [] : sumsBelow(number);
  const at = NOW - (daysAgo ?? 0) * DAY;
  const lastAsked = new Map(readings.map(({ fact }, i) => [fact, at - (i % 7) * DAY - (i % 5) * 1_800_000]));
  return { child: name, readings, lastAsked, lastAskedAt: daysAgo === null ? null : at };
}
const wish = (children: readonly PlannedChild[], more: Partial<DayWish> = {}): DayWish => ({
  children,
  now: NOW,
  timeZone: 'UTC',
  aim: 'practise',
  adults: 1,
  minutes: 20,
  group: 4,
  ...more,
});
const heard = ({ sessions }: Pick<PlannedDay, 'sessions'>): string[] =>
  sessions.flatMap(({ children }) => children.map((one) => one.child));
const work = ({ sessions }: PlannedDay, adults: number): number[] =>
  Array.from({ length: adults }, (_, i) => sessions.reduce((sum, s) => sum + (s.adult === i ? s.minutes : 0), 0));

/** A class of any size, who wait for any number of days. */
const classes = fc
  .array(fc.record({ number: fc.integer({ min: 3, max: 10 }), daysAgo: fc.integer({ min: -1, max: 12 }) }), {
    minLength: 1,
    maxLength: 24,
  })
  .map((all) => all.map(({ number, daysAgo }, i) => child(`child ${i}`, number, daysAgo < 0 ? null : daysAgo)));
const days = fc.record({
  children: classes,
  minutes: fc.integer({ min: 1, max: 30 }),
  adults: fc.integer({ min: 1, max: 3 }),
  group: fc.integer({ min: 1, max: 6 }),
});

describe('a day’s plan', () => {
  it('is made for its minutes: nobody works longer, and little is left of them while somebody waits', () => {
    fc.assert(
      fc.property(days, ({ children, ...more }) => {
        const day = planDay(wish(children, more));
        const loads = work(day, more.adults);
        expect(Math.max(...loads)).toBeLessThanOrEqual(more.minutes);
        expect(heard(day).length).toBeGreaterThan(0);
        if (day.later.length > 0 && day.sessions.length > 0)
          expect(more.minutes - Math.min(...loads)).toBeLessThanOrEqual(4);
        for (const { children: together } of day.sessions) expect(together.length).toBeLessThanOrEqual(more.group);
      }),
      { numRuns: 60 },
    );
  });

  it('hears nobody before everybody who is there and has waited longer, and leaves nobody out', () => {
    fc.assert(
      fc.property(days, ({ children, ...more }) => {
        const day = planDay(wish(children, more));
        const here = new Set(heard(day));
        const later = day.later.flatMap((session) => session.children.map((one) => one.child));
        expect([...here, ...later].sort()).toEqual(children.map((one) => one.child).sort());
        const waited = (name: string): number => {
          const at = children.find((one) => one.child === name)!.lastAskedAt;
          return at === null ? Infinity : NOW - at;
        };
        const shortest = Math.min(...[...here].map(waited));
        for (const name of later) expect(waited(name)).toBeLessThanOrEqual(shortest);
      }),
      { numRuns: 60 },
    );
  });

  it('is the same at any moment of a day of the school, with the answers as they are', () => {
    fc.assert(
      fc.property(days, fc.integer({ min: -9, max: 14 }), ({ children, ...more }, hours) => {
        const then = planDay(wish(children, { ...more, now: NOW + hours * 3_600_000 }));
        expect(then).toEqual(planDay(wish(children, more)));
      }),
      { numRuns: 30 },
    );
  });

  it('asks each child the same whatever the minutes, the company and who is away; so does the week', () => {
    fc.assert(
      fc.property(days, ({ children, ...more }) => {
        const of = new Map(plannedFor(wish(children)).map((one) => [one.child, one]));
        const all = planDay(wish(children, { ...more, minutes: Math.max(2, more.minutes) }));
        for (const one of [...all.sessions, ...all.later].flatMap((session) => session.children))
          expect(one).toEqual(of.get(one.child));
        const [first] = planWeek({ ...wish(children, more), minutes: 20, days: [NOW - 3_600_000], times: 5 });
        for (const one of first!.sessions.flatMap((session) => session.children))
          expect(one).toEqual(of.get(one.child));
      }),
      { numRuns: 30 },
    );
  });

  it('is shorter with few minutes, and fills many', () => {
    const children = Array.from({ length: 24 }, (_, i) => child(`child ${i}`, 3 + (i % 6), 1 + (i % 9)));
    const used = [1, 2, 4, 8, 12, 20].map((minutes) => work(planDay(wish(children, { minutes })), 1)[0]!);
    expect(used).toEqual([1, 2, 4, 7, 11, 19]);
    // One minute is four questions for one child.
    expect(planDay(wish(children, { minutes: 1 })).sessions[0]?.children.map((one) => one.facts.length)).toEqual([4]);
  });

  it('gives adults equal work', () => {
    const children = Array.from({ length: 24 }, (_, i) => child(`child ${i}`, 3 + (i % 6), 1 + (i % 9)));
    for (const [adults, minutes] of [
      [2, 15],
      [3, 12],
      [3, 20],
    ] as const) {
      const day = planDay(wish(children, { adults, minutes, most: 10 }));
      const loads = work(day, adults);
      expect(Math.max(...loads) - Math.min(...loads)).toBeLessThanOrEqual(minutesOf(2, QUESTIONS));
    }
    // Four who could sit together are two and two where there are two adults.
    const alike = ['a', 'b', 'c', 'd'].map((name) => child(name, 6, 2));
    expect(planDay(wish(alike, { adults: 2 })).sessions.map((one) => one.children.length)).toEqual([2, 2]);
    // More adults hear more children.
    const counts = [1, 2, 3].map((adults) => heard(planDay(wish(children, { adults, minutes: 8 }))).length);
    expect(counts[0]).toBeLessThan(counts[1]!);
    expect(counts[1]).toBeLessThan(counts[2]!);
  });

  it('puts children with the same or a neighbouring need together, and new company first', () => {
    const children = ['a', 'b', 'c', 'd', 'e'].map((name) => child(name, 6, 2)).concat(child('z', 10, 2));
    const day = planDay(wish(children));
    for (const { children: own } of day.sessions)
      expect(own.every((one) => apart(own[0]!.need, one.need) <= 1)).toBe(true);
    const first = day.sessions[0]!.children[0]!.child;
    const others = ['a', 'b', 'c', 'd', 'e'].filter((name) => name !== first);
    const met = new Map([[first, new Set(others.slice(0, 3))]]);
    const again = planDay(wish(children, { group: 2, met }));
    expect(again.sessions.find((s) => s.children[0]!.child === first)?.children[1]?.child).toBe(others[3]);
  });

  it('mixes those who have waited equally long anew every day', () => {
    const children = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'].map((name) => child(name, 6, null));
    const firstOn = (day: number): string =>
      heard(planDay(wish(children, { now: NOW + day * DAY, minutes: 8 }))).join('');
    expect(new Set([0, 1, 2, 3, 4, 5].map(firstOn)).size).toBeGreaterThan(3);
  });

  it('counts the days since a child was asked by the school’s calendar', () => {
    const since = (timeZone: string): number | null | undefined =>
      // Asked at ten in the evening of UTC, which is the next morning in Sydney.
      plannedFor(wish([{ ...child('Ivo', 6, 1), lastAskedAt: NOW - 11 * 3_600_000 }], { timeZone }))[0]?.daysSince;
    expect([since('UTC'), since('Australia/Sydney'), since('Pacific/Honolulu')]).toEqual([1, 0, 0]);
  });
});

describe('the children an adult can hear', () => {
  it.each([
    [8, 4, 4],
    [15, 4, 8],
    [20, 4, 11],
    [4, 4, 2],
    [1, 4, 0],
    [8, 1, 4],
  ])('in %d minutes, at most %d together: %d', (minutes, group, seats) => expect(seatsIn(minutes, group)).toBe(seats));
});
