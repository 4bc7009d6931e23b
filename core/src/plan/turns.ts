import { turnAround } from '../facts/turnAround';
import type { Ask } from '../routines/routine';

/** One child's go: whose, and which question. */
export interface Turn {
  readonly child: string;
  readonly ask: Ask;
}

/** Questions by child, each list in its own order. */
interface OwnAsks {
  readonly child: string;
  readonly asks: readonly Ask[];
}

/** Questions that belong together, one after another. */
const chainsOf = (asks: readonly Ask[]): Ask[][] => {
  const chains: Ask[][] = [];
  for (const ask of asks) {
    const last = chains[chains.length - 1];
    if (ask.goesOn && last) last.push(ask);
    else chains.push([ask]);
  }
  return chains;
};

/** The questions without those that ask one of these facts, or it turned round; all of them where nothing else is left. */
export function sparing(asks: readonly Ask[], facts: readonly string[]): Ask[] {
  const spared = new Set(facts.map((fact) => turnAround(fact) ?? fact));
  const left = chainsOf(asks).filter(
    (chain) => !chain.some(({ fact }) => fact !== null && spared.has(turnAround(fact) ?? fact)),
  );
  return left.length === 0 ? [...asks] : left.flat();
}

/** So many questions back, an answer that another child gave aloud is still in the ear. */
const IN_EAR = 20;

/** Turns in rounds: everybody once before anybody twice, in the order given; questions that belong together are one go. Where it can be had, nobody is asked what another child has just answered. */
export function dealTurns(groups: readonly OwnAsks[]): Turn[] {
  const goes = groups.map(({ child, asks }) => ({ child, chains: chainsOf(asks) }));
  const dealt: Turn[] = [];
  const heard = (child: string, chain: readonly Ask[]): boolean =>
    dealt
      .slice(-IN_EAR)
      .some((turn) => turn.child !== child && chain.some((ask) => !ask.warmUp && isSame(ask, turn.ask)));
  while (goes.some(({ chains }) => chains.length > 0)) {
    for (const { child, chains } of goes) {
      const next = chains.findIndex((chain) => !heard(child, chain));
      for (const ask of chains.splice(Math.max(0, next), 1)[0] ?? []) dealt.push({ child, ask });
    }
  }
  return dealt;
}

function isSame(one: Ask, other: Ask): boolean {
  const fact = one.fact === null ? null : turnAround(one.fact);
  return fact !== null && other.fact !== null && turnAround(other.fact) === fact;
}

const byChild = (turns: readonly Turn[]): OwnAsks[] =>
  [...new Set(turns.map((t) => t.child))].map((child) => ({
    child,
    asks: turns.filter((t) => t.child === child).map((t) => t.ask),
  }));

/** Where the go that begins at `from` ends: one child's questions that belong together. */
function endOfGo(turns: readonly Turn[], from: number): number {
  let end = from + 1;
  while (turns[end]?.child === turns[from]?.child && turns[end]?.ask.goesOn) end++;
  return end;
}

/** The child at `at` goes later: it changes places with the next child's go. Nothing changes when no other child is left. */
export function postponeTurn(turns: readonly Turn[], at: number): Turn[] {
  const next = turns.findIndex((turn, i) => i > at && turn.child !== turns[at]?.child);
  if (next < 0) return [...turns];
  const [ownEnd, nextEnd] = [endOfGo(turns, at), endOfGo(turns, next)];
  return [
    ...turns.slice(0, at),
    ...turns.slice(next, nextEnd),
    ...turns.slice(ownEnd, next),
    ...turns.slice(at, ownEnd),
    ...turns.slice(nextEnd),
  ];
}

/** Takes a child's turns from `at` on out of the line, and tells which they were. */
export function removeChild(
  turns: readonly Turn[],
  at: number,
  child: string,
): { readonly turns: Turn[]; readonly taken: Turn[] } {
  const gone = (turn: Turn, i: number): boolean => i >= at && turn.child === child;
  return { turns: turns.filter((turn, i) => !gone(turn, i)), taken: turns.filter(gone) };
}

/** Puts a child's turns back into the line from `at` on: dealt anew, whoever has had fewest going first. */
export function returnChild(turns: readonly Turn[], at: number, taken: readonly Turn[]): Turn[] {
  const had = (child: string): number => turns.slice(0, at).filter((t) => t.child === child).length;
  const rest = byChild([...turns.slice(at), ...taken]).sort((a, b) => had(a.child) - had(b.child));
  return [...turns.slice(0, at), ...dealTurns(rest)];
}
