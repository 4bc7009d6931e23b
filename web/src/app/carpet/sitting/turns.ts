import { postponeTurn, removeChild, returnChild, type Answered, type Ask, type Support, type Turn } from '@vane/core';

/** Who sits, by id and nickname. */
export interface Sitter {
  readonly id: string;
  readonly nickname: string;
  /** Adjustments for them. */
  readonly support?: readonly Support[];
}

/** What follows for a child from its answers so far; nothing more ends its part. */
export type Follow = (child: string, soFar: readonly Answered[]) => Ask[];

/** How a line of turns goes on. `shared`: all work on one thing; what follows depends on what everybody said, and the next child goes on. */
export interface TurnRules {
  readonly follow: Follow;
  readonly shared: boolean;
}

/** The line of turns: whose go with which question, who goes later, who is away, and what follows from the answers. Its functions give a new one. */
export interface Turns {
  readonly children: readonly Sitter[];
  readonly turns: readonly Turn[];
  readonly index: number;
  /** Turns of children who are away, to be put back. */
  readonly away: ReadonlyMap<string, readonly Turn[]>;
  /** Answers so far of each child; under the empty id those of all, where they work on one thing. */
  readonly soFar: ReadonlyMap<string, readonly Answered[]>;
  /** What followed from the answer before, so that it can be taken back with it. */
  readonly followed: readonly Turn[];
}

export const beginTurns = (children: readonly Sitter[], turns: readonly Turn[]): Turns => ({
  children,
  turns,
  index: 0,
  away: new Map(),
  soFar: new Map(),
  followed: [],
});

export const turnOf = ({ turns, index }: Turns): Turn => turns[index]!;
export const sitterOf = (line: Turns): Sitter => line.children.find((c) => c.id === turnOf(line).child)!;

/** Every child with the turns it has had. */
export function turnCounts(line: Turns) {
  const before = line.turns.slice(0, line.index);
  const { child: now } = turnOf(line);
  return line.children.map((child) => ({
    ...child,
    had: before.filter((t) => t.child === child.id).length,
    now: child.id === now,
    away: line.away.has(child.id),
  }));
}

const tellerOf = ({ shared }: TurnRules, child: string): string => (shared ? '' : child);

/** Whose go it is after this child's, round the circle. */
function after({ children, away }: Turns, child: string): string {
  const here = children.filter(({ id }) => id === child || !away.has(id));
  return here[(here.findIndex(({ id }) => id === child) + 1) % here.length]?.id ?? child;
}

/** Hands the turns from `at` on to the next child. */
function handOn(line: Turns, at: number): Turns {
  const next = after(line, line.turns[at]?.child ?? '');
  return { ...line, turns: line.turns.map((turn, i) => (i >= at ? { ...turn, child: next } : turn)) };
}

/** Goes on to the next turn, with what was answered in this one; where there is none, the line stays at its last. */
export function advance(rules: TurnRules, line: Turns, answered: Answered): { line: Turns; goes: boolean } {
  const { child } = turnOf(line);
  const teller = tellerOf(rules, child);
  const soFar = [...(line.soFar.get(teller) ?? []), answered];
  const at = line.index + 1;
  const asksMore = line.turns.some((turn, i) => i >= at && (rules.shared || turn.child === child));
  const next = rules.shared ? after(line, child) : child;
  const followed = asksMore ? [] : rules.follow(next, soFar).map((ask): Turn => ({ child: next, ask }));
  const alone = rules.shared ? followed.length : followed.findIndex(({ ask }) => !ask.goesOn);
  const first = alone < 0 ? followed : followed.slice(0, alone);
  const rest = followed.slice(first.length);
  const own = [...line.turns.slice(0, at), ...first, ...line.turns.slice(at)];
  const turns = rest.length > 0 ? returnChild(own, at + first.length, rest) : own;
  const goes = at < turns.length;
  return {
    line: { ...line, turns, followed, soFar: new Map(line.soFar).set(teller, soFar), index: goes ? at : line.index },
    goes,
  };
}

/** Back to the turn before, as if it had not been answered yet. */
export function stepBack(rules: TurnRules, line: Turns): Turns {
  const followed = new Set(line.followed.map(({ ask }) => ask));
  const back = {
    ...line,
    turns: line.turns.filter(({ ask }) => !followed.has(ask)),
    followed: [],
    index: line.index - 1,
  };
  const teller = tellerOf(rules, turnOf(back).child);
  return { ...back, soFar: new Map(line.soFar).set(teller, (line.soFar.get(teller) ?? []).slice(0, -1)) };
}

/** Whoever is to go now goes later. */
export const goLater = ({ shared }: TurnRules, line: Turns): Turns =>
  shared ? handOn(line, line.index) : { ...line, turns: postponeTurn(line.turns, line.index) };

/** A child leaves, or comes back, from the turn `at` on. The last one left cannot leave: the sitting is ended instead. */
export function toggleAway({ shared }: TurnRules, line: Turns, child: string, at: number): Turns {
  const gone = line.away.get(child);
  if (gone) {
    const away = new Map([...line.away].filter(([id]) => id !== child));
    return { ...line, turns: returnChild(line.turns, at, gone), away };
  }
  if (shared) {
    if (line.children.length - line.away.size < 2) return line;
    const left = { ...line, away: new Map(line.away).set(child, []) };
    return line.turns[at]?.child === child ? handOn(left, at) : left;
  }
  const { turns, taken } = removeChild(line.turns, at, child);
  if (taken.length === 0 || turns.length <= at) return line;
  return { ...line, turns, away: new Map(line.away).set(child, taken) };
}

/** It was another child of the group who answered at `at`: the go is theirs, and of the rest whoever has had fewest goes first. */
export function handTo({ shared }: TurnRules, line: Turns, at: number, child: string): Turns {
  const was = line.turns[at]?.child;
  if (was === child || !line.children.some(({ id }) => id === child)) return line;
  let end = at + 1;
  while (!shared && line.turns[end]?.child === was && line.turns[end]?.ask.goesOn) end++;
  const turns = line.turns.map((turn, i) => (i >= at && i < end ? { ...turn, child } : turn));
  const next = Math.max(end, line.index);
  return { ...line, turns: shared ? turns : returnChild(turns, next, []) };
}

/** Another child than was thought sits here: from now on the turns are its own. */
export function takeOver(line: Turns, child: Sitter): Turns {
  const { child: before } = turnOf(line);
  const said = line.soFar.get(before);
  return {
    ...line,
    soFar: said ? new Map(line.soFar).set(child.id, said) : line.soFar,
    children: line.children.some((c) => c.id === child.id)
      ? line.children
      : line.children.map((c) => (c.id === before ? child : c)),
    turns: line.turns.map((turn) => (turn.child === before ? { ...turn, child: child.id } : turn)),
  };
}
