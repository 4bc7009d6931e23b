import type { ChildJudgement } from '../reading/judgeChild';
import type { Reading } from '../reading/reading';
import { review } from './review';

const reading = (fact: string, change: Partial<Reading>): Reading => ({
  child: 'Odo',
  fact,
  reading: 'knows',
  pAutomatic: 0.95,
  lean: 0.9,
  certainty: 0.8,
  responses: 4,
  days: 3,
  reason: { code: 'quick-on-days' },
  ...change,
});
const judged = (...readings: Reading[]): ChildJudgement[] => [
  {
    estimate: {
      child: 'Odo',
      times: { hand: {}, retrieve: 1, pace: 1, unevenness: 1, countsAll: 0, lapseRate: 0, lapseSeconds: 5 },
      hands: {},
      copies: {},
      counts: 0,
      halfLifeDays: 8,
    },
    readings,
  },
];
const truth = (shares: Record<string, number>) =>
  Object.entries(shares).map(([fact, retrieveShare]) => ({ child: 'Odo', fact, retrieveShare }));

describe('truth against reading', () => {
  const result = review(
    judged(
      reading('1+1', {}),
      reading('2+2', { pAutomatic: 0.85 }),
      reading('3+4', { reading: 'counts', pAutomatic: 0.1, responses: 8 }),
      reading('4+5', { reading: 'too few answers', pAutomatic: 0.5, responses: 1 }),
      reading('9+0', {}),
    ),
    truth({ '1+1': 0.97, '2+2': 0.5, '3+4': 0.04, '4+5': 0.9 }),
  );

  it('counts what is known, by word, by what was said and by answers', () => {
    // A fact without a truth is no part of it.
    expect([result.facts, result.known]).toEqual([4, 2]);
    expect(result.words).toEqual([
      { word: 'knows', facts: 2, known: 1 },
      { word: 'works out', facts: 0, known: 0 },
      { word: 'in between', facts: 0, known: 0 },
      { word: 'counts', facts: 1, known: 0 },
      { word: 'not yet', facts: 0, known: 0 },
      { word: 'too few answers', facts: 1, known: 1 },
    ]);
    expect(result.bands[9]).toEqual({ from: 0.9, facts: 1, said: 0.95, true: 1 });
    expect(result.byAnswers.map((b) => [b.facts, b.settled, b.right])).toEqual([
      [1, 0, 0],
      [0, 0, 0],
      [2, 2, 1],
      [0, 0, 0],
      [1, 1, 1],
    ]);
  });

  it('names where it errs', () => {
    expect(result.errors.map((e) => e.reading.fact)).toEqual(['2+2']);
    expect(result.brier).toBeCloseTo((0.05 ** 2 + 0.85 ** 2 + 0.1 ** 2 + 0.5 ** 2) / 4, 10);
  });

  it('of nobody is empty', () => expect(review([], [])).toMatchObject({ facts: 0, brier: null, errors: [] }));
});
