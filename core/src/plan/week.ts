import { mondayOf, schoolDays } from '../time/schoolDay';
import { weekDaysAsked, type PlannedChild } from './classPlan';
import { planDay, seatsIn, type AdultSession, type DayWish } from './day';
import { offeredTo } from './propose';

export interface WeekWish extends Pick<DayWish, 'children' | 'timeZone' | 'adults' | 'minutes' | 'group'> {
  /** Teaching days: moments within them, milliseconds since 1970, in order. */
  readonly days: readonly number[];
  /** How often each child is to be heard in a calendar week. */
  readonly times: number;
  /** Children who are away on a day, by its place: they wait for the next one that fits. */
  readonly away?: (child: string, day: number) => boolean;
}

export interface WeekDay {
  /** As it was given. */
  readonly day: number;
  readonly sessions: readonly AdultSession[];
}

/** Days between two sessions of a child, where there are enough; a child heard yesterday waits. */
const GAP_DAYS = 2;

/**
 * A week of sessions: each day as `planDay` makes it, from what the days before it will have done. Nobody is heard more often than wanted in a calendar week; where there is time for everybody, the days
 * share it, the first ones a little more, so that the last is there for those who were away.
 */
export function planWeek(wish: WeekWish): WeekDay[] {
  const { days, timeZone, adults, minutes, group, times } = wish;
  const dayOf = schoolDays(timeZone);
  const numbered = days.map(dayOf);
  const monday = mondayOf(numbered[0] ?? 0);
  /** Days of a whole week, as far as these days show one. */
  const perWeek = Math.max(...numbered.map((from) => numbered.filter((d) => d >= from && d < from + 7).length), 1);
  const ample = perWeek * adults * seatsIn(minutes, group) >= wish.children.length * times;
  const share = ample ? Math.ceil((wish.children.length * times) / Math.max(1, perWeek - 1)) : Infinity;
  // What was done in the first calendar week before the first of the days counts too.
  const heard = new Map(
    wish.children.map(({ child, lastAsked }) => [`${child} ${monday}`, weekDaysAsked(lastAsked, monday, dayOf)]),
  );
  const heardIn = (child: string, day: number): number => heard.get(`${child} ${mondayOf(day)}`) ?? 0;
  const met = new Map<string, Set<string>>(wish.children.map(({ child }) => [child, new Set()]));
  let children: readonly PlannedChild[] = wish.children.map((one) => ({
    ...one,
    offer: offeredTo({ readings: one.readings, aim: 'practise', ...(one.support && { support: one.support }) }),
  }));

  return days.map((day, i): WeekDay => {
    const today = dayOf(day);
    const left = daysLeft(numbered, today, monday, perWeek);
    const missing = ({ child }: PlannedChild): number => times - heardIn(child, today);
    /** Would be heard too seldom in this week, if not on each of its days that are left. */
    const isLate = (one: PlannedChild): boolean => missing(one) > 0 && missing(one) >= left;
    const rested = ({ lastAskedAt }: PlannedChild): boolean =>
      lastAskedAt === null || today - dayOf(lastAskedAt) >= GAP_DAYS;
    const here = children.filter(
      (one) => !wish.away?.(one.child, i) && missing(one) > 0 && (!ample || isLate(one) || rested(one)),
    );
    // Whoever is late is heard today, whatever the day's share, and with them whoever has waited longer.
    const asked = (one: PlannedChild): number => (one.lastAskedAt === null ? -Infinity : dayOf(one.lastAskedAt));
    const latest = Math.max(...here.filter(isLate).map(asked));
    const most = Math.max(share, here.filter((one) => asked(one) <= latest).length);
    const { sessions } = planDay({
      children: here,
      now: day,
      timeZone,
      aim: 'practise',
      adults,
      minutes,
      group,
      most,
      met,
    });
    for (const together of sessions)
      for (const { child } of together.children) {
        heard.set(`${child} ${mondayOf(today)}`, heardIn(child, today) + 1);
        for (const other of together.children) if (other.child !== child) met.get(child)!.add(other.child);
      }
    const facts = new Map(sessions.flatMap((s) => s.children.map((one) => [one.child, one.facts] as const)));
    children = children.map((one) => {
      const own = facts.get(one.child);
      if (!own) return one;
      const lastAsked = new Map([...one.lastAsked, ...own.map(({ fact }) => [fact, day] as const)]);
      return { ...one, lastAskedAt: day, ahead: true, lastAsked };
    });
    return { day, sessions };
  });
}

/** Days on which a child can still be heard in the calendar week of a day, this one among them; of a week that these days do not end with, as many as a week usually has. */
function daysLeft(days: readonly number[], today: number, firstMonday: number, perWeek: number): number {
  const ofWeek = days.filter((d) => mondayOf(d) === mondayOf(today));
  const gone = ofWeek.filter((d) => d < today).length;
  const goesOn = mondayOf(days.at(-1)!) === mondayOf(today) && mondayOf(today) !== firstMonday;
  return (goesOn ? Math.max(perWeek, ofWeek.length) : ofWeek.length) - gone;
}
