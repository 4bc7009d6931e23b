import { EXPLANATIONS } from '../record/response';
import { factsWithinTen } from '../facts/fact';
import { boardOf } from './frame';
import type { Picture } from './picture';
import { boardAfter, explanationsFor, helpPicture, replyTo, sayWith, sentenceOf, tellsAnswer } from './reply';
import { makeAsk, talk, type Ask } from './routine';

const NOTHING: Picture = { show: 'nothing' };
const SEEN = makeAsk(
  'show:7:dice',
  { show: 'spots', layout: 'dice', count: 7 },
  { say: 'how-many-seen' },
  { flash: true },
);
const SUM = makeAsk('2+6', { show: 'sentence', fact: '2+6' }, { say: 'sentence', fact: '2+6' });
const BUILT = makeAsk(
  'match:6',
  NOTHING,
  { say: 'fill', n: 6 },
  { want: { by: 'board', plan: boardOf('frame-fives') } },
);
const ways = (accepts: string[], said: Picture & { show: 'ways' }): Ask =>
  makeAsk('ways:5', said, { say: 'a-way', whole: 5 }, { want: { by: 'pair' }, accepts, after: { say: 'thanks' } });

const check = (ask: Ask, mistake: string | null, given = 0) => ({
  say: 'check',
  question: ask.prompt,
  thought: mistake === null ? null : { mistake, fact: ask.fact, given },
});
const FRAME: Picture = { show: 'frame', layout: 'five', count: 4, direction: 'rows' };
const TO_FIVE = makeAsk('4+?=5', FRAME, { say: 'how-many-more', to: 5 }, { aid: 'picture' });

describe('what is said after an answer', () => {
  it('after a right one is how it was known, then the whole sentence, with nothing to help', () => {
    expect(replyTo(SUM, '8')).toEqual({
      say: { say: 'how-known' },
      then: { say: 'say-sentence', fact: '2+6' },
      helps: [],
    });
    expect(replyTo({ ...TO_FIVE, after: { say: 'thanks' } }, '1').say).toEqual({ say: 'say-sentence', fact: '4+?=5' });
  });

  it.each([
    ['a quantity: shown again', SEEN, '6', check(SEEN, 'one off', 6), ['look-again', 'frame-under', 'count-together']],
    ['a sum', SUM, '5', check(SUM, null), ['frame-under', 'count-on', 'count-together']],
    ['a part of it', SUM, '6', check(SUM, 'part said back', 6), ['frame-under', 'count-on', 'count-together']],
    [
      'no answer: both look',
      SUM,
      '',
      { say: 'look-together', question: SUM.prompt },
      ['frame-under', 'count-on', 'count-together'],
    ],
    // The picture stands on a frame and stays: neither a frame nor another look would change anything.
    ['the whole', TO_FIVE, '5', check(TO_FIVE, 'whole instead of part', 5), ['count-on', 'count-together']],
    ['too many built: take off', BUILT, '8', { say: 'take-off', n: 2 }, ['take-one-off', 'count-together']],
    ['too few built: put on', BUILT, '5', { say: 'put-on', n: 1 }, ['count-together']],
  ] as const)('suits the question after a wrong one: %s', (_, ask, given, say, helps) =>
    expect(replyTo(ask, given)).toEqual({ say, then: null, helps }),
  );

  it('asks where the filling begins when the number is right and the rule was not kept', () => {
    expect(replyTo(BUILT, '6', 'start-elsewhere').say).toEqual({ say: 'where-start' });
    expect(replyTo(BUILT, '6', 'second-row-too-soon').say).toEqual({ say: 'which-row' });
    expect(replyTo(BUILT, '6', 'with-gaps').say).toEqual({ say: 'no-gaps' });
    expect(replyTo(BUILT, '5', 'with-gaps').say).toEqual({ say: 'put-on', n: 1 });
  });

  it('says nothing of what the child is to check itself, nor of the number while it checks', () => {
    const own = { by: 'board', plan: boardOf('frame-fives') } as const;
    const first = makeAsk('show:6:frame-fives', FRAME, { say: 'build-seen' }, { flash: true, want: own, checksItself: true, after: { say: 'look-at-yours' } }); // prettier-ignore
    for (const given of ['6', '3', '']) expect(replyTo(first, given)).toMatchObject({ say: { say: 'look-at-yours' }, helps: [] }); // prettier-ignore
    const checking: Ask = { ...first, checksItself: false, want: { by: 'board', plan: { ...own.plan, keeps: true } } };
    expect(replyTo(checking, '3')).toMatchObject({ say: { say: 'look-again' }, helps: ['look-again'] });
  });

  it('nothing to count on: not offered', () => {
    const none = makeAsk('5+0', { show: 'sentence', fact: '5+0' }, { say: 'sentence', fact: '5+0' });
    expect(replyTo(none, '0').helps).toEqual(['frame-under', 'count-together']);
  });

  it('tells an answer only once it was given', () => {
    expect(tellsAnswer(replyTo(SUM, '5').say)).toBe(false);
    expect(tellsAnswer({ say: 'say-sentence', fact: '2+6' })).toBe(true);
  });

  it('of a way: already there, turned round and counted or not, of another number', () => {
    const board = { show: 'ways', whole: 5, ways: [[1, 4]] } as const;
    expect(replyTo(ways(['4+1'], board), '1+4').say).toEqual({ say: 'have-that-way' });
    expect(replyTo(ways(['4+1'], board), '4+1').say).toEqual({ say: 'turned-new', first: 4, second: 1 });
    expect(replyTo(ways(['2+3'], board), '4+1').say).toEqual({ say: 'turned-same', first: 4, second: 1 });
    expect(replyTo(ways(['2+3'], board), '2+2').say).toEqual({ say: 'not-a-way', first: 2, second: 2, whole: 5 });
    expect(replyTo(ways(['2+3'], board), '2+3').say).toEqual({ say: 'thanks' });
  });

  it('of what no frame can hold there is no help; past ten on two frames', () => {
    const three = makeAsk('3+7+2', { show: 'sentence', fact: '3+7+2' }, { say: 'find-ten' });
    expect(replyTo(three, '11').helps).toEqual([]);
    const past = makeAsk('8+5', { show: 'sentence', fact: '8+5' }, { say: 'sentence', fact: '8+5' });
    expect(sayWith(past, '12', 'count-on')).toEqual({ say: 'count-on', from: 8, to: 13 });
    expect(helpPicture(past, 'frame-under')).toMatchObject({ over: { show: 'two-frames', first: 8, second: 5 } });
  });

  it('goes with the help that was chosen', () => {
    expect(sayWith(SUM, '7', 'count-together')).toEqual({ say: 'count-together' });
    expect(sayWith(TO_FIVE, '7', 'count-together')).toEqual({ say: 'count-empties' });
    expect(sayWith(SUM, '7', 'count-on')).toEqual({ say: 'count-on', from: 6, to: 8 });
    expect(sayWith(TO_FIVE, '3', 'count-on')).toEqual({ say: 'count-on', from: 4, to: 5 });
    const away = (fact: string): Ask => makeAsk(fact, NOTHING, { say: 'sentence', fact });
    expect(sayWith(away('9-2'), '3', 'count-on')).toEqual({ say: 'count-on', from: 9, to: 7 });
    expect(sayWith(away('9-7'), '3', 'count-on')).toEqual({ say: 'count-on', from: 7, to: 9 });
    expect(sayWith(SEEN, '6', 'frame-under')).toEqual({ say: 'on-the-frame' });
    expect(sayWith(SEEN, '6', 'look-again')).toEqual({ say: 'look-again', question: SEEN.prompt });
    expect(sayWith(BUILT, '8', 'take-one-off')).toEqual({ say: 'take-off', n: 2 });
  });

  it('never follows talk', () => expect(replyTo(talk(NOTHING, { say: 'full' }), '').helps).toEqual([]));

  it('ends with the whole sentence, where there is one', () => {
    expect(sentenceOf(SUM)).toEqual({ say: 'say-sentence', fact: '2+6' });
    expect(sentenceOf(SEEN)).toBeNull();
  });
});

describe('the stage while an adult helps', () => {
  it('shows the picture again, or a frame under the question that does not draw what is missing', () => {
    expect(helpPicture(SEEN, 'look-again')).toBe(SEEN.picture);
    expect(helpPicture(SEEN, 'frame-under')).toMatchObject({ show: 'frame', count: 7 });
    expect(helpPicture(SUM, 'frame-under')).toMatchObject({
      show: 'sentence',
      fact: '2+6',
      over: { show: 'two-part', first: 2, second: 6 },
    });
    const missing = makeAsk('3+?=8', { show: 'sentence', fact: '3+?=8' }, { say: 'sentence', fact: '3+?=8' });
    expect(helpPicture(missing, 'count-on')).toMatchObject({ over: { show: 'up-to', first: 3, whole: 8 } });
    const away = makeAsk('8-3', { show: 'sentence', fact: '8-3' }, { say: 'sentence', fact: '8-3' });
    expect(helpPicture(away, 'count-together')).toMatchObject({ over: { show: 'crossed-off', count: 8, gone: 3 } });
    expect(helpPicture(BUILT, 'take-one-off')).toBeNull();
  });

  it('shows the board with what was said, a repeat or a turned pair lit', () => {
    const board = { show: 'ways', whole: 5, ways: [[1, 4], null] } as const;
    expect(boardAfter(ways(['2+3', '4+1'], board), '2+3')).toMatchObject({ ways: [[1, 4], [2, 3]], lit: [] }); // prettier-ignore
    expect(boardAfter(ways(['4+1'], board), '4+1')).toMatchObject({ ways: [[1, 4], [4, 1]], lit: [[4, 1], [1, 4]] }); // prettier-ignore
    expect(boardAfter(ways(['2+3'], board), '1+4')).toMatchObject({ ways: [[1, 4], null], lit: [[1, 4]] });
    expect(boardAfter(SUM, '8')).toBeNull();
  });
});

describe('how they said it', () => {
  it.each([
    ['show:7:frame-fives', ['five-and', 'one-more', 'one-less', 'from-ten']],
    ['show:4:dice', ['double', 'one-more', 'one-less']],
    ['3+4', ['five-and', 'double', 'count-on', 'turned']],
    ['8+1', ['five-and', 'one-more', 'count-on', 'turned', 'from-ten']],
    ['show:1:five', []],
    ['match:7', []],
    ['ways:6', []],
    // A double turned round is itself.
    ['2+2', ['double', 'count-on']],
  ])('of %s: %j', (fact, ways) => expect(explanationsFor(fact)).toEqual(ways));

  it('has a list for every fact within ten, from the words of the record', () => {
    for (const fact of (['add', 'subtract', 'missing'] as const).flatMap((kind) => factsWithinTen(kind))) {
      const list = explanationsFor(fact);
      expect([fact, list.length > 0, new Set(list).size]).toEqual([fact, true, list.length]);
      for (const one of list) expect(EXPLANATIONS).toContain(one);
    }
  });
});
