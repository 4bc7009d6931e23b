import type { ClassReadings, ClassView } from '@vane/contract';
import { planClass, type Aim, type PlannedSitting } from '@vane/core';

/** Questions for each child in a sitting. */
const QUESTIONS = 8;

/** The sittings `core` proposes for a class, from what the server says of it. */
export function sittingsFor(view: ClassView, judged: ClassReadings, aim: Aim, now: number): PlannedSitting[] {
  const children = view.children.map((child) => ({
    child: child.id,
    readings: judged.readings.filter((r) => r.child === child.id),
    lastAsked: new Map(judged.asked.filter((a) => a.child === child.id).map((a) => [a.fact, a.at])),
    lastAskedAt: child.lastAskedAt === null ? null : Date.parse(child.lastAskedAt),
    ...(child.halfLifeDays === null ? {} : { halfLife: child.halfLifeDays }),
  }));
  return planClass({ children, now, aim, count: QUESTIONS });
}
