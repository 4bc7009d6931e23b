import { countingSteps, parseFact, type Evidence } from '@vane/core';
import { capital, inLetters, seconds, some } from '../parts/plainWords';

/** The way in which this child would count this fact, in words. */
function countingWords(factText: string, countsAll: boolean): string {
  const fact = parseFact(factText);
  const { fromGreater, all } = countingSteps(fact);
  if (countsAll) return `counting all ${inLetters(all)}`;
  if (fact.kind === 'subtract') return `counting ${inLetters(fromGreater)} back`;
  if (fact.kind === 'show' || fact.kind === 'count')
    return fromGreater < all ? `counting on ${inLetters(fromGreater)} from five` : `counting ${inLetters(all)}`;
  return `counting on ${inLetters(fromGreater)}`;
}

/** The evidence in one sentence: what was seen, against this child's own hand and own counting. */
export function evidenceSentence(evidence: Evidence, name: string): string {
  const { judged, right, usualMs } = evidence;
  if (judged === 0) return `${name} has not answered this without help yet.`;
  const howMany =
    judged === 1
      ? right === 1
        ? 'The one answer was right'
        : 'The one answer was wrong'
      : `${capital(inLetters(right))} of ${some(judged, 'answer')} were right`;
  const took = usualMs === null ? '.' : `; ${right === 1 ? 'it' : 'they'} took about ${seconds(usualMs)}.`;
  const hand = `A number ${name} only has to copy takes ${evidence.handIsOwn ? '' : 'probably '}${seconds(evidence.handMs)}`;
  const counting =
    evidence.steps > 0
      ? `, and ${countingWords(evidence.fact, evidence.countsAll)} takes ${name} about ${seconds(evidence.countingMs)}.`
      : '; there is nothing here to count.';
  return `${howMany}${took} ${hand}${counting}`;
}
