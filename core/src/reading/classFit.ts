import type { Shared } from '../latency/times';
import type { ChildData } from './childData';
import { chooseShape, updateChild } from './childFit';
import { freshState, type ChildState, type DomainState } from './childState';
import { CLASS_BEFORE, type ClassValues, type FieldValues } from './classValues';
import { FEATURES, isStep, type Domain, type Feature } from './features';
import type { Effects } from './field';
import { invert } from '../statistics/choleskyInverse';
import type { FieldPrior } from './normalField';

/** Least answers of a child that counts for its class, and least number of such children for a class to be learned. */
const ENOUGH_ANSWERS = 12;
const ENOUGH_CHILDREN = 3;
/** Hyper-prior weight of a class, in pseudo-children. */
const GUESS_CHILDREN = 2;
/** Hyper-prior weight of the variance of families' and facts' own effects, in pseudo-effects. */
const GUESS_EFFECTS = 20;
const ROUNDS = 3;
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

const share = (hits: readonly number[], before: readonly number[], weight: number): number[] => {
  const total = hits.reduce((sum, x) => sum + x, 0);
  return before.map((b, i) => (weight * b + hits[i]!) / (weight + total));
};

/** Sufficient statistics of one child for the class's weights and effects. */
interface Told {
  readonly prior: FieldPrior;
  readonly weightMean: Float64Array;
  /** Row by row. */
  readonly weightCovariance: Float64Array;
  readonly family: Effects;
  readonly operation: Effects;
  readonly own: Effects;
}

/** Solves again: the buffers were reused by `fitUnder`. */
function toldBy({ normal, sites, field }: DomainState): Told[] {
  if (field === null) return [];
  const { prior, own } = field;
  normal.solve(prior, sites);
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
function meanOf(features: readonly Feature[], told: readonly Told[]): number[] {
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
function varianceOf(feature: Feature, i: number, mean: number, told: readonly Told[]): number {
  let square = GUESS_CHILDREN * feature.childSd ** 2;
  let worth = GUESS_CHILDREN;
  for (const { prior, weightMean, weightCovariance } of told) {
    const left = weightCovariance[i * weightMean.length + i]!;
    square += (weightMean[i]! - mean) ** 2 + (isStep(feature) ? left : 0);
    worth += isStep(feature) ? 1 : 1 - left / prior.variance[i]!;
  }
  return square / worth;
}

function fieldOf(domain: Domain, states: readonly ChildState[], now: FieldValues, before: FieldValues): FieldValues {
  const told = states.flatMap((s) => toldBy(s.domains[domain]));
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
function classOf(states: readonly ChildState[], now: ClassValues): ClassValues {
  const before = CLASS_BEFORE;
  const hands = states.map((s) => Object.values(s.times.hand).map(Math.log)).filter((h) => h.length > 0);
  const meanHand = (s: ChildState): number => {
    const own = Object.values(s.times.hand).map(Math.log);
    return own.length === 0 ? Math.log(now.times.hand.median) : own.reduce((sum, h) => sum + h, 0) / own.length;
  };
  const sum = (of: (s: ChildState) => number): number => states.reduce((all, s) => all + of(s), 0);
  const chosen = (which: 'scatters' | 'growths' | 'forgettings'): number[] =>
    share(
      before[which].map((_, i) => sum((s) => s.shapes?.[which][i] ?? 0)),
      before[which],
      6,
    );
  const others = share(
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
    },
    lapseRate: (100 * before.lapseRate + sum((s) => s.sums.lapses)) / (100 + sum((s) => s.sums.answers)),
    lapseSeconds: now.lapseSeconds,
    countsAll: (30 * before.countsAll + sum((s) => s.sums.countedAll)) / (30 + sum((s) => s.sums.counted)),
    others: [others[0]!, others[1]!, others[2]!],
    scatters: chosen('scatters'),
    growths: chosen('growths'),
    forgettings: chosen('forgettings'),
    fields: {
      number: fieldOf('number', states, now.fields.number, before.fields.number),
      seeing: fieldOf('seeing', states, now.fields.seeing, before.fields.seeing),
    },
  };
}

/**
 * Learns what the children of a class have in common (READING.md, section 5). A class of one or two children, or of a few answers, stays with the first guess.
 */
export function fitClass(children: readonly ChildData[]): ClassValues {
  const telling = children.filter((c) => c.facts.reduce((sum, f) => sum + f.answers.length, 0) >= ENOUGH_ANSWERS);
  if (telling.length < ENOUGH_CHILDREN) return CLASS_BEFORE;
  let values = CLASS_BEFORE;
  const states = telling.map((data) => freshState(data, values));
  for (let round = 0; round < ROUNDS; round++) {
    telling.forEach((data, i) => {
      updateChild(states[i]!, data, values, { timeRounds: round === 0 ? 3 : 1, sweeps: round === 0 ? 2 : 1 });
      if (round === ROUNDS - 1) chooseShape(states[i]!, data, values, 1);
    });
    values = classOf(states, values);
  }
  return values;
}
