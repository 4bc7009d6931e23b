import type { Ask } from '../routines/routine';

/** One child's go: whose, and which question. */
export interface Turn {
  readonly child: string;
  readonly ask: Ask;
}

/** Questions by child, each in its own order. */
export interface OwnAsks {
  readonly child: string;
  readonly asks: readonly Ask[];
}

/** Turns in rounds: everybody once before anybody twice, in the order given. */
export function dealTurns(groups: readonly OwnAsks[]): Turn[] {
  const rounds = Math.max(0, ...groups.map(({ asks }) => asks.length));
  return Array.from({ length: rounds }, (_, round) =>
    groups.flatMap(({ child, asks }): Turn[] => {
      const ask = asks[round];
      return ask ? [{ child, ask }] : [];
    }),
  ).flat();
}

const byChild = (turns: readonly Turn[]): OwnAsks[] =>
  [...new Set(turns.map((t) => t.child))].map((child) => ({
    child,
    asks: turns.filter((t) => t.child === child).map((t) => t.ask),
  }));

/** The child at `at` goes later: it changes places with the next child's turn. Nothing changes when no other child is left. */
export function later(turns: readonly Turn[], at: number): Turn[] {
  const next = turns.findIndex((turn, i) => i > at && turn.child !== turns[at]?.child);
  if (next < 0) return [...turns];
  const out = [...turns];
  [out[at], out[next]] = [out[next]!, out[at]!];
  return out;
}

/** Takes a child's turns from `at` on out of the line, and tells which they were. */
export function away(
  turns: readonly Turn[],
  at: number,
  child: string,
): { readonly turns: Turn[]; readonly taken: Turn[] } {
  const gone = (turn: Turn, i: number): boolean => i >= at && turn.child === child;
  return { turns: turns.filter((turn, i) => !gone(turn, i)), taken: turns.filter(gone) };
}

/** Puts a child's turns back into the line from `at` on: dealt anew, whoever has had fewest going first. */
export function back(turns: readonly Turn[], at: number, taken: readonly Turn[]): Turn[] {
  const had = (child: string): number => turns.slice(0, at).filter((t) => t.child === child).length;
  const rest = byChild([...turns.slice(at), ...taken]).sort((a, b) => had(a.child) - had(b.child));
  return [...turns.slice(0, at), ...dealTurns(rest)];
}
