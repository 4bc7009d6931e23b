import { heldReadings } from './held';
import type { Reading } from './reading';

const read = (fact: string, reading: Reading['reading'], pAutomatic: number, more: Partial<Reading> = {}): Reading => ({
  ...{ child: 'Odo', fact, reading, pAutomatic, lean: 0, certainty: 0.5, responses: 4, days: 3 },
  reason: { code: 'in-between' },
  ...more,
});

describe('readings when only the class was learned again', () => {
  // A certainty of 0.5 from four answers: the share is known to ± 0.19.
  it.each([
    ['a word stays that hardly moved', read('1+2', 'knows', 0.82), read('1+2', 'in between', 0.78), 'knows', 0.82],
    [
      'and goes where it moved by more than its uncertainty',
      read('1+2', 'knows', 0.82),
      read('1+2', 'in between', 0.6),
      'in between',
      0.6,
    ],
    ['a number moves under the same word', read('1+2', 'knows', 0.82), read('1+2', 'knows', 0.95), 'knows', 0.95],
    [
      'an answer more is an answer more',
      read('1+2', 'knows', 0.82),
      read('1+2', 'in between', 0.78, { responses: 5 }),
      'in between',
      0.78,
    ],
    [
      'what was sure moves sooner',
      read('1+2', 'knows', 0.82, { certainty: 0.79 }),
      read('1+2', 'in between', 0.78),
      'in between',
      0.78,
    ],
  ])('%s', (_, before, after, word, p) => {
    expect(heldReadings([before], [after])).toMatchObject([{ reading: word, pAutomatic: p }]);
  });

  it('a fact that is new is taken as it is, and what went is gone', () => {
    expect(heldReadings([read('1+2', 'knows', 0.9)], [read('2+2', 'counts', 0.1)]).map((r) => r.fact)).toEqual(['2+2']);
  });
});
