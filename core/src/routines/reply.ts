import { isNumberFact, parseFact } from '../facts/fact';
import { isFact } from '../facts/question';
import { mistakeOf } from '../mistakes/mistake';
import type { Explanation, Help } from '../record/response';
import type { Slip } from './board';
import type { Picture } from './picture';
import type { Prompt, Thought } from './prompt';
import { isRight, rightAnswer, type Ask } from './routine';
import { parsePair, type Pair } from './ways';

/** What follows an answer: what the adult says next, what after that, and the ways of helping that change something, in order; none when it was right. */
export interface Reply {
  readonly say: Prompt;
  readonly then: Prompt | null;
  readonly helps: readonly Help[];
}
const reply = (say: Prompt, helps: readonly Help[] = [], then: Prompt | null = null): Reply => ({ say, then, helps });

const samePair = ([a, b]: Pair, [c, d]: Pair): boolean => a === c && b === d;

/** Of a way: whether the board has it already, turned round or not, or it makes another number. Null when it is simply new. */
function replyToWay(ask: Ask, [first, second]: Pair): Prompt | null {
  if (ask.picture.show !== 'ways') return null;
  const { whole, ways } = ask.picture;
  const has = (pair: Pair): boolean => ways.some((way) => way !== null && samePair(way, pair));
  if (first + second !== whole) return { say: 'not-a-way', first, second, whole };
  if (has([first, second])) return { say: 'have-that-way' };
  if (first !== second && has([second, first]))
    return { say: ask.accepts?.includes(`${first}+${second}`) ? 'turned-new' : 'turned-same', first, second };
  return null;
}

const SLIP_ASKED = {
  'start-elsewhere': 'where-start',
  'second-row-too-soon': 'which-row',
  'with-gaps': 'no-gaps',
} as const satisfies Record<Slip, Prompt['say']>;

/** How a wrong answer was thought, where the answer tells. */
function thoughtOf({ fact }: Ask, given: string): Thought | null {
  const mistake = fact === null ? null : mistakeOf(fact, given);
  return mistake === null ? null : { mistake, fact: fact!, given: Number(given) };
}

/** Counters that were put or moved: how many too many, below zero too few; null where nothing was put. */
function tooMany(ask: Ask, given: string): number | null {
  const puts = ask.want.by === 'board' || ask.aid === 'objects';
  const right = rightAnswer(ask);
  return puts && given !== '' && right !== null ? Number(given) - Number(right) : null;
}

function replyToCounters(ask: Ask, n: number): Prompt {
  if (ask.want.by === 'board' && ask.want.plan.moves) return { say: n > 0 ? 'move-one-back' : 'move-one-more' };
  return n > 0 ? { say: 'take-off', n } : { say: 'put-on', n: -n };
}

/** Once it is right: how it was seen or known, and the whole sentence; of counters, where the filling begins, or that it is right. */
function replyToRight(ask: Ask, slip: Slip | null): Reply {
  if (slip !== null) return reply({ say: SLIP_ASKED[slip] });
  const sentence = sentenceOf(ask);
  if (ask.after.say === 'thanks' && sentence !== null) return reply(sentence);
  const talked = ask.after.say === 'how-known' || ask.after.say === 'how-seen' || ask.after.say === 'thanks';
  return reply(ask.after, [], ask.then ?? (talked ? sentence : null));
}

/**
 * What the adult says once an answer stands. A wrong one is never called wrong: what the number is that was said, and the very question that was asked once more; the first answer stays on record.
 * Where nobody answered, both look together. What the child checks by itself is left to the child.
 * @param given the first answer; empty = none came
 * @param slip how counters were laid against the rule, when they were
 */
export function replyTo(ask: Ask, given: string, slip: Slip | null = null): Reply {
  const pair = ask.want.by === 'pair' ? parsePair(given) : null;
  const way = pair && replyToWay(ask, pair);
  if (way) return reply(way);
  if (ask.want.by === 'talk' || ask.want.by === 'cut' || ask.checksItself) return reply(ask.after);
  const question = ask.prompt;
  if (ask.want.by === 'pair')
    return isRight(ask, given) ? reply(ask.after) : reply(given === '' ? { say: 'look-together', question } : { say: 'look-at-board' }); // prettier-ignore
  if (given === '') return reply({ say: 'look-together', question }, helpsFor(ask, given));
  if (isRight(ask, given)) return replyToRight(ask, slip);
  if (ask.want.by === 'board' && ask.want.plan.keeps) return reply({ say: 'look-again', question }, ['look-again']);
  const n = tooMany(ask, given);
  if (n !== null) return reply(replyToCounters(ask, n), helpsFor(ask, given));
  return reply({ say: 'check', question, thought: thoughtOf(ask, given) }, helpsFor(ask, given));
}

/** The picture shows the number in a frame already. */
const onFrame = ({ picture }: Ask): boolean =>
  picture.show === 'frame' ||
  picture.show === 'two-part' ||
  picture.show === 'crossed-off' ||
  picture.show === 'moved-out' ||
  picture.show === 'two-frames' ||
  (picture.show === 'sentence' && picture.over !== undefined);

const inSymbols = ({ picture }: Ask): boolean =>
  picture.show === 'sentence' || picture.show === 'part-whole' || picture.show === 'die';

/** What helps with a question that was not answered rightly: only what changes something on the stage, or in what is said. */
function helpsFor(ask: Ask, given: string): Help[] {
  const many = (tooMany(ask, given) ?? 0) > 0 && !(ask.want.by === 'board' && ask.want.plan.moves);
  const puts = ask.want.by === 'board';
  const frame = ask.fact !== null && !onFrame(ask) && ask.want.by === 'number' && frameFor(ask.fact) !== null;
  const counts = ask.picture.show !== 'nothing' && ask.picture.show !== 'numeral' && ask.picture.show !== 'sentences';
  return [
    ...(many ? (['take-one-off'] as const) : []),
    ...(ask.flash ? (['look-again'] as const) : []),
    ...(frame && ask.aid !== 'objects' ? (['frame-under'] as const) : []),
    ...(!puts && countOnFor(ask) !== null ? (['count-on'] as const) : []),
    ...(puts || ask.aid === 'objects' || (counts && (!inSymbols(ask) || frame || onFrame(ask)))
      ? (['count-together'] as const)
      : []),
  ];
}

/** Where counting on begins and ends: from the greater part of a sum, from what is there up to the whole, or back by what goes away; null where there is nothing to count. */
function countOnFor({ fact }: Ask): { readonly from: number; readonly to: number } | null {
  if (fact === null) return null;
  const steps = (from: number, to: number) => (from === to ? null : { from, to });
  const [, a = '', b = ''] = /^(\d+)\+(\d+)$/.exec(fact) ?? [];
  if (a !== '') return steps(Math.max(Number(a), Number(b)), Number(a) + Number(b));
  if (!isFact(fact)) return null;
  const read = parseFact(fact);
  if (!isNumberFact(read)) return null;
  const given = read.whole - read.answer;
  if (read.kind !== 'subtract') return steps(given, read.whole);
  return given <= read.answer ? steps(read.whole, read.answer) : steps(given, read.whole);
}

/** What the adult says with the help that was chosen. */
export function sayWith(ask: Ask, given: string, help: Help): Prompt {
  switch (help) {
    case 'look-again':
      return { say: 'look-again', question: ask.prompt };
    case 'frame-under':
      return { say: 'on-the-frame' };
    case 'count-together':
      return { say: countsEmpties(ask) ? 'count-empties' : 'count-together' };
    case 'count-on': {
      const steps = countOnFor(ask);
      return steps === null ? { say: 'count-together' } : { say: 'count-on', ...steps };
    }
    case 'take-one-off':
      return replyTo(ask, given).say;
  }
}

/** On a frame that is filled up, what is missing are its empty boxes. */
const countsEmpties = ({ fact, picture }: Ask): boolean => picture.show === 'frame' && fact?.includes('+?=') === true;

/** The whole sentence for the child to say once it is right; null where there is none, as with a number of dots. */
export function sentenceOf(ask: Ask): Prompt | null {
  if (ask.fact === null || ask.want.by !== 'number') return null;
  if (isFact(ask.fact)) return isNumberFact(parseFact(ask.fact)) ? { say: 'say-sentence', fact: ask.fact } : null;
  return /^[\d?]+([+-][\d?]+)+(=\d+)?$/.test(ask.fact) ? { say: 'say-sentence', fact: ask.fact } : null;
}

/** A frame for a number fact: both parts of a sum, past ten on two frames; of a take-away what goes, five as the whole row; of a missing part what there is, and the total ringed. */
function frameFor(fact: string): Picture | null {
  if (!isFact(fact)) {
    const [first, second] = (/^(\d{1,2})\+(\d{1,2})$/.exec(fact) ?? []).slice(1).map(Number);
    if (first === undefined || second === undefined || Math.max(first, second) > 10) return null;
    return { show: 'two-frames', first, second, outside: false };
  }
  const read = parseFact(fact);
  const direction = 'rows';
  if (!isNumberFact(read)) return { show: 'frame', layout: 'frame-fives', count: read.answer, direction };
  const [first, second] = read.parts;
  if (read.kind === 'add') return { show: 'two-part', first, second, direction };
  const given = read.whole - read.answer;
  return read.kind === 'subtract'
    ? { show: 'crossed-off', count: read.whole, gone: given, direction, ...(given === 5 ? { firstRow: true } : {}) }
    : { show: 'up-to', first: given, whole: read.whole, direction };
}

/** What stands on the stage while an adult helps: the same picture to look at again, or a frame under the question; null = as it was. */
export function helpPicture(ask: Ask, help: Help): Picture | null {
  if (help === 'take-one-off') return null;
  if (help === 'look-again') return ask.picture;
  const frame = ask.fact === null || onFrame(ask) ? null : frameFor(ask.fact);
  // Under the sentence, so that the two are seen to be the same.
  const under: Picture | null = frame && ask.picture.show === 'sentence' ? { ...ask.picture, over: frame } : frame;
  if (help === 'frame-under') return under;
  // They count on the picture itself, or on the frame where there are only symbols.
  return inSymbols(ask) ? (under ?? ask.picture) : ask.picture;
}

/** The board with what was just said on it, a repeated or turned pair lit; null for other questions. */
export function boardAfter(ask: Ask, given: string): Picture | null {
  const pair = ask.want.by === 'pair' ? parsePair(given) : null;
  if (pair === null || ask.picture.show !== 'ways') return null;
  const { whole, ways } = ask.picture;
  const said = replyToWay(ask, pair);
  const turned: Pair = [pair[1], pair[0]];
  const lit =
    said === null ? [] : said.say === 'have-that-way' ? [pair] : said.say === 'not-a-way' ? [] : [pair, turned];
  const isNew = said === null ? (ask.accepts?.includes(given) ?? false) : said.say === 'turned-new';
  const slot = ways.indexOf(null);
  const shown = !isNew ? ways : slot < 0 ? [...ways, pair] : ways.map((way, i) => (i === slot ? pair : way));
  return { show: 'ways', whole, ways: shown, lit };
}

/** How a child may have seen or worked out a right answer: those that suit the fact, the likeliest first; none where nothing was to be seen or worked out. */
export function explanationsFor(fact: string): Explanation[] {
  if (!isFact(fact)) return [];
  const read = parseFact(fact);
  if (!isNumberFact(read)) {
    const n = read.answer;
    if (read.kind !== 'show' || n < 2) return [];
    return [
      ...(n > 5 ? (['five-and'] as const) : []),
      ...(n % 2 === 0 ? (['double'] as const) : []),
      'one-more',
      ...(n > 2 ? (['one-less'] as const) : []),
      ...(n > 6 ? (['from-ten'] as const) : []),
    ];
  }
  const [a, b] = read.parts;
  const { whole } = read;
  return [
    ...(a >= 5 || b >= 5 || whole > 5 ? (['five-and'] as const) : []),
    ...(Math.abs(a - b) <= 1 ? (['double'] as const) : []),
    ...(Math.min(a, b) === 1 ? ([read.kind === 'add' ? 'one-more' : 'one-less'] as const) : []),
    'count-on',
    ...(a === b ? [] : (['turned'] as const)),
    ...(whole >= 8 ? (['from-ten'] as const) : []),
  ];
}

/** Said on a screen that children see, these would tell the answer to whoever is asked next. */
const TELLING: ReadonlySet<Prompt['say']> = new Set([
  'say-sentence',
  'card-back',
  'count-on',
  'built',
  'parts-sentence',
  'turned-sentence',
  'one-more-than',
  'write-whole',
]);

/** Whether a reply gives an answer away. */
export const tellsAnswer = (said: Prompt): boolean => TELLING.has(said.say);
