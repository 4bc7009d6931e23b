import type { Need, PlannedSitting, ProposedFact } from '@vane/core';
import { factInPrint } from '@vane/core/facts/fact';
import { inLetters, listed, some } from '../parts/plainWords';

/** What a sitting is about. */
export function needWords(need: Need): string {
  switch (need.need) {
    case 'begin':
      return 'A first look';
    case 'seeing':
      return 'Seeing at a glance';
    case 'anchor':
      return need.to === 5 ? 'How many more to five' : 'How many more to ten';
    case 'pairs':
      return `Pairs of ${inLetters(need.whole)}`;
    case 'undoing':
      return `Taking apart ${inLetters(need.whole)}`;
  }
}

/** Routines that suit a need, by id: with things first, then pictures, then numbers alone. */
export function routinesFor({ need }: Need): string[] {
  switch (need) {
    case 'begin':
      return ['learn-frame', 'flash-and-say', 'working-number'];
    case 'seeing':
      return ['flash-and-build', 'flash-and-say'];
    case 'anchor':
      return ['to-five', 'ten-card', 'folded-fingers'];
    case 'pairs':
      return ['one-cut', 'all-the-ways', 'sums'];
    case 'undoing':
      return ['part-whole', 'crossed-off', 'family'];
  }
}

const days = (n: number): string =>
  n === 0 ? 'less than a day ago' : n === 1 ? 'yesterday' : `${inLetters(n)} days ago`;

function waited({ children, waited: longest }: PlannedSitting): string {
  const one = children.length === 1;
  if (longest === null)
    return children.every((c) => c.daysSince === null) ? 'Not asked yet.' : 'Some were never asked.';
  return one ? `Last asked ${days(longest)}.` : `One of them was last asked ${days(longest)}.`;
}

/** The first few different facts that are proposed for these reasons: sums as they are written, quantities by their number. */
function some3(facts: readonly ProposedFact[], whys: readonly ProposedFact['why'][]): string {
  const found = [...new Set(facts.filter(({ why }) => whys.includes(why)).map((f) => f.fact))];
  const seen = [...new Set(found.filter((f) => f.startsWith('show:')).map((f) => Number(f.split(':')[1])))]
    .slice(0, 3)
    .sort((a, b) => a - b);
  const written = found
    .filter((f) => !f.startsWith('show:'))
    .slice(0, 3)
    // A fact is one thing: it is not broken over two lines.
    .map((f) => factInPrint(f).replaceAll(' ', '\u00a0'));
  return listed([...written, ...(seen.length > 0 ? [`seeing ${listed(seen.map(String))}`] : [])]);
}

/** Why this sitting, in one plain sentence or two. */
export function sittingReason(sitting: PlannedSitting): string {
  const facts = sitting.children.flatMap((c) => c.facts);
  if (sitting.need.need === 'begin')
    return `${waited(sitting)} A short look at numbers on the frame begins the record.`;
  const nearly = some3(facts, ['nearly']);
  const unsure = some3(facts, ['unsure', 'never-asked']);
  const fading = some3(facts, ['fading']);
  const next = some3(facts, ['next-number']);
  const reasons = [
    nearly && `${nearly} ${nearly.includes(' and ') || nearly.includes(', ') ? 'are' : 'is'} nearly known`,
    unsure && `${unsure} could be either way`,
    fading && `${fading} may be fading`,
    next && `${next} would be next`,
  ].filter((part) => part !== '');
  return `${waited(sitting)} ${reasons.slice(0, 2).join('; ') || 'What is known is kept warm'}.`;
}

export const minutesWords = (n: number): string => `about ${some(n, 'minute')}`;
