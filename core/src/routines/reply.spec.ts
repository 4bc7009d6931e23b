import { EXPLANATIONS } from '../record/response';
import { factsWithinTen } from '../facts/fact';
import { boardOf } from './frame';
import type { Picture } from './picture';
import { boardAfter, explanationsFor, helpPicture, replyTo, sayWith, sentenceOf } from './reply';
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

describe('what is said after an answer', () => {
  it('is the routine’s own after a right one, with nothing to help', () =>
    expect(replyTo(SUM, '8')).toEqual({ say: { say: 'how-known' }, helps: [] }));

  it.each([
    ['a quantity: look again', SEEN, '6', { say: 'fix-look' }, ['look-again', 'frame-under', 'count-together']],
    [
      'a sum: count on from the greater',
      SUM,
      '7',
      { say: 'fix-count-on', from: 6 },
      ['frame-under', 'count-on', 'count-together'],
    ],
    [
      'no answer, as a wrong one',
      SUM,
      '',
      { say: 'fix-count-on', from: 6 },
      ['frame-under', 'count-on', 'count-together'],
    ],
    [
      'too many built: take off',
      BUILT,
      '8',
      { say: 'fix-take-off', n: 2 },
      ['take-one-off', 'look-again', 'count-together'],
    ],
    ['too few built: put on', BUILT, '5', { say: 'fix-put-on', n: 1 }, ['look-again', 'count-together']],
  ] as const)('suits the question after a wrong one: %s', (_, ask, given, say, helps) =>
    expect(replyTo(ask, given)).toEqual({ say, helps }),
  );

  it('of a way: already there, turned round and counted or not, of another number', () => {
    const board = { show: 'ways', whole: 5, ways: [[1, 4]] } as const;
    expect(replyTo(ways(['4+1'], board), '1+4').say).toEqual({ say: 'have-that-way' });
    expect(replyTo(ways(['4+1'], board), '4+1').say).toEqual({ say: 'turned-new', first: 4, second: 1 });
    expect(replyTo(ways(['2+3'], board), '4+1').say).toEqual({ say: 'turned-same', first: 4, second: 1 });
    expect(replyTo(ways(['2+3'], board), '2+2').say).toEqual({ say: 'not-a-way', first: 2, second: 2, whole: 5 });
    expect(replyTo(ways(['2+3'], board), '2+3').say).toEqual({ say: 'thanks' });
  });

  it('of what no frame can hold: counted together; past ten on two frames', () => {
    const three = makeAsk('3+7+2', { show: 'sentence', fact: '3+7+2' }, { say: 'find-ten' });
    expect(replyTo(three, '11').helps).toEqual(['count-together']);
    const past = makeAsk('8+5', { show: 'sentence', fact: '8+5' }, { say: 'sentence', fact: '8+5' });
    expect(replyTo(past, '12').say).toEqual({ say: 'fix-count-on', from: 8 });
    expect(helpPicture(past, 'frame-under')).toMatchObject({ over: { show: 'two-frames', first: 8, second: 5 } });
  });

  it('goes with the help that was chosen', () => {
    expect(sayWith(SUM, '7', 'count-together')).toEqual({ say: 'fix-count' });
    expect(sayWith(SUM, '7', 'count-on')).toEqual({ say: 'fix-count-on', from: 6 });
    expect(sayWith(SEEN, '6', 'frame-under')).toEqual({ say: 'fix-frame' });
    expect(sayWith(BUILT, '8', 'take-one-off')).toEqual({ say: 'fix-take-off', n: 2 });
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
  ])('of %s: %j', (fact, ways) => expect(explanationsFor(fact)).toEqual(ways));

  it('has a list for every fact within ten, from the words of the record', () => {
    for (const fact of (['add', 'subtract', 'missing'] as const).flatMap((kind) => factsWithinTen(kind))) {
      const list = explanationsFor(fact);
      expect([fact, list.length > 0, new Set(list).size]).toEqual([fact, true, list.length]);
      for (const one of list) expect(EXPLANATIONS).toContain(one);
    }
  });
});
