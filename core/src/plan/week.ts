import { seeded, shuffled } from '../random/random';
import { mondayOf, schoolDays, type DayOf } from '../time/schoolDay';
import {
  company,
  minutesOf,
  QUESTIONS,
  sessionOf,
  type ChildNeed,
  type PlannedChild,
  type PlannedSitting,
} from './classPlan';
import type { Need } from './need';
import { offeredTo, type ProposeWish } from './propose';
import { sessionsOf } from './session';

export interface WeekWish {
  readonly children: readonly PlannedChild[];
  /** Teaching days: moments within them, milliseconds since 1970, in order. */
  readonly days: readonly number[];
  readonly timeZone: string;
  /** Adults who can hear children at the same time, and the minutes of each a day. */
  readonly adults: number;
  readonly minutes: number;
  /** Most children in a session. */
  readonly group: number;
  /** How often each child is to be heard in a calendar week. */
  readonly times: number;
  readonly seed: number;
  /** Children who are away on a day, by its place: they wait for the next one that fits. */
  readonly away?: (child: string, day: number) => boolean;
}

export interface WeekDay {
  /** As it was given. */
  readonly day: number;
  /** By adult, from 0. */
  readonly sessions: readonly (PlannedSitting & { readonly adult: number })[];
}

/** Days between two sessions of a child are best as many as this; a child heard yesterday waits unless there is room. */
const GAP_DAYS = 2;

/**
 * A week of sessions, cheap by `weekCost`, made greedily day by day: first whoever would otherwise be heard too seldom in the calendar week, then whoever has been heard least often in it and has
 * waited longest; groups as large as the same or a neighbouring need and the adults' minutes allow; among children who are equal, company that has not worked together in these days. Where time is too
 * short for everybody it is shared evenly. Deterministic by seed.
 */
export function planWeek(wish: WeekWish): WeekDay[] {
  const { days, timeZone, adults, minutes, group, times, seed } = wish;
  const dayOf = schoolDays(timeZone);
  const lastDay = new Map(
    wish.children.map(({ child, lastAskedAt }) => [child, lastAskedAt === null ? -Infinity : dayOf(lastAskedAt)]),
  );
  // By calendar week: what was done in it before the first of the days counts too.
  const monday = mondayOf(dayOf(days[0] ?? 0));
  const inWeek = new Map(
    wish.children.map(({ child, lastAsked }) => [`${child} ${monday}`, weekDaysAsked(lastAsked, monday, dayOf)]),
  );
  const heardInWeek = (child: string, day: number): number => inWeek.get(`${child} ${mondayOf(day)}`) ?? 0;
  const met = new Map<string, Set<string>>(wish.children.map(({ child }) => [child, new Set()]));
  const offers = new Map(
    wish.children.map((one) => [
      one.child,
      offeredTo({ readings: one.readings, aim: 'practise', ...(one.support && { support: one.support }) }),
    ]),
  );
  const asked = new Map(wish.children.map((one) => [one.child, new Map(one.lastAsked)]));

  const numbered = days.map(dayOf);
  /** Days of a whole week, as far as these days show one. */
  const perWeek = Math.max(...numbered.map((from) => numbered.filter((d) => d >= from && d < from + 7).length), 1);
  // Where there is not time for everybody, nobody is heard again before the others.
  const ample = perWeek * adults * seatsIn(minutes, Infinity) >= wish.children.length * times;
  // Spread over the days, a little ahead: the last day's share is left for those who were away.
  const quota = Math.ceil((wish.children.length * times) / Math.max(1, perWeek - 1));

  return days.map((day, i): WeekDay => {
    const today = dayOf(day);
    /** Days on which a child can still be heard in this calendar week, this one among them; of a week that these days do not end with, as many as a week usually has. */
    const ofWeek = numbered.filter((d) => mondayOf(d) === mondayOf(today));
    const gone = ofWeek.filter((d) => d < today).length;
    const goesOn = mondayOf(numbered.at(-1)!) === mondayOf(today) && mondayOf(today) !== monday;
    const leftOfWeek = (goesOn ? Math.max(perWeek, ofWeek.length) : ofWeek.length) - gone;
    const random = seeded(seed + i);
    const wishOf = (one: PlannedChild): ProposeWish => ({
      ...one,
      lastAsked: asked.get(one.child)!,
      offer: offers.get(one.child)!,
      now: day,
      timeZone,
      aim: 'practise',
      count: QUESTIONS,
    });
    const sessions = new Map<string, ReturnType<typeof sessionsOf>>();
    const again = (one: ChildNeed, need?: Need): ChildNeed => ({ ...one, ...sessions.get(one.child)!(need) });
    const missing = (child: string): number => times - heardInWeek(child, today);
    /** Would be heard too seldom in this week, if not on each of its days that are left. */
    const isLate = ({ child }: ChildNeed): boolean => missing(child) > 0 && missing(child) >= leftOfWeek;
    const urgency = (one: ChildNeed): number => {
      const wanted = missing(one.child) > 0 ? 1000 : 0;
      const rested = (one.daysSince ?? Infinity) >= GAP_DAYS ? 500 : 0;
      return (isLate(one) ? 4000 : 0) + wanted + rested + 100 * missing(one.child) + Math.min(99, one.daysSince ?? 99);
    };
    const left = shuffled(
      random,
      wish.children.filter(({ child }) => !wish.away?.(child, i)).sort((a, b) => (a.child < b.child ? -1 : 1)),
    )
      .map((one): ChildNeed => {
        const since = today - lastDay.get(one.child)!;
        const own = sessionsOf(wishOf(one));
        sessions.set(one.child, own);
        return { child: one.child, daysSince: Number.isFinite(since) ? since : null, ...own() };
      })
      .sort((a, b) => urgency(b) - urgency(a));
    const room = Array.from({ length: adults }, () => minutes);
    const planned: (PlannedSitting & { adult: number })[] = [];
    let inSession = 0;
    for (;;) {
      const first = left.find(({ child }) => missing(child) > 0);
      const adult = room.indexOf(Math.max(...room));
      const seats = seatsIn(room[adult] ?? 0, group);
      // Whoever is late is heard today, whatever the day's share.
      if (!first || seats < 1 || (inSession >= quota && !isLate(first))) break;
      const most = ample ? times : heardInWeek(first.child, today) + 1;
      const others = left.filter((one) => one !== first && heardInWeek(one.child, today) < most);
      // New company first, among those with needs equally near.
      const known = met.get(first.child)!;
      const together = company(
        first,
        [...others].sort((a, b) => Number(known.has(a.child)) - Number(known.has(b.child))),
        seats,
        again,
      );
      for (const one of together) {
        left.splice(
          left.findIndex(({ child }) => child === one.child),
          1,
        );
        inSession++;
        inWeek.set(`${one.child} ${mondayOf(today)}`, heardInWeek(one.child, today) + 1);
        lastDay.set(one.child, today);
        for (const { fact } of one.facts) asked.get(one.child)!.set(fact, day);
        for (const other of together) if (other !== one) met.get(one.child)!.add(other.child);
      }
      const session = sessionOf(together, QUESTIONS);
      room[adult]! -= session.minutes;
      planned.push({ ...session, adult });
    }
    return { day, sessions: planned };
  });
}

/** On how many days since a Monday a child was asked anything, by when each fact was asked last. */
export const weekDaysAsked = (lastAsked: ReadonlyMap<string, number>, monday: number, dayOf: DayOf): number =>
  new Set([...lastAsked.values()].map(dayOf).filter((d) => d >= monday)).size;

/** How many children an adult can hear in the minutes left. */
function seatsIn(minutes: number, group: number): number {
  let seats = 0;
  while (seats < group && minutesOf(seats + 1, QUESTIONS) <= minutes) seats++;
  return seats;
}
