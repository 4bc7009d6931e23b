import type { DayPlan, Sent } from '@vane/contract';
import type { PlannedSitting, RoutineId } from '@vane/core';
import { childrenOf } from '../plan/classPlan';
import { needsOfAll } from '@vane/core/plan/classPlan';

/** The sittings as the teacher wants them: without those whose children were all put off; pinned ones first, then those ordered by hand, then as proposed. */
export function arranged(sittings: readonly PlannedSitting[], { pinned, skipped, order }: DayPlan): PlannedSitting[] {
  const off = new Set(skipped.flatMap(childrenOf));
  const rank = (id: string): number => {
    const byHand = order.indexOf(id);
    return (pinned.includes(id) ? 0 : 1000) + (byHand < 0 ? 500 : byHand);
  };
  return sittings
    .filter(({ children }) => !children.every(({ child }) => off.has(child)))
    .sort((a, b) => rank(a.id) - rank(b.id));
}

/** With children swapped, each with their own questions, in the places of one another. */
export function withSwaps(sittings: readonly PlannedSitting[], swapped: DayPlan['swapped']): PlannedSitting[] {
  const all = new Map(sittings.flatMap(({ children }) => children.map((c) => [c.child, c] as const)));
  const place = new Map([...all.keys()].map((child) => [child, child]));
  for (const [a, b] of swapped) {
    const [atA, atB] = [place.get(a), place.get(b)];
    if (atA === undefined || atB === undefined) continue;
    place.set(a, atB).set(b, atA);
  }
  return sittings.map((sitting) => {
    const children = sitting.children.map(({ child }) => all.get(place.get(child) ?? child)!);
    return { ...sitting, children, needs: needsOfAll(children) };
  });
}

/** A session as a sheet for a helper: each child's own questions, in order. */
export function sheetOf(
  { needs, minutes, children }: PlannedSitting,
  opener: RoutineId | null,
): Sent<'POST /classes/:classId/group-sheets'>['body'] {
  const asked = Object.fromEntries(
    children.map(({ child, facts }) => [child, facts.map(({ fact, form }) => ({ fact, form }))]),
  );
  return {
    children: children.map(({ child }) => child),
    facts: [...new Set(Object.values(asked).flatMap((asks) => asks.map(({ fact }) => fact)))],
    session: { needs: [...needs], opener, minutes, asked },
  };
}
