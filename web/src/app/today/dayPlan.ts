import type { DayPlan } from '@vane/contract';
import type { PlannedSitting } from '@vane/core';
import { needsOfAll } from '@vane/core/plan/classPlan';

/** The sittings as the teacher wants them: skipped ones left out; pinned ones first, then those ordered by hand, then as proposed. */
export function arranged(sittings: readonly PlannedSitting[], { pinned, skipped, order }: DayPlan): PlannedSitting[] {
  const rank = (id: string): number => {
    const byHand = order.indexOf(id);
    return (pinned.includes(id) ? 0 : 1000) + (byHand < 0 ? 500 : byHand);
  };
  return sittings.filter(({ id }) => !skipped.includes(id)).sort((a, b) => rank(a.id) - rank(b.id));
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
