import { countingSteps, tooShortToTell } from '../../facts/counting';
import { parseFact } from '../../facts/fact';
import type { Mistake } from '../../mistakes/mistake';
import type { Evidence } from '../../reading/evidence';
import type { SessionSum } from '../../reading/lastSession';
import type { Moved, MovedBy } from '../../reading/moved';
import type { ReadingChange } from '../../reading/overTime';
import type { Happening } from '../../reading/sequence';
import type { Reading, Reason } from '../../reading/reading';
import { whatTells } from '../../reading/whatTells';
import { fact } from './facts';
import { capital, counted, formOf, inLetters, listed, seconds, some } from './numbers';
import { factStands, ofFact, reading } from './readings';
import * as record from './record';

type Asked = Extract<Happening, { readonly what: 'asked' }>;
type ReadThen = Extract<Happening, { readonly what: 'read' }>;

/** How to ask a child how an answer came about: a numeral is not seen. */
export const howQuestion = (text: string): string => {
  const { kind } = parseFact(text);
  return kind === 'show' || kind === 'count'
    ? '“Did you count, or did you see it?”'
    : '“Did you count, or did you just know?”';
};

/** What would settle or change Vane's view. @param fact the fact it is of */
export function whatWouldChange(reason: Reason, fact: string, timeTells: boolean): string {
  const ask = `Ask ${howQuestion(fact)} That tells what time cannot.`;
  switch (reason.code) {
    case 'needs-answers': {
      const more = `${capital(some(reason.more, 'more answer'))} without help would begin to settle it.`;
      return timeTells ? more : `${more} ${ask}`;
    }
    case 'needs-another-day':
      return 'One or two on another day would settle it.';
    case 'fits-the-rest':
      return 'One or two answers on another day would confirm it.';
    case 'in-between':
      return 'Two or three more on another day may settle it.';
    case 'probably-known':
    case 'ask-the-child':
      return ask;
    case 'quick-on-days':
      return 'Several slow answers would put it in doubt.';
    case 'mostly-wrong':
      return 'Right answers, however slow, would change this.';
    case 'leads':
      return reason.strategy === 'guess'
        ? 'It may be too early to ask this.'
        : 'Two quick answers on another day would begin to change this.';
  }
}

/** What the times of the right answers fit: knowing, counting, or some the one and some the other. */
function timesFit({ likeKnowing, likeCounting }: Evidence): string {
  const all = likeKnowing + likeCounting;
  const of = (n: number, what: string): string => `${inLetters(n)} ${formOf(n, 'fits', 'fit')} ${what}`;
  if (likeKnowing > 0 && likeCounting > 0)
    return `Of the ${inLetters(all)} right answers ${of(likeKnowing, 'knowing')} and ${of(likeCounting, 'counting')}.`;
  const what = likeCounting === 0 ? 'knowing' : 'counting';
  if (all === 1) return `The time of the right answer fits ${what}.`;
  return `The times of ${all === 2 ? 'both' : `all ${inLetters(all)}`} right answers fit ${what}.`;
}

/** Where a fact that is usually too short for time to tell took clearly longer. */
const SLOWER = 'The right answers are clearly slower than knowing it or counting on would be.';

/** Why, in one sentence: what the view rests on. */
function why(seen: Evidence, one: Reading): string {
  const { signs, likeKnowing, likeCounting } = seen;
  const known = one.reading === 'knows';
  switch (whatTells(seen, one)) {
    case 'few':
      return one.reason.code === 'needs-another-day'
        ? 'All of them are from one day, and one day is not enough to say.'
        : 'That is too few answers to say.';
    case 'times':
      return !known && tooShortToTell(parseFact(seen.fact)) ? SLOWER : timesFit(seen);
    case 'signs': {
      const sign = known ? 'knew' : one.reading === 'works out' ? 'derived' : 'counted';
      return `It rests on “${record.signs[sign]}”, marked ${counted.times(signs[sign])}.`;
    }
    case 'similar': {
      const against = known ? likeCounting > likeKnowing : likeKnowing > likeCounting;
      if (against) return `${timesFit(seen)} But answers to similar facts point the other way.`;
      if (known)
        return one.responses === 1
          ? 'It rests on one answer: answers to similar facts leave little doubt.'
          : 'Answers to similar facts leave little doubt.';
      return one.reading === 'works out'
        ? 'Answers to similar facts point to working it out.'
        : 'Answers to similar facts point to counting.';
    }
    case 'mistakes':
      return one.reason.code === 'mostly-wrong'
        ? 'More than half of the answers were wrong.'
        : 'There are as many wrong answers as guessing would give.';
    case 'mixed':
      if (likeKnowing > 0 && likeCounting > 0) return timesFit(seen);
      if (seen.right < seen.judged) return 'Some answers were right and some were wrong.';
      if (likeKnowing + likeCounting === 0) return 'No right answer has a time.';
      return `${timesFit(seen)} But answers to similar facts point the other way.`;
    case 'short':
      return one.reason.code === 'probably-known'
        ? 'It was right on several days, but counting would take no longer, so time cannot tell.'
        : 'Counting would take no longer than knowing, so time cannot tell.';
  }
}

/** What follows from the evidence, and why. */
export const conclusion = (seen: Evidence, one: Reading): string =>
  whatTells(seen, one) === 'few' ? why(seen, one) : `So Vane’s view is “${reading(one)}”. ${why(seen, one)}`;

/** The way in which this child would count this fact. */
function countingWords(text: string, countsAll: boolean): string {
  const asked = parseFact(text);
  const { fromGreater, all } = countingSteps(asked);
  if (countsAll) return `counting all ${inLetters(all)}`;
  if (asked.kind === 'subtract') return `counting back ${inLetters(fromGreater)}`;
  if (asked.kind === 'show' || asked.kind === 'count')
    return fromGreater < all ? `counting on ${inLetters(fromGreater)} from five` : `counting ${inLetters(all)}`;
  return `counting on ${inLetters(fromGreater)}`;
}

/** How many of several answers were right. */
function rightOf(right: number, judged: number): string {
  const all = inLetters(judged);
  if (right === judged) return judged === 2 ? 'Both answers were right' : `All ${all} answers were right`;
  if (right === 0) return judged === 2 ? 'Neither answer was right' : `None of the ${all} answers was right`;
  return `${capital(inLetters(right))} of the ${all} answers ${right === 1 ? 'was' : 'were'} right`;
}

/** The evidence: what was seen, against this child's own hand time and counting time. */
export function evidence(seen: Evidence, name: string): string {
  const { judged, right, usualMs } = seen;
  if (judged === 0) return `${name} has not answered this without help yet.`;
  const howMany =
    judged === 1
      ? `The one answer was ${right === 1 ? 'right' : 'wrong'}`
      : `${rightOf(right, judged)}, on ${some(seen.days, 'day')}`;
  const took = usualMs === null ? '.' : `; ${right === 1 ? 'it' : 'they'} took about ${seconds(usualMs)}.`;
  return [`${howMany}${took}`, ...marked(seen), own(seen, name)].join(' ');
}

/** What adults marked, all of it. */
function marked({ signs }: Evidence): string[] {
  const all = (['knew', 'derived', 'counted', 'guessed'] as const).flatMap((sign) =>
    signs[sign] === 0 ? [] : [`“${record.signs[sign]}” ${counted.times(signs[sign])}`],
  );
  return all.length === 0 ? [] : [`Marked: ${listed(all)}.`];
}

/** The child's own times, which the answers are held against. */
function own(seen: Evidence, name: string): string {
  const copying = `Naming a number ${seen.handIsOwn ? `takes ${name}` : `probably takes ${name} about`} ${seconds(seen.handMs)}`;
  const lately = seen.handLatelyMs === null ? '' : `, lately ${seconds(seen.handLatelyMs)}`;
  const counting =
    seen.steps > 0 ? `, and ${countingWords(seen.fact, seen.countsAll)} about ${seconds(seen.countingMs)}` : '';
  return `${copying}${lately}${counting}.`;
}

/** One change over the weeks. */
export function change({ from, to }: ReadingChange): string {
  if (from === null) return 'now known';
  return `was ${ofFact[from]}, now ${ofFact[to]}`;
}

/** What the weeks brought. */
export function overTime(changes: readonly ReadingChange[], weeks: number, name: string): string {
  // Only what stands: a fact that became known and lapsed again is told as lapsed.
  const newest = new Map<string, ReadingChange>();
  for (const one of changes) if (!newest.has(one.fact)) newest.set(one.fact, one);
  const standing = [...newest.values()];
  const known = standing.filter((c) => c.to === 'knows').length;
  const lapsed = standing.filter((c) => c.lapse).map((c) => fact(c.fact));
  const became =
    known === 0 ? `${name} has no newly known fact yet` : `${name} has come to know ${some(known, 'fact')}`;
  const since = `${became} over ${some(weeks, 'week')}.`;
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
  'one off': 'one off',
  'ran past': 'counted past the total',
  'one row only': 'gave one row only',
  'empty boxes': 'gave the empty boxes',
  'writing slip': 'written wrongly (such as a reversed 3)',
  'ten left out': 'left the ten out',
  'something else': 'something else',
};

/** One session of a sequence: "Flash and say: three of four right, with a picture; then look again". */
export function askedIn({ answers, right, aids, helps }: Asked, routine: string): string {
  const what = routine === '' ? 'another session' : routine;
  const sum =
    answers === 1
      ? `one answer, ${right === 1 ? 'right' : 'not right'}`
      : `${right === 0 ? 'none' : inLetters(right)} of ${some(answers, 'answer')} right`;
  const help = [...aids.map((aid) => record.aids[aid]), ...helps.map((one) => `then “${record.helps[one]}”`)];
  return [`${what}: ${sum}`, ...help].join(', ');
}

/** What moved a fact; nothing where its own answers did. */
export const movedBy: Record<MovedBy, string> = {
  answers: '',
  similar: 'not asked, but moved by answers to similar facts',
  hand: 'not asked, but the hand was found to have changed',
};

/** How one fact stood when a week ended. */
export function readAtWeekEnd({ fact: text, from, to, asked }: ReadThen): string {
  const stood = `End of the week: ${fact(text)} ${ofFact[to]}${from === null ? '' : ` (before: ${ofFact[from]})`}`;
  return asked ? stood : `${stood}, ${movedBy.similar}`;
}

/** What it means that a session changed nothing. */
export function nothingMoved({ judged, wrong, helped }: SessionSum): string {
  if (judged === 0)
    return helped > 0
      ? 'Nothing changed: every answer was given with help, and those are not judged.'
      : 'Nothing changed: none of these answers was judged.';
  if (wrong === 0)
    return judged === 1
      ? 'Nothing changed: the one answer was right, as expected.'
      : `Nothing changed: all ${inLetters(judged)} answers were right, as expected.`;
  const were =
    judged === 1
      ? 'The one answer was wrong'
      : wrong === judged
        ? `All ${inLetters(judged)} answers were wrong`
        : `${capital(inLetters(wrong))} of ${inLetters(judged)} answers ${formOf(wrong, 'was', 'were')} wrong`;
  return `Nothing changed yet. ${were}. Ask again on another day.`;
}

/** Most facts of one cause that are named. */
const MOST_MOVED = 3;

const movedTo = ({ fact: text, before, after }: Moved): string =>
  before === null
    ? `${fact(text)} ${factStands(after)}`
    : `${fact(text)} ${factStands(after)} (before: ${factStands(before)})`;

function movedList(changes: readonly Moved[]): string {
  const more = changes.length - MOST_MOVED;
  return listed([...changes.slice(0, MOST_MOVED).map(movedTo), ...(more > 0 ? [`${more} more`] : [])]);
}

/** What a child's last session changed: by its own answers, and by what they say of other facts. */
export function moved(changes: readonly Moved[], askHow: readonly string[], answered: SessionSum): string {
  const own = changes.filter(({ by }) => by === 'answers');
  const others = changes.filter(({ by }) => by !== 'answers');
  const said = [
    own.length > 0 ? `${movedList(own)}.` : others.length > 0 ? [] : nothingMoved(answered),
    others[0] ? `${capital(movedBy[others[0].by])}: ${movedList(others)}.` : [],
    askHow.length > 0 ? `Ask ${howQuestion(askHow[0]!)} for ${listed(askHow.map(fact))}.` : [],
  ];
  return said.flat().join(' ');
}
