import type { PlannedSitting } from '@vane/core';
import { words } from '../language/words';

/** Children who sit together for the same reason, and that reason. */
interface Reason {
  readonly children: readonly string[];
  readonly why: string;
}

/** Why each child is in a session, in the order in which they sit; what is the same of several is told once. */
export function reasonsOf(sitting: PlannedSitting): Reason[] {
  const byWords = new Map<string, string[]>();
  for (const one of sitting.children) {
    const why = words.plan.reason(one);
    byWords.set(why, [...(byWords.get(why) ?? []), one.child]);
  }
  return [...byWords].map(([why, children]) => ({ children, why }));
}
