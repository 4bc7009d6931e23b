import { COUNTS_ALL, LAPSE, PRIOR, type SharedTimes } from '../latency/times';
import { FEATURES, type Domain } from './features';
import type { Marking } from './likelihood';
import { SCATTERS, Z_GRID, type Others } from './posterior';

/** The class-level parameters, as plain numbers: stored, and held fixed while one child is judged again. */
export interface ClassValues {
  readonly times: SharedTimes;
  readonly lapseRate: number;
  readonly lapseSeconds: number;
  readonly countsAll: number;
  /** By source of a time (`sourceOf`): by how much later than through others answers come (logarithm of the hand time), and from how many copied numerals that is known. */
  readonly sources: Readonly<Record<string, { readonly shift: number; readonly copies: number }>>;
  /** By adult: how they mark, and from how many signs and copied numerals that is known. */
  readonly adults: Readonly<Record<string, Marking & { readonly signs: number; readonly copies: number }>>;
  readonly others: Others;
  /** Probabilities of the choices in SCATTERS, CHANGES and FORGETTINGS. */
  readonly scatters: readonly number[];
  readonly changes: readonly number[];
  readonly forgettings: readonly number[];
  /** By the dispersion prior under which they were learned, in the order of SCATTERS. */
  readonly fields: readonly Fields[];
}

export type Fields = Readonly<Record<Domain, FieldValues>>;

export interface FieldValues {
  /** Mean of the children's weights, and their variance between children, in the order of FEATURES. */
  readonly mean: readonly number[];
  readonly variance: readonly number[];
  readonly familyVariance: number;
  readonly operationVariance: number;
  readonly ownVariance: number;
}

/** The span over which growth is counted, in days. */
const GROWTH_DAYS = 42;

/**
 * How knowledge may have changed over the weeks. `grown`: all facts gradually, by `growth` log-odds in six weeks, ending `plateau` days ago. `learned`: fact by fact, each on one day; `known`: at every z of the grid, the
 * probability that a fact was known at an age in days, given its state today.
 */
type KnowledgeChange =
  | { readonly kind: 'grown'; readonly growth: number; readonly plateau: number }
  | { readonly kind: 'learned'; readonly known: (ageDays: number) => Float64Array }
  | { readonly kind: 'oftener'; readonly then: (ageDays: number, spanDays: number) => number };

/** To the half day, each computed when it is first asked for. */
function learned(known: (ageDays: number, z: number) => number): KnowledgeChange {
  const tables: Float64Array[] = [];
  return {
    kind: 'learned',
    known: (ageDays) => {
      const at = Math.round(2 * Math.min(GROWTH_DAYS, ageDays));
      return (tables[at] ??= Float64Array.from(Z_GRID, (z) => known(at / 2, z)));
    },
  };
}

/** By how much z has risen since an age in days, when it rose by `growth` over the weeks and has stood still for the `plateau` days since. */
export const roseSince = (ageDays: number, growth: number, plateau: number): number =>
  (growth * Math.max(0, ageDays - plateau)) / (GROWTH_DAYS - plateau);

/** Facts near what the child just knows were learned last. */
const outwards = (growth: number, plateau = 0): KnowledgeChange =>
  learned((age, z) => (1 + Math.exp(-z)) / (1 + Math.exp(roseSince(age, growth, plateau) - z)));
/** Any fact may have been learned on any day of the weeks, this share of them. */
const anywhere = (share: number): KnowledgeChange => learned((age) => 1 - (share * age) / GROWTH_DAYS);
const byDegrees = (growth: number, plateau = 0): KnowledgeChange => ({ kind: 'grown', growth, plateau });
/** Days for which nothing has grown, where growth came to an end. */
const PLATEAU = 18;
/** What is retrieved today was retrieved less often then: by up to `less` at the beginning of the child's record, until `plateau` (a share of it) before today. */
const oftener = (less: number, plateau = 0): KnowledgeChange => ({
  kind: 'oftener',
  then: (age, span) => 1 - less * Math.min(1, Math.max(0, age / span - plateau) / (1 - plateau)),
});
export const CHANGES: readonly KnowledgeChange[] = [
  byDegrees(0),
  byDegrees(1.5),
  byDegrees(3),
  byDegrees(6),
  byDegrees(3, PLATEAU),
  anywhere(0.3),
  anywhere(0.7),
  outwards(2),
  outwards(4),
  outwards(4, PLATEAU),
  oftener(0.3),
  oftener(0.65),
  oftener(0.65, 0.33),
];
/** By how much (log-odds) it may have fallen over a holiday. */
export const FORGETTINGS = [0, 1.5] as const;

const fieldBefore = (domain: Domain): FieldValues => ({
  mean: FEATURES[domain].map((f) => f.mean),
  variance: FEATURES[domain].map((f) => f.childSd ** 2 + f.classSd ** 2),
  familyVariance: 0.4,
  operationVariance: 0.3,
  ownVariance: 0.6,
});

/** Before a class has told anything of what its children know. */
export const FIELDS_BEFORE: Fields = { number: fieldBefore('number'), seeing: fieldBefore('seeing') };

/** Before a class has told anything: from trials with a prototype where it had the value, else a wide guess (docs/model.md). */
export const CLASS_BEFORE: ClassValues = {
  times: PRIOR,
  lapseRate: LAPSE.rate,
  lapseSeconds: LAPSE.seconds,
  countsAll: COUNTS_ALL,
  sources: {},
  adults: {},
  others: [0.25, 0.6, 0.15],
  // That shares lie around what is expected comes first: ends are to be shown by the answers.
  scatters: [0.1, 0.2, 0.3, 0.1, 0.1, 0.1, 0.1],
  changes: [0.5, 0.06, ...Array<number>(11).fill(0.04)],
  forgettings: [0.8, 0.2],
  fields: SCATTERS.map(() => FIELDS_BEFORE),
};
