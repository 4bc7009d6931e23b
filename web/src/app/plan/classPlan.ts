import type { ChildView, ClassReadings } from '@vane/contract';
// Straight from its place: the index of core would bring all of it onto the first screen.
import type { Aim, PlannedChild, PlannedSitting, ProposeWish } from '@vane/core';
import { planClass, plannedChildren as planned, QUESTIONS } from '@vane/core/plan/classPlan';

/** Children of a class as a plan wants them, from what the server says of it. */
export const plannedChildren = (
  of: readonly ChildView[],
  { readings, asked }: Pick<ClassReadings, 'readings' | 'asked'>,
): PlannedChild[] =>
  planned(
    of.map((child) => ({ ...child, lastAskedAt: child.lastAskedAt === null ? null : Date.parse(child.lastAskedAt) })),
    readings,
    asked,
  );

/** The sittings `core` proposes for children of a class. To judge it has to be told what questions tell. */
export const sittingsFor = (
  of: readonly ChildView[],
  judged: Pick<ClassReadings, 'readings' | 'asked'>,
  aim: Aim,
  now: number,
  timeZone: string,
  gainOf?: ProposeWish['gainOf'],
): PlannedSitting[] =>
  planClass({
    children: plannedChildren(of, judged),
    now,
    timeZone,
    aim,
    count: QUESTIONS,
    ...(gainOf && { gainOf }),
  });
