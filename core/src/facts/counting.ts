import { isNumberFact, type Fact } from './fact';

/** Number of counting words for a fact: on from the greater part, or all of it. */
export interface CountingSteps {
  readonly fromGreater: number;
  readonly all: number;
}

/**
 * Counting steps of a fact (docs/model.md, "Time"). Addition: the smaller part, or the sum. Take-away and missing part: the shorter
 * way (counting back or up), or the whole. A quantity: on from five on a frame, or every item. A numeral to copy needs none.
 */
export function countingSteps(fact: Fact): CountingSteps {
  if (isNumberFact(fact)) return { fromGreater: Math.min(...fact.parts), all: fact.whole };
  if (fact.kind === 'match') return { fromGreater: 0, all: 0 };
  const onFromFive = fact.layout === 'frame-fives' && fact.kind === 'show' && fact.answer >= 5;
  return { fromGreater: onFromFive ? fact.answer - 5 : fact.answer, all: fact.answer };
}

/** True when counting is over so soon that time cannot tell it from knowing: then only asking the child can. */
export function tooShortToTell(fact: Fact): boolean {
  if (fact.kind === 'show' && fact.answer <= SEEN_BY_MOST) return true;
  return fact.kind !== 'match' && countingSteps(fact).fromGreater <= 1;
}
/** So many are seen at a glance by nearly every child, and counted in hardly more time. */
const SEEN_BY_MOST = 3;
