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

export type Domain = 'number' | 'seeing';
export const domainOf = (fact: Fact): Domain => (isNumberFact(fact) ? 'number' : 'seeing');

/** Step features of the whole, beside its slope: weight k is the extra cost from k − 1 to k. A child who knows everything up to a number and nothing beyond has one large step. */
const STEPS = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10] as const;
/** Undoing lags behind adding: its own steps are fewer, as it is asked less. */
const UNDOING_STEPS = [3, 5, 7, 9] as const;
/** The whole at which the level is taken: steps below it count backwards. */
const MIDDLE = 5;

const stepFeatures = (name: string, at: readonly number[], mean: number, classSd: number, childSd: number): Feature[] =>
  at.map((k) => ({ name: `${name} ${k}`, mean, classSd, childSd }));

/** Prior means and class spreads of the first group from trials with a prototype; spreads between children are wide guesses that data overrule. */
const NUMBER: readonly Feature[] = [
  { name: 'level', mean: 0, classSd: 1.5, childSd: 1.8 },
  { name: 'smaller part beyond two', mean: -0.5, classSd: 0.5, childSd: 0.3 },
  { name: 'part is zero', mean: 0.7, classSd: 1, childSd: 0.5 },
  { name: 'part is one', mean: 0.7, classSd: 1, childSd: 0.5 },
  { name: 'double', mean: 0.8, classSd: 1, childSd: 0.5 },
  { name: 'half', mean: 0.3, classSd: 1, childSd: 0.5 },
  { name: 'whole is ten', mean: 0.4, classSd: 0.7, childSd: 0.5 },
  { name: 'undoing', mean: -0.8, classSd: 1, childSd: 0.8 },
  { name: 'missing part', mean: 0, classSd: 0.7, childSd: 0.4 },
  { name: 'leaves at most one', mean: 0, classSd: 1, childSd: 0.4 },
  { name: 'smaller part first', mean: 0, classSd: 0.3, childSd: 0.15 },
  { name: 'whole', mean: -0.1, classSd: 0.8, childSd: 0.8 },
  ...stepFeatures('whole reaches', STEPS, 0, 0.3, 0.7),
  ...stepFeatures('undoing, whole reaches', UNDOING_STEPS, 0, 0.3, 0.4),
];
const NUMBER_AT = { whole: 11, steps: 12, undoingSteps: 22 };

/** Seeing: up to three at a glance by nearly every child; a full row and a full frame are pictures of their own. */
const SEEING: readonly Feature[] = [
  { name: 'level', mean: 0.5, classSd: 1.5, childSd: 1.5 },
  { name: 'three or fewer', mean: 1, classSd: 0.8, childSd: 0.5 },
  { name: 'whole row', mean: 0.5, classSd: 0.7, childSd: 0.5 },
  { name: 'full frame', mean: 0.7, classSd: 0.7, childSd: 0.5 },
  ...LAYOUTS.map((layout): Feature => ({
    name: `layout ${layout}`,
    mean: layout === 'scatter' || layout === 'line' ? -0.8 : 0,
    classSd: 0.7,
    childSd: 0.5,
  })),
  { name: 'number', mean: -0.3, classSd: 0.8, childSd: 0.8 },
  ...stepFeatures('number reaches', STEPS, 0, 0.3, 0.7),
];
const SEEING_AT = { layouts: 4, number: 4 + LAYOUTS.length, steps: 5 + LAYOUTS.length };

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

function steps(x: Float64Array, from: number, at: readonly number[], n: number): void {
  at.forEach((k, i) => (x[from + i] = Number(n >= k) - Number(MIDDLE >= k)));
}

function placeNumber(fact: NumberFact): PlacedFact {
  const x = new Float64Array(NUMBER.length);
  const [first, second] = fact.parts;
  const smaller = Math.min(first, second);
  const undoing = fact.kind !== 'add';
  const equal = first === second && first > 0;
  x[0] = 1;
  x[1] = smaller - 2;
  x[2] = Number(smaller === 0);
  x[3] = Number(smaller === 1);
  x[4] = Number(equal && !undoing);
  x[5] = Number(equal && undoing);
  x[6] = Number(fact.whole === 10);
  x[7] = Number(undoing);
  x[8] = Number(fact.kind === 'missing' || fact.kind === 'bond');
  x[9] = Number(fact.kind === 'subtract' && fact.answer <= 1);
  x[10] = Number(first < second);
  x[NUMBER_AT.whole] = fact.whole - MIDDLE;
  steps(x, NUMBER_AT.steps, STEPS, fact.whole);
  if (undoing) steps(x, NUMBER_AT.undoingSteps, UNDOING_STEPS, fact.whole);
  const operation = fact.kind === 'add' ? 1 : fact.kind === 'subtract' ? 2 : 3;
  return { features: x, family: `${smaller}+${Math.max(first, second)}`, effects: [0, operation] };
}

function placeQuantity(fact: QuantityFact): PlacedFact {
  const x = new Float64Array(SEEING.length);
  const layout = LAYOUTS.findIndex((name) => name === fact.layout);
  x[0] = 1;
  x[1] = Number(fact.answer <= 3);
  x[2] = Number(fact.answer === 5);
  x[3] = Number(fact.answer === 10);
  if (layout >= 0) x[SEEING_AT.layouts + layout] = 1;
  x[SEEING_AT.number] = fact.answer - MIDDLE;
  steps(x, SEEING_AT.steps, STEPS, fact.answer);
  return { features: x, family: String(fact.answer), effects: [0] };
}

export const placeFact = (fact: Fact): PlacedFact => (isNumberFact(fact) ? placeNumber(fact) : placeQuantity(fact));
