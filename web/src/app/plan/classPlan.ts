import type { ChildView, ClassReadings, DayPlan, WeekSettings } from '@vane/contract';
// Straight from its place: the index of core would bring all of it onto the first screen.
import type { ChildNeed, PlannedChild, PlannedDay, ProposeWish } from '@vane/core';
import { plannedFor, plannedChildren as planned } from '@vane/core/plan/classPlan';
import { planDay } from '@vane/core/plan/day';
import { schoolDays } from '@vane/core/time/schoolDay';
import { awayOn } from './arrangements';

/** What the server says of a class. */
interface Judged {
  readonly children: readonly ChildView[];
  readonly judged: Pick<ClassReadings, 'readings' | 'asked'>;
  readonly timeZone: string;
}

/** Children of a class as a plan wants them. */
export const plannedChildren = ({ children, judged }: Omit<Judged, 'timeZone'>): PlannedChild[] =>
  planned(
    children.map((child) => ({
      ...child,
      lastAskedAt: child.lastAskedAt === null ? null : Date.parse(child.lastAskedAt),
    })),
    judged.readings,
    judged.asked,
  );

/** What each child practises next: what every place says of a child. */
export const needsFor = (of: Judged, now: number): ChildNeed[] =>
  plannedFor({ children: plannedChildren(of), now, timeZone: of.timeZone, aim: 'practise' });

/** The day's sessions for one adult, made for the minutes there are and for those who are there. */
export function dayFor(
  of: Judged,
  day: Pick<DayPlan, 'aim' | 'minutes'>,
  week: WeekSettings,
  now: number,
  gainOf?: ProposeWish['gainOf'],
): PlannedDay {
  const { timeZone } = of;
  const away = new Set(awayOn(week, schoolDays(timeZone)(now)));
  return planDay({
    children: plannedChildren(of).filter(({ child }) => !away.has(child)),
    now,
    timeZone,
    aim: day.aim,
    adults: 1,
    minutes: day.minutes,
    group: week.group,
    ...(gainOf && { gainOf }),
  });
}

/** Whose session it is, by its name. */
export const childrenOf = (session: string): string[] => session.split(' ');
