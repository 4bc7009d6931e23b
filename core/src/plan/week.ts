import { seeded, shuffled } from '../random/random';
import { mondayOf, schoolDays } from '../time/schoolDay';
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
  /** How often each child is to be heard in the week. */
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
 * A week of sessions. Objective, day by day: hear first whoever has been heard least often this week, before and in these days, and has waited longest; fill the adults' minutes with groups as
 * large as the same or a neighbouring need allows; among children who are equal, prefer company that has not worked together this week. Where time is too short for
 * everybody it is shared evenly. Deterministic by seed.
 */
export function planWeek(wish: WeekWish): WeekDay[] {
  const { days, timeZone, adults, minutes, group, times, seed } = wish;
  const dayOf = schoolDays(timeZone);
  const heard = new Map(wish.children.map(({ child }) => [child, 0]));
  const lastDay = new Map(
    wish.children.map(({ child, lastAskedAt }) => [child, lastAskedAt === null ? -Infinity : dayOf(lastAskedAt)]),
  );
  // What was done this week before the first of the days counts for the days that are left of it.
  const monday = mondayOf(dayOf(days[0] ?? 0));
  const before = new Map(
    wish.children.map(({ child, lastAsked }) => [
      child,
      new Set([...lastAsked.values()].map(dayOf).filter((d) => d >= monday)).size,
    ]),
  );
  const met = new Map<string, Set<string>>(wish.children.map(({ child }) => [child, new Set()]));
  const offers = new Map(
    wish.children.map((one) => [
      one.child,
      offeredTo({ readings: one.readings, aim: 'practise', ...(one.support && { support: one.support }) }),
    ]),
  );
  const asked = new Map(wish.children.map((one) => [one.child, new Map(one.lastAsked)]));

  // Where there is not time for everybody, nobody is heard again before the others.
  const seatsADay = adults * seatsIn(minutes, Infinity);
  const ample = days.length * seatsADay >= wish.children.length * times;

  // Spread over the days: no day has much more than its share.
  const quota = Math.ceil((wish.children.length * times) / days.length);

  return days.map((day, i): WeekDay => {
    const today = dayOf(day);
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
    function urgency({ child, daysSince }: ChildNeed): number {
      const wanted = heard.get(child)! < times ? 1000 : 0;
      const rested = (daysSince ?? Infinity) >= GAP_DAYS ? 500 : 0;
      const already = mondayOf(today) === monday ? before.get(child)! : 0;
      return wanted + rested - 100 * (heard.get(child)! + already) + Math.min(99, daysSince ?? 99);
    }
    const room = Array.from({ length: adults }, () => minutes);
    const planned: (PlannedSitting & { adult: number })[] = [];
    let inSession = 0;
    for (;;) {
      const first = left.find(({ child }) => heard.get(child)! < times);
      const adult = room.indexOf(Math.max(...room));
      const seats = seatsIn(room[adult] ?? 0, group);
      if (!first || seats < 1 || inSession >= quota) break;
      const most = ample ? times : heard.get(first.child)! + 1;
      const others = left.filter((one) => one !== first && heard.get(one.child)! < most);
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
        heard.set(one.child, heard.get(one.child)! + 1);
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

/** How many children an adult can hear in the minutes left. */
function seatsIn(minutes: number, group: number): number {
  let seats = 0;
  while (seats < group && minutesOf(seats + 1, QUESTIONS) <= minutes) seats++;
  return seats;
}
