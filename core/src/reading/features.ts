import { isNumberFact, LAYOUTS, type Fact, type NumberFact, type QuantityFact } from '../facts/fact';

/**
 * What a fact is likely to be before its own answers (docs/model.md, "Prior"): the log-odds of knowing it are a sum of a child's weights over features of
 * the fact, an effect of its family, one of its family under this operation, and one of its own. A feature's name says what it measures; `mean` and
 * `classSd` are what is known of a class's mean weight, `childSd` how children of a class differ, before there are data.
 */
export interface Feature {
  readonly name: string;
  readonly mean: number;
  readonly classSd: number;
  readonly childSd: number;
}
/** A feature with its value at a fact. */
interface Valued<F> extends Feature {
  readonly of: (fact: F) => number;
}

export type Domain = 'number' | 'seeing';
export const domainOf = (fact: Fact): Domain => (isNumberFact(fact) ? 'number' : 'seeing');

/** Step features of the whole, beside its slope: weight k is the extra cost from k − 1 to k. A child who knows everything up to a number and nothing beyond has one large step. */
const STEPS = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10] as const;
/** Undoing lags behind adding: its own steps are fewer, as it is asked less. */
const UNDOING_STEPS = [3, 5, 7, 9] as const;
/** The whole at which the level is taken: steps below it count backwards. */
const MIDDLE = 5;

const reaches = (n: number, k: number): number => Number(n >= k) - Number(MIDDLE >= k);
const smaller = ({ parts: [first, second] }: NumberFact): number => Math.min(first, second);
const isUndoing = ({ kind }: NumberFact): boolean => kind !== 'add';
const isEqual = ({ parts: [first, second] }: NumberFact): boolean => first === second && first > 0;

/** Prior means and class spreads of the first group from trials with a prototype; spreads between children are wide guesses that data overrule. */
const NUMBER: readonly Valued<NumberFact>[] = [
  { name: 'level', mean: 0, classSd: 1.5, childSd: 1.8, of: () => 1 },
  { name: 'smaller part beyond two', mean: -0.5, classSd: 0.5, childSd: 0.3, of: (fact) => smaller(fact) - 2 },
  { name: 'part is zero', mean: 0.7, classSd: 1, childSd: 0.5, of: (fact) => Number(smaller(fact) === 0) },
  { name: 'part is one', mean: 0.7, classSd: 1, childSd: 0.5, of: (fact) => Number(smaller(fact) === 1) },
  { name: 'double', mean: 0.8, classSd: 1, childSd: 0.5, of: (fact) => Number(isEqual(fact) && !isUndoing(fact)) },
  { name: 'half', mean: 0.3, classSd: 1, childSd: 0.5, of: (fact) => Number(isEqual(fact) && isUndoing(fact)) },
  { name: 'whole is ten', mean: 0.4, classSd: 0.7, childSd: 0.5, of: ({ whole }) => Number(whole === 10) },
  { name: 'undoing', mean: -0.8, classSd: 1, childSd: 0.8, of: (fact) => Number(isUndoing(fact)) },
  {
    name: 'missing part',
    mean: 0,
    classSd: 0.7,
    childSd: 0.4,
    of: ({ kind }) => Number(kind === 'missing' || kind === 'bond'),
  },
  {
    name: 'leaves at most one',
    mean: 0,
    classSd: 1,
    childSd: 0.4,
    of: ({ kind, answer }) => Number(kind === 'subtract' && answer <= 1),
  },
  {
    name: 'smaller part first',
    mean: 0,
    classSd: 0.3,
    childSd: 0.15,
    of: ({ parts: [first, second] }) => Number(first < second),
  },
  { name: 'whole', mean: -0.1, classSd: 0.8, childSd: 0.8, of: ({ whole }) => whole - MIDDLE },
  ...STEPS.map((k): Valued<NumberFact> => ({
    name: `whole reaches ${k}`,
    mean: 0,
    classSd: 0.3,
    childSd: 0.7,
    of: ({ whole }) => reaches(whole, k),
  })),
  ...UNDOING_STEPS.map((k): Valued<NumberFact> => ({
    name: `undoing, whole reaches ${k}`,
    mean: 0,
    classSd: 0.3,
    childSd: 0.4,
    of: (fact) => (isUndoing(fact) ? reaches(fact.whole, k) : 0),
  })),
];

/** Seeing: up to three at a glance by nearly every child; a full row and a full frame are pictures of their own. */
const SEEING: readonly Valued<QuantityFact>[] = [
  { name: 'level', mean: 0.5, classSd: 1.5, childSd: 1.5, of: () => 1 },
  { name: 'three or fewer', mean: 1, classSd: 0.8, childSd: 0.5, of: ({ answer }) => Number(answer <= 3) },
  { name: 'whole row', mean: 0.5, classSd: 0.7, childSd: 0.5, of: ({ answer }) => Number(answer === 5) },
  { name: 'full frame', mean: 0.7, classSd: 0.7, childSd: 0.5, of: ({ answer }) => Number(answer === 10) },
  ...LAYOUTS.map((layout): Valued<QuantityFact> => ({
    name: `layout ${layout}`,
    mean: layout === 'scatter' || layout === 'line' ? -0.8 : 0,
    classSd: 0.7,
    childSd: 0.5,
    of: (fact) => Number(fact.layout === layout),
  })),
  { name: 'number', mean: -0.3, classSd: 0.8, childSd: 0.8, of: ({ answer }) => answer - MIDDLE },
  ...STEPS.map((k): Valued<QuantityFact> => ({
    name: `number reaches ${k}`,
    mean: 0,
    classSd: 0.3,
    childSd: 0.7,
    of: ({ answer }) => reaches(answer, k),
  })),
];

export const FEATURES: Readonly<Record<Domain, readonly Feature[]>> = { number: NUMBER, seeing: SEEING };
/** Names of the features whose weights are one child's steps: they are few and large rather than many and small. */
export const isStep = (feature: Feature): boolean => feature.name.includes('reaches');

/** Effects shared inside a family of facts: of the family as a whole, and of the family under one operation. */
export const FAMILY_EFFECTS = 4;

/** A fact in its place: dense features, its family, and which of the family's effects touch it. */
export interface PlacedFact {
  readonly features: Float64Array;
  readonly family: string;
  readonly effects: readonly number[];
}

const valuesAt = <F>(features: readonly Valued<F>[], fact: F): Float64Array =>
  Float64Array.from(features, ({ of }) => of(fact));

/** What each operation of a family has of its own, beside the family. */
const OPERATIONS: Readonly<Record<NumberFact['kind'], number>> = { add: 1, subtract: 2, missing: 3, bond: 3 };

function placeNumber(fact: NumberFact): PlacedFact {
  const family = `${smaller(fact)}+${Math.max(...fact.parts)}`;
  return { features: valuesAt(NUMBER, fact), family, effects: [0, OPERATIONS[fact.kind]] };
}

const placeQuantity = (fact: QuantityFact): PlacedFact => ({
  features: valuesAt(SEEING, fact),
  family: String(fact.answer),
  effects: [0],
});

export const placeFact = (fact: Fact): PlacedFact => (isNumberFact(fact) ? placeNumber(fact) : placeQuantity(fact));
