import { parseFact } from '../../facts/fact';
import { countingSteps } from '../../facts/counting';
import type { Mistake } from '../../mistakes/mistake';
import type { Evidence } from '../../reading/evidence';
import type { Moved } from '../../reading/moved';
import type { Change } from '../../reading/overTime';
import type { Reading, ReadingWord, Reason } from '../../reading/reading';
import { fact } from './facts';
import { capital, inLetters, listed, seconds, some } from './numbers';

/** Readings by their code. */
export const readings: Record<ReadingWord, string> = {
  knows: 'knows',
  'works out': 'works out',
  'in between': 'in between',
  counts: 'counts',
  'not yet': 'not yet',
  'too few answers': 'too few answers',
};

/** A reading in words; where time cannot tell, what to do instead of "in between". */
export function reading({ reading: code, reason }: Reading): string {
  if (code !== 'in between') return readings[code];
  if (reason.code === 'probably-known') return 'probably known';
  return reason.code === 'ask-the-child' ? 'ask the child' : readings[code];
}

/** How sure, in words. */
export function sureness({ responses, certainty }: Reading): string {
  if (responses === 0) return 'not asked yet';
  if (certainty >= 0.75) return 'quite sure';
  if (certainty >= 0.45) return 'fairly sure';
  return certainty >= 0.2 ? 'probably' : 'not sure';
}

/** What would settle or change a reading. */
export function whatWouldChange(reason: Reason, tooShort: boolean): string {
  const ask = 'Time cannot tell counting from knowing here: ask “did you count or did you see it?”';
  switch (reason.code) {
    case 'needs-answers': {
      const more = `${capital(some(reason.more, 'more answer'))} without help would begin to settle it.`;
      return tooShort ? `${more} ${ask}` : more;
    }
    case 'needs-another-day':
      return 'All the answers so far are from one day: one or two on another day would settle it.';
    case 'in-between':
      return 'The answers fit neither knowing nor counting well enough to say. Two or three more on another day may settle it.';
    case 'probably-known':
      return `Probably known. ${ask}`;
    case 'ask-the-child':
      return ask;
    case 'quick-on-days':
      return 'Quick and right on several days. Several slow answers would put it in doubt.';
    case 'mostly-wrong':
      return 'More than half were wrong. Right answers, however slow, would change this.';
    case 'leads':
      return reason.strategy === 'guess'
        ? 'The answers look like guesses. It may be too early to ask this.'
        : 'Two quick answers on another day would begin to change this.';
  }
}

/** The way in which this child would count this fact. */
function countingWords(text: string, countsAll: boolean): string {
  const asked = parseFact(text);
  const { fromGreater, all } = countingSteps(asked);
  if (countsAll) return `counting all ${inLetters(all)}`;
  if (asked.kind === 'subtract') return `counting ${inLetters(fromGreater)} back`;
  if (asked.kind === 'show' || asked.kind === 'count')
    return fromGreater < all ? `counting on ${inLetters(fromGreater)} from five` : `counting ${inLetters(all)}`;
  return `counting on ${inLetters(fromGreater)}`;
}

/** The evidence: what was seen, against this child's own hand time and counting time. */
export function evidence(seen: Evidence, name: string): string {
  const { judged, right, usualMs } = seen;
  if (judged === 0) return `${name} has not answered this without help yet.`;
  const howMany =
    judged === 1
      ? `The one answer was ${right === 1 ? 'right' : 'wrong'}`
      : `${capital(inLetters(right))} of ${some(judged, 'answer')} were right`;
  const took = usualMs === null ? '.' : `; ${right === 1 ? 'it' : 'they'} took about ${seconds(usualMs)}.`;
  const hand = `Copying a number takes ${name} ${seen.handIsOwn ? '' : 'probably '}${seconds(seen.handMs)}`;
  const counting =
    seen.steps > 0
      ? `, and ${countingWords(seen.fact, seen.countsAll)} takes about ${seconds(seen.countingMs)}.`
      : '. No counting is needed here.';
  return `${howMany}${took} ${hand}${counting}`;
}

/** What a child's last session changed. */
export function moved(changes: readonly Moved[], askHow: readonly string[], hasReadings: boolean): string {
  const shown = changes
    .slice(0, 3)
    .map(({ fact: text, before, after }) =>
      before === null
        ? `${fact(text)} now reads “${readings[after.reading]}”`
        : `${fact(text)} moved from “${readings[before.reading]}” to “${readings[after.reading]}”`,
    );
  const more = changes.length > 3 ? [`${changes.length - 3} more`] : [];
  const told =
    shown.length > 0
      ? `${listed([...shown, ...more])}.`
      : hasReadings
        ? 'No readings changed.'
        : 'The first answers; more are needed.';
  if (askHow.length === 0) return told;
  return `${told} Ask “did you count or did you see it?” for ${listed(askHow.map(fact))}.`;
}

/** One change over the weeks. */
export function change({ from, to }: Change): string {
  if (from === null) return 'now known';
  if (to === 'knows') return `was “${readings[from]}”, now known`;
  return from === 'knows' ? `was known, now “${readings[to]}”` : `was “${readings[from]}”, now “${readings[to]}”`;
}

/** What the weeks brought. */
export function overTime(changes: readonly Change[], weeks: number, name: string): string {
  // Only what stands: a fact that became known and lapsed again is told as lapsed.
  const newest = new Map<string, Change>();
  for (const one of changes) if (!newest.has(one.fact)) newest.set(one.fact, one);
  const standing = [...newest.values()];
  const known = standing.filter((c) => c.to === 'knows').length;
  const lapsed = standing.filter((c) => c.lapse).map((c) => fact(c.fact));
  const became =
    known === 0 ? `${name} has no newly known fact yet` : `${name} has come to know ${some(known, 'fact')}`;
  const since = `${became} in ${some(weeks, 'week')} with answers.`;
  if (lapsed.length === 0) return since;
  const shown = lapsed.slice(0, 4);
  const rest = lapsed.length - shown.length;
  return `${since} Known before and not now: ${listed(rest > 0 ? [...shown, some(rest, 'other')] : shown)}. A quick answer or two may bring them back.`;
}

/** Mistakes by their code. */
export const mistakes: Record<Mistake, string> = {
  'whole instead of part': 'gave the whole instead of a part',
  'part said back': 'repeated the part',
  'other part': 'gave the other part',
  'added instead': 'added instead',
  'took away instead': 'took away instead',
  'one off': 'one out',
  'ran past': 'counted past the total',
  'one row only': 'one row only',
  'empty boxes': 'gave the empty boxes',
  'writing slip': 'written wrongly (such as a reversed 3)',
  'something else': 'something else',
};
