import { startTimes } from '../latency/fit';
import type { ChildTimes } from '../latency/times';
import { BLOCK_EDGES, type ChildData, type ChildFact } from './childData';
import { FORGETTINGS, GROWTHS, type ClassValues } from './classValues';
import { FEATURES, type Domain } from './features';
import { gridNormal, type Field } from './field';
import { noSites, NormalField, type Sites } from './normalField';
import type { Likelihood } from './likelihood';
import {
  accountOf,
  addShifted,
  likelihoodOn,
  Splitting,
  USUAL_SCATTER,
  Z_GRID,
  type Account,
  type Others,
} from './posterior';

/** The span over which growth is counted, in days. */
const GROWTH_DAYS = 42;

/** Indices of the chosen dispersion, growth and forgetting models in SCATTERS, GROWTHS and FORGETTINGS. */
export interface Shape {
  readonly scatter: number;
  readonly growth: number;
  readonly forgetting: number;
}

/** Joint likelihood of a fact's answers, and the likelihood of each block of them, computed only when a change model is tried. */
export class FactAccounts {
  readonly whole: Account;
  #blocks: readonly Account[] | null = null;
  readonly #logs: (readonly Float64Array[])[] = [];

  constructor(
    private readonly fact: ChildFact,
    private readonly answers: readonly Likelihood[],
    private readonly splitting: Splitting,
  ) {
    this.whole = accountOf(answers, splitting);
  }
  get blocks(): readonly Account[] {
    const { blocks } = this.fact;
    return (this.#blocks ??=
      blocks.length === 1
        ? [this.whole]
        : blocks.map(({ from, to }) => accountOf(this.answers.slice(from, to), this.splitting)));
  }
  /** Logarithm of each block's likelihood on the grid. */
  logs(scatter: number): readonly Float64Array[] {
    return (this.#logs[scatter] ??= this.blocks.map((account) =>
      likelihoodOn(account, scatter).map((x) => Math.log(Math.max(x, 1e-300))),
    ));
  }
}

/** A child's fields, with the state that the next fit starts from. */
export type Domains = Record<Domain, DomainState>;
export interface DomainState {
  readonly facts: readonly ChildFact[];
  readonly normal: NormalField;
  sites: Sites;
  /** Likelihoods of the facts' answers at the last fit. */
  evidence: readonly Float64Array[];
  field: Field | null;
  stepVariance: Float64Array | null;
}

/** State of one child during the fit. */
export interface ChildState {
  times: ChildTimes;
  others: Others;
  shape: Shape;
  /** Probabilities of the choices of shape given the child's answers, for the class. */
  shapes: {
    readonly scatters: readonly number[];
    readonly growths: readonly number[];
    readonly forgettings: readonly number[];
  } | null;
  domains: Domains;
  /** The same under each scatter that the answers leave possible, with the probability of it. */
  scattered: readonly { readonly weight: number; readonly shape: Shape; readonly domains: Domains }[];
  /** Per fact, in the order of the data's facts: what all its answers say together, and what each block of them says. */
  accounts: ReadonlyMap<ChildFact, FactAccounts>;
  /** E[times a strategy other than retrieving was used], how often anything was, lapses, counted answers, and those that counted all: for the class. */
  sums: {
    others: readonly [number, number, number];
    answers: number;
    lapses: number;
    counted: number;
    countedAll: number;
  };
}

export function freshState(data: ChildData, values: ClassValues): ChildState {
  const of = (domain: Domain): DomainState => {
    const facts = data.facts.filter((f) => f.domain === domain);
    const normal = new NormalField(
      facts.map((f) => f.placed),
      FEATURES[domain].length,
    );
    return { facts, normal, sites: noSites(facts.length), evidence: [], field: null, stepVariance: null };
  };
  return {
    times: {
      ...startTimes(data.timed, values.times),
      lapseRate: values.lapseRate,
      lapseSeconds: values.lapseSeconds,
      countsAll: values.countsAll,
    },
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
  for (let b = 0; b < fact.blocks.length; b++) {
    const { ageDays, beforeBreak } = fact.blocks[b]!;
    if (ageDays < BLOCK_EDGES[0] && !(beforeBreak && FORGETTINGS[forgetting]! > 0)) today = own.blocks[b]!;
    else {
      const shift = (GROWTHS[growth]! * ageDays) / GROWTH_DAYS - (beforeBreak ? FORGETTINGS[forgetting]! : 0);
      addShifted(own.logs(scatter)[b]!, shift, (before ??= new Float64Array(Z_GRID.length)));
    }
  }
  return { today, before: before?.map(Math.exp) ?? null };
}

/** The same as one likelihood on the grid. */
export function evidenceOn(fact: ChildFact, accounts: ChildState['accounts'], shape: Shape): Float64Array {
  const { today, before } = saidBy(fact, accounts, shape);
  const own = likelihoodOn(today, shape.scatter);
  if (before !== null) for (let g = 0; g < own.length; g++) own[g]! *= before[g]!;
  return own;
}

/** Cavity prior of z: everything but the fact's own answers. */
export function priorOf(field: Field | null, index: number): Float64Array {
  const out = new Float64Array(Z_GRID.length);
  gridNormal(field?.cavityMean[index] ?? 0, field?.cavityVariance[index] ?? 6, out);
  return out;
}
