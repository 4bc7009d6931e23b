import { countingSteps } from '../../facts/counting';
import { parseFact } from '../../facts/fact';
import type { Mistake } from '../../mistakes/mistake';
import type { Evidence } from '../../reading/evidence';
import type { SessionSum } from '../../reading/lastSession';
import type { Moved } from '../../reading/moved';
import type { ReadingChange } from '../../reading/overTime';
import type { Happening } from '../../reading/sequence';
import type { Reading, Reason } from '../../reading/reading';
import { fact } from './facts';
import { capital, counted, formOf, inLetters, listed, seconds, some } from './numbers';
import { reading, readings } from './readings';
import * as record from './record';

type Asked = Extract<Happening, { readonly what: 'asked' }>;
type ReadThen = Extract<Happening, { readonly what: 'read' }>;

/** What would settle or change a reading. */
export function whatWouldChange(reason: Reason, tooShort: boolean): string {
  const ask = 'Ask “did you count or did you see it?”: that tells what time cannot.';
  switch (reason.code) {
    case 'needs-answers': {
      const more = `${capital(some(reason.more, 'more answer'))} without help would begin to settle it.`;
      return tooShort ? `${more} ${ask}` : more;
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

/** What the times of the right answers fit: remembering, counting, or some the one and some the other. */
function fit({ likeKnowing, likeCounting }: Evidence): string {
  const all = likeKnowing + likeCounting;
  if (all === 0) return 'no right answer has a time';
  if (likeKnowing > 0 && likeCounting > 0)
    return `of ${inLetters(all)} right answers ${inLetters(likeKnowing)} ${formOf(likeKnowing, 'fits', 'fit')} remembering and ${inLetters(likeCounting)} ${formOf(likeCounting, 'fits', 'fit')} counting`;
  const who =
    all === 1
      ? 'the right answer fits'
      : all === 2
        ? 'both right answers fit'
        : `all ${inLetters(all)} right answers fit`;
  return `${who} ${likeCounting === 0 ? 'remembering' : 'counting'}`;
}

const wereWrong = (n: number): string[] => (n === 0 ? [] : [`${some(n, 'answer')} ${formOf(n, 'was', 'were')} wrong`]);
const signed = (n: number, what: string): string[] => (n === 0 ? [] : [`${what} was seen or said ${counted.times(n)}`]);

/** Where the answers to this fact alone would say something else. */
const TIPPED = 'the answers to facts like it tip it';

/** What follows from the evidence, and why: the reading's own word, then what speaks for it. */
export function conclusion(seen: Evidence, one: Reading): string {
  const { signs, likeKnowing, likeCounting, tooShort } = seen;
  const wrong = wereWrong(seen.judged - seen.right);
  const times = tooShort ? [] : [fit(seen)];
  const so = (...whys: readonly string[]): string => `So the reading is “${reading(one)}”: ${whys.join('; ')}.`;
  switch (one.reason.code) {
    case 'needs-answers':
      return 'That is too few answers to say.';
    case 'needs-another-day':
      return 'All of them are from one day, and one day is not enough to say.';
    case 'quick-on-days': {
      const tipped = !tooShort && likeCounting >= likeKnowing ? [TIPPED] : [];
      return so(...signed(signs.knew, 'knowing'), ...times, ...wrong, ...tipped);
    }
    case 'fits-the-rest': {
      const rest = !tooShort && likeCounting > likeKnowing ? TIPPED : 'the answers to facts like it leave little doubt';
      return so(...signed(signs.knew, 'knowing'), ...times, rest);
    }
    case 'mostly-wrong':
      return so('more than half of the answers were wrong');
    case 'leads': {
      const { strategy } = one.reason;
      if (strategy === 'guess') return so('right and wrong answers come as they do by guessing');
      const how = strategy === 'derive' ? signed(signs.derived, 'working it out') : signed(signs.counted, 'counting');
      const tipped = how.length === 0 && likeKnowing >= likeCounting ? [TIPPED] : [];
      return so(...how, ...times, ...wrong, ...tipped);
    }
    case 'in-between': {
      const tipped = wrong.length === 0 && (likeKnowing === 0 || likeCounting === 0) ? [`${TIPPED} the other way`] : [];
      return so(...times, ...wrong, ...tipped);
    }
    case 'probably-known':
      return so('right on several days; but counting would be over as soon, so time cannot tell', ...wrong);
    case 'ask-the-child':
      return so('counting is over too soon for time to tell', ...wrong);
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
  const hand = `Copying a number takes ${name} ${seen.handIsOwn ? '' : 'probably '}${seconds(seen.handMs)}`;
  const counting =
    seen.steps > 0 ? `, and ${countingWords(seen.fact, seen.countsAll)} takes about ${seconds(seen.countingMs)}.` : '.';
  return `${howMany}${took} ${hand}${counting}`;
}

/** One change over the weeks. */
export function change({ from, to }: ReadingChange): string {
  if (from === null) return 'now known';
  if (to === 'knows') return `was “${readings[from]}”, now known`;
  return from === 'knows' ? `was known, now “${readings[to]}”` : `was “${readings[from]}”, now “${readings[to]}”`;
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
  'one off': 'one off',
  'ran past': 'counted past the total',
  'one row only': 'one row only',
  'empty boxes': 'gave the empty boxes',
  'writing slip': 'written wrongly (such as a reversed 3)',
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

/** How one fact stood when a week ended. */
export const readAtWeekEnd = ({ fact: text, from, to }: ReadThen): string =>
  from === null
    ? `End of the week: ${fact(text)} – ${readings[to]}`
    : `End of the week: ${fact(text)} – ${readings[to]} (before: ${readings[from]})`;

/** What it means that a session changed no reading. */
export function nothingMoved({ judged, wrong, helped }: SessionSum): string {
  if (judged === 0)
    return helped > 0
      ? 'No readings changed: every answer was given with help, and those are not judged.'
      : 'No readings changed: none of these answers was judged.';
  const all = judged === 1 ? 'the one answer' : `all ${inLetters(judged)} answers`;
  if (wrong === 0)
    return `No readings changed: ${all} ${judged === 1 ? 'was' : 'were'} right and fit what was read before, or are too few to change it.`;
  const some =
    wrong === judged
      ? `though ${all} ${judged === 1 ? 'was' : 'were'} wrong`
      : `though ${inLetters(wrong)} of ${inLetters(judged)} answers ${formOf(wrong, 'was', 'were')} wrong`;
  return `No readings changed, ${some}: one wrong answer moves little where many speak for a fact. More of them on another day would.`;
}

/** What a child's last session changed. */
export function moved(changes: readonly Moved[], askHow: readonly string[], answered: SessionSum): string {
  const shown = changes
    .slice(0, 3)
    .map(({ fact: text, before, after }) =>
      before === null
        ? `${fact(text)} now reads “${reading(after)}”`
        : `${fact(text)} moved from “${reading(before)}” to “${reading(after)}”`,
    );
  const more = changes.length > 3 ? [`${changes.length - 3} more`] : [];
  const said = shown.length > 0 ? `${listed([...shown, ...more])}.` : nothingMoved(answered);
  if (askHow.length === 0) return said;
  return `${said} Ask “did you count or did you see it?” for ${listed(askHow.map(fact))}.`;
}
