import type { Shared } from '../latency/times';
import type { ChildData } from './childData';
import { chooseChange, copied, fitFields, predictive, startedState, updateChild } from './childFit';
import { argMax, type ChildState, type DomainState } from './childState';
import { CLASS_BEFORE, FIELDS_BEFORE, type ClassValues, type Fields, type FieldValues } from './classValues';
import { FEATURES, isStep, type Domain, type Feature } from './features';
import type { Effects } from './field';
import { softmax } from '../statistics/softmax';
import { invert } from '../statistics/choleskyInverse';
import { adultsOf, sourcesOf } from './sources';
import type { FieldPrior } from './normalField';
import { SCATTERS, USUAL_SCATTER } from './posterior';

/** Least answers of a child that counts for its class, and least number of such children for a class to be learned. */
const ENOUGH_ANSWERS = 12;
const ENOUGH_CHILDREN = 3;
/** Hyper-prior weight of a class, in pseudo-children. */
const GUESS_CHILDREN = 2;
/** Hyper-prior weight of the variance of families' and facts' own effects, in pseudo-effects. */
const GUESS_EFFECTS = 20;
/** Hyper-prior weight of a class's choices of shape, in pseudo-children. */
const GUESS_SHAPES = 3;
const MIXING_ROUNDS = 30;
const SCATTER_ROUNDS = 3;
const ROUNDS = 4;
/** Newest answers of a fact used to learn the class: half of those used to judge a child. */
export const CLASS_NEWEST = 6;

/** Mean and standard deviation of the children's logarithms, shrunk by a prior worth two children. */
function sharedOf(logs: readonly number[], before: Shared): Shared {
  const guess = Math.log(before.median);
  const mean = (GUESS_CHILDREN * guess + logs.reduce((sum, x) => sum + x, 0)) / (GUESS_CHILDREN + logs.length);
  const square = logs.reduce((sum, x) => sum + (x - mean) ** 2, 0);
  return {
    median: Math.exp(mean),
    sd: Math.sqrt((GUESS_CHILDREN * before.sd ** 2 + square) / (GUESS_CHILDREN + logs.length)),
  };
}

const smoothedProportions = (hits: readonly number[], before: readonly number[], weight: number): number[] => {
  const total = hits.reduce((sum, x) => sum + x, 0);
  return before.map((b, i) => (weight * b + hits[i]!) / (weight + total));
};

/** Weights of a mixture, from how likely each child's answers are under each of its parts (logarithms): expectation maximisation to rest. */
function emWeights(logs: readonly (readonly number[])[], before: readonly number[]): readonly number[] {
  let weights = before;
  for (let i = 0; i < MIXING_ROUNDS; i++) {
    const hits = before.map(() => 0);
    for (const child of logs)
      softmax(child.map((log, j) => log + Math.log(weights[j]!))).forEach((p, j) => (hits[j]! += p));
    weights = smoothedProportions(hits, before, GUESS_SHAPES);
  }
  return weights;
}

/** Sufficient statistics of one child for the class's weights and effects. */
interface SufficientStatistics {
  readonly prior: FieldPrior;
  readonly weightMean: Float64Array;
  /** Row by row. */
  readonly weightCovariance: Float64Array;
  readonly family: Effects;
  readonly operation: Effects;
  readonly own: Effects;
}

/** To be asked straight after the field was fitted: its buffers are used by the next one. */
function sufficientStatistics({ normal, field }: DomainState): SufficientStatistics[] {
  if (field === null) return [];
  const { prior, own } = field;
  const all = normal.effects();
  const of = (wanted: (effect: number) => boolean, variance: number): Effects => {
    const these = all.filter(({ effect }) => wanted(effect));
    return {
      square: these.reduce((sum, e) => sum + e.mean ** 2, 0),
      settled: these.reduce((sum, e) => sum + 1 - e.variance / variance, 0),
    };
  };
  return [
    {
      prior,
      weightMean: normal.weightMean.slice(),
      weightCovariance: normal.weightCovariance.slice(),
      family: of((e) => e === 0, prior.familyVariance),
      operation: of((e) => e > 0, prior.operationVariance),
      own,
    },
  ];
}

/**
 * Mean of a class's weights. What a child's answers say of it is taken with the child's own spread summed out, which needs the child's whole covariance V under its prior variances S: precision
 * S⁻¹ − S⁻¹VS⁻¹. The mean of the children's means has the same resting point, and takes ten times the rounds to it.
 */
function meanOf(features: readonly Feature[], told: readonly SufficientStatistics[]): number[] {
  const d = features.length;
  const precision = new Float64Array(d * d);
  const shift = new Float64Array(d);
  features.forEach(({ mean, classSd }, i) => {
    precision[i * d + i] = 1 / classSd ** 2;
    shift[i] = mean / classSd ** 2;
  });
  for (const { prior, weightMean, weightCovariance } of told) {
    for (let i = 0; i < d; i++) {
      const own = 1 / prior.variance[i]!;
      let pulled = 0;
      for (let j = 0; j < d; j++) {
        const v = weightCovariance[i * d + j]! / prior.variance[j]!;
        precision[i * d + j]! -= own * v;
        pulled += v * prior.mean[j]!;
      }
      precision[i * d + i]! += own;
      shift[i]! += own * (weightMean[i]! - pulled);
    }
  }
  invert(precision, d);
  return features.map((_, i) => shift.reduce((sum, s, j) => sum + precision[i * d + j]! * s, 0));
}

/** Variance of a weight between the children of a class. A step's is of another kind, as every child's own is fitted on top of it. */
function varianceOf(feature: Feature, i: number, mean: number, told: readonly SufficientStatistics[]): number {
  let square = GUESS_CHILDREN * feature.childSd ** 2;
  let worth = GUESS_CHILDREN;
  for (const { prior, weightMean, weightCovariance } of told) {
    const left = weightCovariance[i * weightMean.length + i]!;
    square += (weightMean[i]! - mean) ** 2 + (isStep(feature) ? left : 0);
    worth += isStep(feature) ? 1 : 1 - left / prior.variance[i]!;
  }
  return square / worth;
}

function fieldOf(
  domain: Domain,
  told: readonly SufficientStatistics[],
  now: FieldValues,
  before: FieldValues,
): FieldValues {
  if (told.length === 0) return now;
  const mean = meanOf(FEATURES[domain], told);
  const learned = (kind: 'family' | 'operation' | 'own', guess: number): number => {
    const sum = (of: (effects: Effects) => number): number => told.reduce((all, child) => all + of(child[kind]), 0);
    return (
      (GUESS_EFFECTS * guess + sum((e) => e.square)) /
      (GUESS_EFFECTS +
        Math.max(
          0,
          sum((e) => e.settled),
        ))
    );
  };
  return {
    mean,
    variance: FEATURES[domain].map((feature, i) => varianceOf(feature, i, mean[i]!, told)),
    familyVariance: learned('family', before.familyVariance),
    operationVariance: learned('operation', before.operationVariance),
    ownVariance: learned('own', before.ownVariance),
  };
}

/** The class's values from its children as they are fitted now. */
function classOf(
  states: readonly ChildState[],
  children: readonly ChildData[],
  told: readonly FieldStatistics[],
  now: ClassValues,
): ClassValues {
  const before = CLASS_BEFORE;
  const hands = states.map((s) => Object.values(s.times.hand).map(Math.log)).filter((h) => h.length > 0);
  const meanHand = (s: ChildState): number => {
    const own = Object.values(s.times.hand).map(Math.log);
    return own.length === 0 ? Math.log(now.times.hand.median) : own.reduce((sum, h) => sum + h, 0) / own.length;
  };
  const sum = (of: (s: ChildState) => number): number => states.reduce((all, s) => all + of(s), 0);
  const others = smoothedProportions(
    [0, 1, 2].map((i) => sum((s) => s.sums.others[i]!)),
    before.others,
    60,
  );
  return {
    times: {
      hand: sharedOf(hands.flat(), before.times.hand),
      retrieveOverHand: sharedOf(
        states.map((s) => Math.log(s.times.retrieve) - meanHand(s)),
        before.times.retrieveOverHand,
      ),
      paceOverHand: sharedOf(
        states.map((s) => Math.log(s.times.pace) - meanHand(s)),
        before.times.paceOverHand,
      ),
      unevenness: sharedOf(
        states.map((s) => Math.log(s.times.unevenness)),
        before.times.unevenness,
      ),
    },
    lapseRate: (100 * before.lapseRate + sum((s) => s.sums.lapses)) / (100 + sum((s) => s.sums.answers)),
    lapseSeconds: now.lapseSeconds,
    countsAll: (30 * before.countsAll + sum((s) => s.sums.countedAll)) / (30 + sum((s) => s.sums.counted)),
    others: [others[0]!, others[1]!, others[2]!],
    sources: sourcesOf(states),
    adults: adultsOf(states, children),
    scatters: now.scatters,
    changes: now.changes,
    forgettings: now.forgettings,
    fields: now.fields.with(USUAL_SCATTER, fieldsOf(told, now.fields[USUAL_SCATTER]!)),
  };
}

/** What each child says of the class's fields. */
type FieldStatistics = Readonly<Record<Domain, readonly SufficientStatistics[]>>;
const fieldStatistics = ({ domains }: ChildState): FieldStatistics => ({
  number: sufficientStatistics(domains.number),
  seeing: sufficientStatistics(domains.seeing),
});

const fieldsOf = (told: readonly FieldStatistics[], now: Fields): Fields => ({
  number: fieldOf(
    'number',
    told.flatMap((t) => t.number),
    now.number,
    FIELDS_BEFORE.number,
  ),
  seeing: fieldOf(
    'seeing',
    told.flatMap((t) => t.seeing),
    now.seeing,
    FIELDS_BEFORE.seeing,
  ),
});

/** The class's fields learned anew under one dispersion prior, from where they are, and how likely it makes each child's answers (logarithm). */
function learnedUnder(
  scatter: number,
  states: readonly ChildState[],
  values: ClassValues,
): { readonly fields: Fields; readonly logs: readonly number[] } {
  const under = states.map((s): ChildState => ({ ...s, shape: { ...s.shape, scatter }, domains: copied(s.domains) }));
  let fields = values.fields[USUAL_SCATTER]!;
  for (let round = 0; round < SCATTER_ROUNDS; round++) {
    const now = { ...values, fields: values.fields.with(scatter, fields) };
    const told = under.map((state) => {
      fitFields(state, now, 1, round > 0);
      return fieldStatistics(state);
    });
    fields = fieldsOf(told, fields);
  }
  return { fields, logs: under.map((state) => predictive(state.domains)) };
}

/** How often each dispersion prior is true of the children, and the class's fields under it. Priors can be compared only once the class has been learned under each: what was learned under one suits that one best. */
function scattersOf(states: readonly ChildState[], values: ClassValues): Pick<ClassValues, 'scatters' | 'fields'> {
  const learned = SCATTERS.map((_, scatter) => learnedUnder(scatter, states, values));
  return {
    fields: learned.map(({ fields }) => fields),
    scatters: emWeights(
      states.map((_, child) => learned.map(({ logs }) => logs[child]!)),
      values.scatters,
    ),
  };
}

/**
 * Learns what the children of a class have in common (docs/model.md, "The class"). A class of one or two children, or of a few answers, stays with the first guess.
 */
export function fitClass(children: readonly ChildData[]): ClassValues {
  const telling = children.filter((c) => c.facts.reduce((sum, f) => sum + f.answers.length, 0) >= ENOUGH_ANSWERS);
  if (telling.length < ENOUGH_CHILDREN) return CLASS_BEFORE;
  let values = CLASS_BEFORE;
  const states = telling.map((data) => startedState(data, values, USUAL_SCATTER));
  for (let round = 0; round < ROUNDS; round++) {
    const told = telling.map((data, i) => {
      updateChild(states[i]!, data, values, {
        hands: round % 2 === 0,
        timeRounds: round === 0 ? 3 : 1,
        sweeps: round === 0 ? 2 : 1,
      });
      return fieldStatistics(states[i]!);
    });
    values = classOf(states, telling, told, values);
  }
  telling.forEach((data, i) => chooseChange(states[i]!, data, values, 1));
  const of = (which: 'changes' | 'forgettings'): readonly number[] =>
    emWeights(
      states.flatMap((s) => (s.changes?.[which] ? [s.changes[which]] : [])),
      values[which],
    );
  values = { ...values, changes: of('changes'), forgettings: of('forgettings') };
  // What is likely in the class decides about a child of whom there is little.
  for (const state of states) {
    const change = argMax(state.changes!.changes.map((log, i) => log + Math.log(values.changes[i]!)));
    if (change === state.shape.change) continue;
    state.shape = { ...state.shape, change };
    fitFields(state, values, 1);
  }
  return { ...values, ...scattersOf(states, values) };
}
