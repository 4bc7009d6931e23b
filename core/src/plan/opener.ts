import type { RoutineId } from '../routines/routineIds';
import { nameOf, routinesFor, type Need } from './need';

/** What suits most of a class: the need that most children share, how many they are, and the routine that asks it. */
export interface Opener {
  readonly need: Need;
  readonly children: readonly string[];
  readonly routine: RoutineId;
}

/** The whole class's two minutes. null = nobody is planned for. */
export function openerFor(children: readonly { readonly child: string; readonly need: Need }[]): Opener | null {
  const needs = new Map<string, { need: Need; children: string[] }>();
  for (const { child, need } of children) {
    const so = needs.get(nameOf(need)) ?? { need, children: [] };
    so.children.push(child);
    needs.set(nameOf(need), so);
  }
  const [most] = [...needs.values()].sort((a, b) => b.children.length - a.children.length);
  const routine = most && routinesFor(most.need)[0];
  return routine ? { ...most, routine } : null;
}
