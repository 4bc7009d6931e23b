import { isNumberFact, type Fact, type NumberFact, type QuantityFact } from '../facts/fact';

/**
 * What a fact is likely to be before its own answers (READING.md, section 3): know = logistic(level + ease(fact) + own deviation).
 * Here with fixed weights and a level of the child's own for numbers and for seeing.
 */
export type Domain = 'number' | 'seeing';

export const domainOf = (fact: Fact): Domain => (isNumberFact(fact) ? 'number' : 'seeing');

/** Spread of a fact's own deviation from what its features say, on the log-odds scale. */
export const DEVIATION_SD = 1.2;
/** Spread of a child's level, on the log-odds scale. */
export const LEVEL_SD = 2;

/** Prior weights of the features of number facts, from READING.md's prototype. */
const WEIGHT = {
  smallerPartBeyondTwo: -0.5,
  partIsZero: 0.7,
  partIsOne: 0.7,
  double: 0.8,
  half: 0.3,
  wholeIsTen: 0.4,
  takeAway: -0.8,
  wholeBeyondFive: -0.15,
};

function numberEase(fact: NumberFact): number {
  const smaller = Math.min(...fact.parts);
  const isDouble = fact.parts[0] === fact.parts[1];
  const undoing = fact.kind === 'subtract' || fact.kind === 'missing';
  return (
    WEIGHT.smallerPartBeyondTwo * (smaller - 2) +
    (smaller === 0 ? WEIGHT.partIsZero : 0) +
    (smaller === 1 ? WEIGHT.partIsOne : 0) +
    (isDouble ? (undoing ? WEIGHT.half : WEIGHT.double) : 0) +
    (fact.whole === 10 ? WEIGHT.wholeIsTen : 0) +
    (undoing ? WEIGHT.takeAway : 0) +
    (WEIGHT.wholeBeyondFive * (fact.whole - 5)) / 2
  );
}

/** Up to three are seen at a glance by nearly every child, four by most; a full row or a full frame is a picture of its own. */
function seeingEase(fact: QuantityFact): number {
  if (fact.answer <= 3) return 1.5;
  if (fact.answer === 4) return 0.5;
  if (fact.answer === 5 || fact.answer === 10) return 0.7;
  return fact.layout === 'frame-fives' ? 0 : -0.6;
}

/** How much easier than the child's level a fact is, on the log-odds scale. */
export const ease = (fact: Fact): number => (isNumberFact(fact) ? numberEase(fact) : seeingEase(fact));
