import { isNumberFact, parseFact } from '../facts/fact';
import type { Reading } from '../reading/reading';
import { offerOf, type Step } from './offer';
import { workingNumber } from './workingNumber';

/** A step of the path that is open to a child and new to them. */
export type NextStep =
  | { readonly step: 'take-away' | 'missing part'; readonly whole: number }
  | { readonly step: 'past ten' };

/** From as many answers on a step is not new any more. */
const TRIED = 3;

/**
 * What a child is ready to go on to: past ten where all pairs are known; take-away, then missing part, of a number whose sums are safe, where it has hardly been asked
 * yet. null = to go on with what they are at.
 * @param readings of one child
 */
export function readyFor(readings: readonly Reading[]): NextStep | null {
  const { number, allKnown } = workingNumber(readings);
  if (allKnown) return { step: 'past ten' };
  if (number === null) return null;
  const offered = offerOf(readings, 'practise');
  const isNew = (step: 'take-away' | 'missing part'): NextStep | null => {
    // As the plan has it: undoing is practised at the working number and the one below.
    const open = offered.filter((one) => one.step === step && one.whole >= number - 1);
    const tried = readings.reduce((sum, r) => sum + (stepOf(r.fact) === step ? r.responses : 0), 0);
    return open.length > 0 && tried < TRIED ? { step, whole: Math.max(...open.map(({ whole }) => whole)) } : null;
  };
  return isNew('take-away') ?? isNew('missing part');
}

function stepOf(text: string): Step | null {
  const fact = parseFact(text);
  if (!isNumberFact(fact)) return null;
  if (fact.kind === 'subtract') return 'take-away';
  return fact.kind === 'missing' && fact.whole !== 5 && fact.whole !== 10 ? 'missing part' : null;
}
