import type { HandOffsets } from './hands';
import { movedReadings } from './moved';
import type { Reading, ReadingWord } from './reading';

const read = (fact: string, reading: ReadingWord, pAutomatic: number, responses: number): Reading => ({
  child: 'Odo',
  fact,
  reading,
  pAutomatic,
  lean: 0,
  certainty: 0.5,
  responses,
  days: 1,
  reason: { code: 'in-between' },
});

const judged = (readings: readonly Reading[], hands: HandOffsets = {}) => ({ estimate: { hands }, readings });
const moved = (...of: Parameters<typeof movedReadings>) =>
  movedReadings(...of).map((m) => [m.fact, m.before?.reading ?? null, m.after.reading, m.by]);

describe('what new answers moved', () => {
  it('is another word, a first word, or with a new answer a fifth of probability', () => {
    const before = [
      read('1+1', 'counts', 0.1, 3),
      read('1+2', 'knows', 0.9, 4),
      read('2+2', 'too few answers', 0.5, 1),
      read('2+3', 'knows', 0.85, 5),
    ];
    const after = [
      read('1+1', 'knows', 0.9, 4),
      read('1+2', 'knows', 0.6, 5),
      read('2+2', 'too few answers', 0.9, 2),
      read('2+3', 'counts', 0.1, 5),
      read('4+4', 'counts', 0.1, 3),
      read('5+5', 'too few answers', 0.5, 1),
    ];
    expect(moved(judged(before), judged(after))).toEqual([
      ['1+1', 'counts', 'knows', 'answers'],
      ['1+2', 'knows', 'knows', 'answers'],
      ['4+4', null, 'counts', 'answers'],
      ['2+3', 'knows', 'counts', 'similar'],
    ]);
  });

  it('is told with its cause where no answer of its own moved it', () => {
    const [before, after] = [[read('2+3', 'knows', 0.85, 5)], [read('2+3', 'in between', 0.5, 5)]];
    const changed = { tap: { s9: 0.4 } };
    expect(moved(judged(before), judged(after, changed))).toEqual([['2+3', 'knows', 'in between', 'hand']]);
    expect(moved(judged(before, changed), judged(after, { tap: { s9: 0.35 } }))).toEqual([
      ['2+3', 'knows', 'in between', 'similar'],
    ]);
    // A new session with the hand that is known already is no change; one with a third hand is.
    expect(moved(judged(before, changed), judged(after, { tap: { s9: 0.4, s10: 0.45 } }))[0]?.[3]).toBe('similar');
    expect(moved(judged(before, changed), judged(after, { tap: { s9: 0.4, s10: -0.3 } }))[0]?.[3]).toBe('hand');
    expect(moved(judged(before, changed), judged(after, { tap: {} }))[0]?.[3]).toBe('hand');
    expect(moved(null, judged(before))).toEqual([['2+3', null, 'knows', 'answers']]);
  });
});
