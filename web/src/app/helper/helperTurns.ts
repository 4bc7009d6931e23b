import type { HelperAnswer, HelperSheet } from '@vane/contract';
import { dealTurns, plannedAsks, seeded, type Ask } from '@vane/core';

/** One question of one child on a helper's sheet. */
export interface HelperTurn {
  readonly child: string;
  readonly nickname: string;
  /** Of the child's questions, from 0. */
  readonly place: number;
  readonly ask: Ask;
  /** Milliseconds for which a show is to be seen; null = it stays. */
  readonly exposureMs: number | null;
}

/** A sheet's questions as they are asked: the children in turn, each its own in order. Those that were answered already are left out. */
export function turnsOf({ children, ways, given }: HelperSheet, kept: readonly HelperAnswer[]): HelperTurn[] {
  const done = new Set([...given, ...kept].map(({ child, place }) => `${child} ${place}`));
  const put = { layout: ways.layout, options: ways.options, things: ways.words.things };
  const dealt = dealTurns(children.map(({ id, asks }) => ({ child: id, asks: plannedAsks(seeded(1), asks, put) })));
  const places = new Map<string, number>();
  return dealt
    .map(({ child, ask }): HelperTurn => {
      const place = places.get(child) ?? 0;
      places.set(child, place + 1);
      const { nickname, exposureMs } = children.find(({ id }) => id === child)!;
      return { child, nickname, place, ask, exposureMs };
    })
    .filter(({ child, place }) => !done.has(`${child} ${place}`));
}

/** What was said on this phone and has not reached the server: kept under the sheet's code, so that a page that is closed loses nothing. */
export class KeptAnswers {
  readonly #name: string;
  constructor(code: string) {
    this.#name = `vane-helper ${code}`;
  }
  all(): HelperAnswer[] {
    return JSON.parse(localStorage.getItem(this.#name) ?? '[]') as HelperAnswer[];
  }
  add(answer: HelperAnswer): void {
    this.#set([...this.all(), answer]);
  }
  /** These have arrived. */
  drop(arrived: readonly HelperAnswer[]): void {
    const isThere = (one: HelperAnswer): boolean =>
      arrived.some(({ child, place }) => child === one.child && place === one.place);
    this.#set(this.all().filter((one) => !isThere(one)));
  }
  #set(answers: readonly HelperAnswer[]): void {
    if (answers.length === 0) localStorage.removeItem(this.#name);
    else localStorage.setItem(this.#name, JSON.stringify(answers));
  }
}
