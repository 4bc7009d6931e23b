import { startTimes } from '../latency/fit';
import type { ChildTimes } from '../latency/times';
import type { Tallies } from '../statistics/tally';
import { BLOCK_EDGES, type ChildData, type ChildFact } from './childData';
import { CHANGES, FORGETTINGS, roseSince, type ClassValues } from './classValues';
import { FEATURES, type Domain } from './features';
import { gridNormal, type Field } from './field';
import { EVEN_HANDS, type Hands } from './hands';
import { noSites, NormalField, type Sites } from './normalField';
import type { Likelihood } from './likelihood';
import {
  sequenceLikelihood,
  addShifted,
  likelihoodOn,
  NO_ANSWERS,
  type Splitting,
  Z_GRID,
  type SequenceLikelihood,
  type Others,
  type LikelihoodTerm,
} from './posterior';

/** Shortest gap between answers of two different days, in days. */
const SAME_DAY = 0.5;

/** Indices of the chosen dispersion, change and forgetting models in SCATTERS, CHANGES and FORGETTINGS. */
export interface Shape {
  readonly scatter: number;
  readonly change: number;
  readonly forgetting: number;
}

/** Joint likelihood of a fact's answers, and the likelihood of each block of them, computed only when a change model is tried. */
export class FactAccounts {
  readonly whole: SequenceLikelihood;
  #blocks: readonly SequenceLikelihood[] | null = null;
  #flipped: readonly Flip[] | null = null;
  readonly #oftener = new Map<unknown, readonly LikelihoodTerm[]>();
  readonly #onGrid: (readonly Float64Array[])[] = [];
  readonly #logs: (readonly Float64Array[])[] = [];
  /** Likelihood on the grid by shape (`evidenceOn`). */
  readonly evidence: Float64Array[] = [];

  constructor(
    private readonly fact: ChildFact,
    readonly answers: readonly Likelihood[],
    private readonly splitting: Splitting,
    private readonly spanDays: number,
  ) {
    this.whole = sequenceLikelihood(answers, splitting);
  }
  get blocks(): readonly SequenceLikelihood[] {
    const { blocks } = this.fact;
    return (this.#blocks ??=
      blocks.length === 1
        ? [this.whole]
        : blocks.map(({ from, to }) => sequenceLikelihood(this.answers.slice(from, to), this.splitting)));
  }
  /** Every day from which on the fact may have been known, the newest first: never yet when it was asked, …, always. */
  get #flips(): readonly Flip[] {
    return (this.#flipped ??= flipsOf(this.fact.ages).map((flip): Flip => ({
      ...flip,
      account: sequenceLikelihood(this.answers, this.splitting, flip.after),
    })));
  }
  /** The answers under a change of the kind `learned`: learned between two of them, and the chance of that. */
  learned(known: Known): readonly LikelihoodTerm[] {
    return this.#flips.map((flip) => ({
      account: flip.account,
      weight: chanceOf(flip, known, new Float64Array(Z_GRID.length)),
    }));
  }
  /** The answers under a change of the kind `oftener`. */
  oftener(then: (ageDays: number, spanDays: number) => number): readonly LikelihoodTerm[] {
    let said = this.#oftener.get(then);
    if (!said) {
      const { answers, splitting, spanDays } = this;
      const account = sequenceLikelihood(answers, splitting, answers.length, (i) => then(this.fact.ages[i]!, spanDays));
      this.#oftener.set(then, (said = [{ account, weight: null }]));
    }
    return said;
  }
  /** The same as one likelihood on the grid. That of each day is the same whatever the chance of it. */
  learnedOn(known: Known, scatter: number): Float64Array {
    const each = (this.#onGrid[scatter] ??= this.#flips.map(({ account }) =>
      likelihoodOn([{ account, weight: null }], scatter),
    ));
    const out = new Float64Array(Z_GRID.length);
    this.#flips.forEach((flip, j) => {
      const chance = chanceOf(flip, known, CHANCE);
      const likelihood = each[j]!;
      for (let z = 0; z < out.length; z++) out[z]! += chance[z]! * likelihood[z]!;
    });
    return out;
  }
  /** Logarithm of each block's likelihood on the grid. */
  logs(scatter: number): readonly Float64Array[] {
    return (this.#logs[scatter] ??= this.blocks.map((account) =>
      likelihoodOn([{ account, weight: null }], scatter).map((x) => Math.log(Math.max(x, 1e-300))),
    ));
  }
}

/** A fact learned between two of its answers. */
interface Flip {
  /** Ages, in days before the reading, of the oldest answer after and the newest one before. */
  readonly since: number;
  readonly until: number;
  readonly account: SequenceLikelihood;
}

type Known = (ageDays: number) => Float64Array;
/** Scratch for the chance of one flip. */
const CHANCE = new Float64Array(Z_GRID.length);

/** At every z of the grid, the chance that a fact was learned between those two answers. @param out filled and handed back */
function chanceOf({ since, until }: Flip, known: Known, out: Float64Array): Float64Array {
  out.set(known(since));
  if (until < Infinity) {
    const earlier = known(until);
    for (let z = 0; z < out.length; z++) out[z]! -= earlier[z]!;
  }
  return out;
}

/** Where a fact may have been learned among answers of these ages, newest first: between two days, and how many answers were given after. */
function flipsOf(ages: readonly number[]): { since: number; until: number; after: number }[] {
  const flips = [];
  for (let after = 0; after <= ages.length; after++) {
    const since = after === 0 ? 0 : ages[after - 1]!;
    const until = after === ages.length ? Infinity : ages[after]!;
    if (after === 0 || until - since > SAME_DAY) flips.push({ since, until, after });
  }
  return flips;
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
  hands: Hands;
  others: Others;
  shape: Shape;
  /** Logarithm of how likely each growth and forgetting makes the child's answers, for the class; null where they do not speak to it. */
  changes: { readonly changes: readonly number[]; readonly forgettings: readonly number[] | null } | null;
  domains: Domains;
  /** The same under each scatter that the answers leave possible, with the probability of it. */
  scattered: readonly { readonly weight: number; readonly shape: Shape; readonly domains: Domains }[];
  /** Per fact, in the order of the data's facts: what all its answers say together, and what each block of them says. */
  accounts: ReadonlyMap<ChildFact, FactAccounts>;
  /** E[times a strategy other than retrieving was used], how often anything was, lapses, counted answers, and those that counted all: for the class. */
  sums: {
    others: [number, number, number];
    answers: number;
    lapses: number;
    counted: number;
    countedAll: number;
    /** Copied numerals by source: how many, and the sum of how much later (logarithm) they came than this child's usual. */
    sources: Tallies;
    /** Signs by adult: how many, and E[how many were the true ones]. */
    signs: Tallies;
  };
}

/** Place of the greatest. */
export const argMax = (values: readonly number[]): number =>
  values.reduce((at, value, i) => (value > values[at]! ? i : at), 0);

export function freshState(data: ChildData, values: ClassValues, scatter = argMax(values.scatters)): ChildState {
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
    hands: EVEN_HANDS,
    others: values.others,
    shape: { scatter, change: 0, forgetting: 0 },
    changes: null,
    domains: { number: of('number'), seeing: of('seeing') },
    scattered: [],
    accounts: new Map(),
    sums: { others: [0, 0, 0], answers: 0, lapses: 0, counted: 0, countedAll: 0, sources: new Map(), signs: new Map() },
  };
}

/**
 * What a fact's answers say under a shape. While nothing changes, all of them were given with today's shares. Where what a child knows grew by degrees, each block of like age was given with shares of its own, around a z that lay lower by the
 * growth since, and higher by what a holiday took. Where facts were learned one by one, there was a day before which none was retrieved: the chance that it was known at an age falls with the age.
 */
export function likelihoodTerms(
  fact: ChildFact,
  accounts: ChildState['accounts'],
  { change, forgetting, scatter }: Shape,
): readonly LikelihoodTerm[] {
  const own = accounts.get(fact);
  if (!own) return NO_ANSWERS;
  const how = CHANGES[change]!;
  if (how.kind === 'learned') return own.learned(how.known);
  if (how.kind === 'oftener') return own.oftener(how.then);
  const lost = FORGETTINGS[forgetting]!;
  if (how.growth === 0 && lost === 0) return [{ account: own.whole, weight: null }];
  let today = NO_ANSWERS[0]!.account;
  const before = new Float64Array(Z_GRID.length);
  for (let b = 0; b < fact.blocks.length; b++) {
    const { ageDays, beforeBreak } = fact.blocks[b]!;
    if (ageDays < BLOCK_EDGES[0] && !(beforeBreak && lost > 0)) today = own.blocks[b]!;
    else
      addShifted(own.logs(scatter)[b]!, roseSince(ageDays, how.growth, how.plateau) - (beforeBreak ? lost : 0), before);
  }
  return [{ account: today, weight: before.map(Math.exp) }];
}

/** The same as one likelihood on the grid: computed once, as fits come back to a shape. */
export function evidenceOn(fact: ChildFact, accounts: ChildState['accounts'], shape: Shape): Float64Array {
  const own = accounts.get(fact);
  const how = CHANGES[shape.change]!;
  const said = (): Float64Array =>
    own && how.kind === 'learned'
      ? own.learnedOn(how.known, shape.scatter)
      : likelihoodOn(likelihoodTerms(fact, accounts, shape), shape.scatter);
  if (!own) return said();
  const key = (shape.scatter * CHANGES.length + shape.change) * FORGETTINGS.length + shape.forgetting;
  return (own.evidence[key] ??= said());
}

/** Cavity prior of z: everything but the fact's own answers. @param out filled and handed back */
export function priorOf(
  field: Field | null,
  index: number,
  out: Float64Array = new Float64Array(Z_GRID.length),
): Float64Array {
  gridNormal(field?.cavityMean[index] ?? 0, field?.cavityVariance[index] ?? 6, out);
  return out;
}
