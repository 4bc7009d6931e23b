import { computed, signal } from '@angular/core';
import { removeChild, returnChild, postponeTurn, type Answered, type Ask, type Support, type Turn } from '@vane/core';

/** Who sits, by id and nickname. */
export interface Sitter {
  readonly id: string;
  readonly nickname: string;
  /** What is done differently for them. */
  readonly support?: readonly Support[];
}

/** What follows for a child from its answers so far; nothing more ends its part. */
export type Follow = (child: string, soFar: readonly Answered[]) => Ask[];

/** The line of turns: whose go with which question, who goes later, who is away, and what follows from the answers. */
export class TurnLine {
  readonly #children = signal<readonly Sitter[]>([]);
  readonly #turns = signal<readonly Turn[]>([]);
  readonly #index = signal(0);
  /** Turns of children who are away, to be put back. */
  readonly #away = signal<ReadonlyMap<string, readonly Turn[]>>(new Map());
  readonly #soFar = new Map<string, Answered[]>();
  /** What followed from the answer before, so that it can be taken back with it. */
  #followed: readonly Turn[] = [];

  readonly index = this.#index.asReadonly();
  readonly turns = this.#turns.asReadonly();
  readonly children = this.#children.asReadonly();
  readonly turn = computed((): Turn => this.#turns()[this.#index()]!);
  readonly child = computed((): Sitter => this.#children().find((c) => c.id === this.turn().child)!);
  /** Every child with the turns it has had. */
  readonly turnCounts = computed(() => {
    const before = this.#turns().slice(0, this.#index());
    return this.#children().map((child) => ({
      ...child,
      had: before.filter((t) => t.child === child.id).length,
      now: child.id === this.turn().child,
      away: this.#away().has(child.id),
    }));
  });

  constructor(
    children: readonly Sitter[],
    turns: readonly Turn[],
    private readonly follow: Follow,
    /** All work on one thing: what follows depends on what everybody said, and the next child goes on. */
    private readonly shared = false,
  ) {
    this.#children.set(children);
    this.#turns.set(turns);
  }

  /** Goes on to the next turn, with what was answered in this one; false when there is none. */
  advance(answered: Answered): boolean {
    const { child } = this.turn();
    const teller = this.shared ? '' : child;
    const soFar = [...(this.#soFar.get(teller) ?? []), answered];
    this.#soFar.set(teller, soFar);
    const at = this.#index() + 1;
    this.#followed = [];
    if (!this.#turns().some((turn, i) => i >= at && (this.shared || turn.child === child))) {
      const next = this.shared ? this.#after(child) : child;
      this.#followed = this.follow(next, soFar).map((ask): Turn => ({ child: next, ask }));
      const alone = this.shared ? this.#followed.length : this.#followed.findIndex(({ ask }) => !ask.goesOn);
      const first = alone < 0 ? this.#followed : this.#followed.slice(0, alone);
      const rest = this.#followed.slice(first.length);
      this.#turns.update((turns) => {
        const own = [...turns.slice(0, at), ...first, ...turns.slice(at)];
        return rest.length > 0 ? returnChild(own, at + first.length, rest) : own;
      });
    }
    if (at >= this.#turns().length) return false;
    this.#index.set(at);
    return true;
  }

  /** Back to the turn before, as if it had not been answered yet. */
  stepBack(): void {
    const followed = new Set(this.#followed.map(({ ask }) => ask));
    this.#turns.update((turns) => turns.filter(({ ask }) => !followed.has(ask)));
    this.#followed = [];
    this.#index.update((index) => index - 1);
    const teller = this.shared ? '' : this.turn().child;
    this.#soFar.set(teller, (this.#soFar.get(teller) ?? []).slice(0, -1));
  }

  /** Whose go it is after this child's, round the circle. */
  #after(child: string): string {
    const here = this.#children().filter(({ id }) => id === child || !this.#away().has(id));
    return here[(here.findIndex(({ id }) => id === child) + 1) % here.length]?.id ?? child;
  }
  /** Hands the turns from `at` on to the next child. */
  #handOn(at: number): void {
    const next = this.#after(this.#turns()[at]?.child ?? '');
    this.#turns.update((turns) => turns.map((turn, i) => (i >= at ? { ...turn, child: next } : turn)));
  }

  /** Whoever is to go now goes later. */
  goLater(): void {
    if (this.shared) return this.#handOn(this.#index());
    this.#turns.update((turns) => postponeTurn(turns, this.#index()));
  }

  /** A child leaves, or comes back, from the turn `at` on. The last one left cannot leave: the sitting is ended instead. */
  toggleAway(child: string, at: number): void {
    const gone = this.#away().get(child);
    if (gone) {
      this.#turns.update((turns) => returnChild(turns, at, gone));
      this.#away.update((map) => new Map([...map].filter(([id]) => id !== child)));
      return;
    }
    if (this.shared) {
      if (this.#children().length - this.#away().size < 2) return;
      this.#away.update((map) => new Map(map).set(child, []));
      if (this.#turns()[at]?.child === child) this.#handOn(at);
      return;
    }
    const { turns, taken } = removeChild(this.#turns(), at, child);
    if (taken.length === 0 || turns.length <= at) return;
    this.#turns.set(turns);
    this.#away.update((map) => new Map(map).set(child, taken));
  }

  /** Another child than was thought sits here: from now on the turns are its own. */
  takeOver(child: Sitter): void {
    const before = this.turn().child;
    const soFar = this.#soFar.get(before);
    if (soFar) this.#soFar.set(child.id, soFar);
    if (!this.#children().some((c) => c.id === child.id))
      this.#children.update((all) => all.map((c) => (c.id === before ? child : c)));
    this.#turns.update((turns) => turns.map((turn) => (turn.child === before ? { ...turn, child: child.id } : turn)));
  }
}
