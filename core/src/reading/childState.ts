import { startTimes } from '../latency/fit';
import type { ChildTimes } from '../latency/times';
import { BLOCK_EDGES, type ChildData, type ChildFact } from './childData';
import { FORGETTINGS, GROWTHS, type ClassValues } from './classValues';
import type { Domain } from './features';
import { gridNormal, noSites, type Field, type Sites } from './field';
import type { Likelihood } from './likelihood';
import { accountOf, likelihoodOn, shifted, Splitting, USUAL_SCATTER, Z_GRID, type Account, type Others } from './posterior';

/** The span over which growth is counted, in days. */
const GROWTH_DAYS = 42;

/** How a child's knowing lies and changed, as choices in SCATTERS, GROWTHS and FORGETTINGS. */
export interface Shape {
  readonly scatter: number;
  readonly growth: number;
  readonly forgetting: number;
}

/** What a fact's answers say together, and, worked out only when a change is thought of, what each block of them says. */
export class FactAccounts {
  readonly whole: Account;
  #blocks: readonly Account[] | null = null;

  constructor(
    private readonly fact: ChildFact,
    private readonly answers: readonly Likelihood[],
    private readonly splitting: Splitting,
  ) {
    this.whole = accountOf(answers, splitting);
  }
  get blocks(): readonly Account[] {
    const { blocks } = this.fact;
    return (this.#blocks ??= blocks.length === 1 ? [this.whole] : blocks.map(({ from, to }) => accountOf(this.answers.slice(from, to), this.splitting)));
  }
}

/** A child's fields, with what their fit goes on from. */
export type Domains = Record<Domain, { readonly facts: readonly ChildFact[]; sites: Sites; field: Field | null; stepVariance: Float64Array | null }>;

/** What is known of one child while it is fitted. */
export interface ChildState {
  times: ChildTimes;
  others: Others;
  shape: Shape;
  /** Probabilities of the choices of shape given the child's answers, for the class. */
  shapes: { readonly scatters: readonly number[]; readonly growths: readonly number[]; readonly forgettings: readonly number[] } | null;
  domains: Domains;
  /** The same under each scatter that the answers leave possible, with the probability of it. */
  scattered: readonly { readonly weight: number; readonly shape: Shape; readonly domains: Domains }[];
  /** Per fact, in the order of the data's facts: what all its answers say together, and what each block of them says. */
  accounts: ReadonlyMap<ChildFact, FactAccounts>;
  /** E[times a strategy other than retrieving was used], how often anything was, lapses, counted answers, and those that counted all: for the class. */
  sums: { others: readonly [number, number, number]; answers: number; lapses: number; counted: number; countedAll: number };
}

export function freshState(data: ChildData, values: ClassValues): ChildState {
  const of = (domain: Domain) => {
    const facts = data.facts.filter((f) => f.domain === domain);
    return { facts, sites: noSites(facts.length), field: null, stepVariance: null };
  };
  return {
    times: { ...startTimes(data.timed, values.times), lapseRate: values.lapseRate, lapseSeconds: values.lapseSeconds, countsAll: values.countsAll },
    others: values.others,
    shape: { scatter: USUAL_SCATTER, growth: 0, forgetting: 0 },
    shapes: null,
    domains: { number: of('number'), seeing: of('seeing') },
    scattered: [],
    accounts: new Map(),
    sums: { others: [0, 0, 0], answers: 0, lapses: 0, counted: 0, countedAll: 0 },
  };
}

const NOTHING = accountOf([], new Splitting([0.3, 0.4, 0.3]));

/**
 * What a fact's answers say under a shape: the account of those given with today's shares, and the likelihood of the others at every z of today, null when there
 * are none. While nothing changes all answers are today's. Else each block of like age was given with shares of its own, around a z that lay lower by the
 * growth since, and higher by what a holiday took.
 */
export function saidBy(
  fact: ChildFact,
  accounts: ChildState['accounts'],
  { growth, forgetting, scatter }: Shape,
): { today: Account; before: Float64Array | null } {
  const own = accounts.get(fact);
  if (!own) return { today: NOTHING, before: null };
  if (GROWTHS[growth] === 0 && FORGETTINGS[forgetting] === 0) return { today: own.whole, before: null };
  let today = NOTHING;
  let before: Float64Array | null = null;
  fact.blocks.forEach(({ ageDays, beforeBreak }, b) => {
    const account = own.blocks[b]!;
    if (ageDays < BLOCK_EDGES[0] && !(beforeBreak && FORGETTINGS[forgetting]! > 0)) {
      today = account;
      return;
    }
    const shift = (GROWTHS[growth]! * ageDays) / GROWTH_DAYS - (beforeBreak ? FORGETTINGS[forgetting]! : 0);
    const said = shifted(likelihoodOn(account, scatter), shift);
    before = before === null ? said : before.map((x, g) => x * said[g]!);
  });
  return { today, before };
}

/** The same as one likelihood on the grid. */
export function evidenceOn(fact: ChildFact, accounts: ChildState['accounts'], shape: Shape): Float64Array {
  const { today, before } = saidBy(fact, accounts, shape);
  const own = likelihoodOn(today, shape.scatter);
  return before === null ? own : own.map((x, g) => x * before[g]!);
}

/** Prior weights of z for a fact from everything but its own answers. */
export function priorOf(field: Field | null, index: number): Float64Array {
  const out = new Float64Array(Z_GRID.length);
  gridNormal(field?.cavityMean[index] ?? 0, field?.cavityVariance[index] ?? 6, out);
  return out;
}
