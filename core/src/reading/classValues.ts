import { COUNTS_ALL, LAPSE, PRIOR, type SharedTimes } from '../latency/times';
import { FEATURES, type Domain } from './features';
import { SCATTERS, type Others } from './posterior';

/** The class-level parameters, as plain numbers: stored, and held fixed while one child is judged again. */
export interface ClassValues {
  readonly times: SharedTimes;
  readonly lapseRate: number;
  readonly lapseSeconds: number;
  readonly countsAll: number;
  readonly others: Others;
  /** Probabilities of the choices in SCATTERS, GROWTHS and FORGETTINGS. */
  readonly scatters: readonly number[];
  readonly growths: readonly number[];
  readonly forgettings: readonly number[];
  readonly fields: Readonly<Record<Domain, FieldValues>>;
}

export interface FieldValues {
  /** Mean of the children's weights, and their variance between children, in the order of FEATURES. */
  readonly mean: readonly number[];
  readonly variance: readonly number[];
  readonly familyVariance: number;
  readonly operationVariance: number;
  readonly ownVariance: number;
}

/** By how much (log-odds, six weeks) a child's knowing may have grown: none, slowly, fast. */
export const GROWTHS = [0, 1.5, 3, 6] as const;
/** By how much (log-odds) it may have fallen over a holiday. */
export const FORGETTINGS = [0, 1.5] as const;

const fieldBefore = (domain: Domain): FieldValues => ({
  mean: FEATURES[domain].map((f) => f.mean),
  variance: FEATURES[domain].map((f) => f.childSd ** 2 + f.classSd ** 2),
  familyVariance: 0.4,
  operationVariance: 0.3,
  ownVariance: 0.6,
});

/** Before a class has told anything: from READING.md's prototype where it has the value, else a wide guess. */
export const CLASS_BEFORE: ClassValues = {
  times: PRIOR,
  lapseRate: LAPSE.rate,
  lapseSeconds: LAPSE.seconds,
  countsAll: COUNTS_ALL,
  others: [0.25, 0.6, 0.15],
  scatters: SCATTERS.map(() => 1 / SCATTERS.length),
  growths: [0.6, 0.2, 0.1, 0.1],
  forgettings: [0.8, 0.2],
  fields: { number: fieldBefore('number'), seeing: fieldBefore('seeing') },
};
