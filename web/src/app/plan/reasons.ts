import type { PlannedSitting } from '@vane/core';
import { words } from '../language/words';

/** Children who sit together for the same reason, by name, and that reason. */
interface Reason {
  readonly who: string;
  readonly why: string;
}

/**
 * Why each child is in a session, in the order in which they sit; what is the same of several is told once.
 * @param listed the names of some children, by their ids
 */
export function reasonsOf(sitting: PlannedSitting, listed: (children: readonly string[]) => string): Reason[] {
  const byWords = new Map<string, string[]>();
  for (const one of sitting.children) {
    const why = words.plan.reason(one);
    byWords.set(why, [...(byWords.get(why) ?? []), one.child]);
  }
  return [...byWords].map(([why, children]) => ({ who: listed(children), why }));
}

/** How children of these names are listed. */
export const listedBy =
  (names: ReadonlyMap<string, string>) =>
  (children: readonly string[]): string =>
    words.listed(children.map((id) => names.get(id) ?? ''));
