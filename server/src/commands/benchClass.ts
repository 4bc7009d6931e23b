import { simulateClass, type Condition, type SimulatedClass } from '@vane/core';

/** The moment up to which the bench's classes were asked. */
export const UNTIL = Date.parse('2026-11-25T12:00:00Z');

export function classOf(seed: number, children: number, weeks: number, condition: Condition = 'mixed'): SimulatedClass {
  let made = 0;
  const names = Array.from({ length: children }, (_, i) => `child-${i}`);
  return simulateClass({ seed, names, weeks, condition, until: UNTIL, makeId: () => `r${made++}` });
}
