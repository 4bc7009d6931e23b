import { isNumberFact, parseFact } from '../facts/fact';
import { isFact } from '../facts/question';
import type { Explanation, Help } from '../record/response';
import type { Picture } from './picture';
import type { Prompt } from './prompt';
import { isRight, rightAnswer, type Ask } from './routine';
import { parsePair, type Pair } from './ways';

/** What follows an answer: what the adult says next, and the ways of helping that suit, in order; none when it was right. */
export interface Reply {
  readonly say: Prompt;
  readonly helps: readonly Help[];
}

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

/** The greater part of a sum: where counting on begins; null for other facts. */
const greaterPart = (fact: string): number | null =>
  /^\d+\+\d+$/.test(fact) ? Math.max(...fact.split('+').map(Number)) : null;

/**
 * What the adult says once an answer stands. A wrong one is never called wrong: how many should there be, look again, put the frame under it, count on from the greater; the first answer stays on
 * record.
 * @param given the first answer; empty = none came
 */
export function replyTo(ask: Ask, given: string): Reply {
  const pair = ask.want.by === 'pair' ? parsePair(given) : null;
  const way = pair && replyToWay(ask, pair);
  if (way) return { say: way, helps: [] };
  if (ask.want.by === 'talk' || ask.want.by === 'cut' || (given !== '' && isRight(ask, given)))
    return { say: ask.after, helps: [] };
  if (ask.want.by === 'pair') return { say: { say: 'fix-look' }, helps: [] };
  if (ask.want.by === 'board') {
    const n = Number(given) - Number(rightAnswer(ask) ?? given);
    if (n > 0) return { say: { say: 'fix-take-off', n }, helps: ['take-one-off', 'look-again', 'count-together'] };
    return { say: n < 0 ? { say: 'fix-put-on', n: -n } : { say: 'fix-look' }, helps: ['look-again', 'count-together'] };
  }
  if (ask.want.by === 'choice') return { say: { say: 'fix-look' }, helps: ['look-again', 'count-together'] };
  if (ask.aid === 'picture' || ask.aid === 'objects')
    return { say: { say: 'fix-look' }, helps: ['look-again', 'count-together', 'count-on'] };
  if (inSymbols(ask)) {
    const from = ask.fact === null ? null : greaterPart(ask.fact);
    if (ask.fact === null || frameFor(ask.fact) === null)
      return { say: { say: 'fix-look' }, helps: ['count-together'] };
    return {
      say: from === null ? { say: 'fix-frame' } : { say: 'fix-count-on', from },
      helps: ['frame-under', 'count-on', 'count-together'],
    };
  }
  return { say: { say: 'fix-look' }, helps: ['look-again', 'frame-under', 'count-together'] };
}

const inSymbols = ({ picture }: Ask): boolean => picture.show === 'sentence' || picture.show === 'part-whole';

/** What the adult says with the help that was chosen. */
export function sayWith(ask: Ask, given: string, help: Help): Prompt {
  switch (help) {
    case 'look-again':
      return { say: 'fix-look' };
    case 'frame-under':
      return { say: 'fix-frame' };
    case 'count-together':
      return { say: 'fix-count' };
    case 'count-on': {
      const from = ask.fact === null ? null : greaterPart(ask.fact);
      return from === null ? { say: 'fix-count' } : { say: 'fix-count-on', from };
    }
    case 'take-one-off':
      return replyTo(ask, given).say;
  }
}

/** The whole sentence for the child to say once it is right; null where there is none, as with a number of dots. */
export function sentenceOf(ask: Ask): Prompt | null {
  if (ask.fact === null || !isFact(ask.fact)) return null;
  return isNumberFact(parseFact(ask.fact)) ? { say: 'say-sentence', fact: ask.fact } : null;
}

/** A frame for a number fact: both parts of a sum, past ten on two frames; of a take-away what goes; of a missing part what there is, and the total ringed. */
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
    ? { show: 'crossed-off', count: read.whole, gone: given, direction }
    : { show: 'up-to', first: given, whole: read.whole, direction };
}

/** What stands on the stage while an adult helps: the same picture to look at again, or a frame under the question; null = as it was. */
export function helpPicture(ask: Ask, help: Help): Picture | null {
  if (help === 'take-one-off') return null;
  if (help === 'look-again') return ask.picture;
  const frame = ask.fact === null ? null : frameFor(ask.fact);
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
    'turned',
    ...(whole >= 8 ? (['from-ten'] as const) : []),
  ];
}
