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

describe('what new answers moved', () => {
  it('is another word, a first word, or a fifth of probability; never without a new answer', () => {
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
    expect(movedReadings(before, after).map((m) => [m.fact, m.before?.reading ?? null, m.after.reading])).toEqual([
      ['1+1', 'counts', 'knows'],
      ['1+2', 'knows', 'knows'],
      ['4+4', null, 'counts'],
    ]);
  });
});
