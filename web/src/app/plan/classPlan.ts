import type { ChildView, ClassReadings } from '@vane/contract';
// Straight from its place: the index of core would bring all of it onto the first screen.
import type { Aim, PlannedSitting } from '@vane/core';
import { planClass, QUESTIONS, type PlannedChild } from '@vane/core/plan/classPlan';

/** Children of a class as a plan wants them, from what the server says of it. */
export const plannedChildren = (
  of: readonly ChildView[],
  judged: Pick<ClassReadings, 'readings' | 'asked'>,
): PlannedChild[] =>
  of.map((child) => ({
    child: child.id,
    readings: judged.readings.filter((r) => r.child === child.id),
    lastAsked: new Map(judged.asked.filter((a) => a.child === child.id).map((a) => [a.fact, a.at])),
    support: child.support,
    lastAskedAt: child.lastAskedAt === null ? null : Date.parse(child.lastAskedAt),
    ...(child.halfLifeDays === null ? {} : { halfLife: child.halfLifeDays }),
  }));

/** The sittings `core` proposes for children of a class. */
export const sittingsFor = (
  of: readonly ChildView[],
  judged: Pick<ClassReadings, 'readings' | 'asked'>,
  aim: Aim,
  now: number,
  timeZone: string,
): PlannedSitting[] => planClass({ children: plannedChildren(of, judged), now, timeZone, aim, count: QUESTIONS });
