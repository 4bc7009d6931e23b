import { parseFact } from '../facts/fact';
import { someResponse } from '../testing/response';
import { unknownEstimate } from './judgeChild';
import { timeTells } from './timeTells';

const DAY = 86_400_000;
const unknown = unknownEstimate('Oriel');
const oriel = { ...unknown, times: { ...unknown.times, hand: { tap: 1.2 }, retrieve: 0.6, pace: 0.75 } };
const tells = (fact: string, seconds: readonly number[], outcome: 'correct' | 'wrong' = 'correct', hands = {}) =>
  timeTells(
    parseFact(fact),
    seconds.map((s, i) => someResponse({ fact, responseMs: 1000 * s, outcome, sitting: `s${i}`, shownAt: i * DAY })),
    { ...oriel, hands },
  );

describe('whether time tells', () => {
  it.each([
    ['where counting takes more than a word, it does', '3+4', [1.5], true],
    ['quick answers to one more may be known or counted on', '1+4', [1.6, 1.9, 2.4, 2.6], false],
    ['five of seven at 3.3 to 10 s are neither', '1+4', [3.3, 3.7, 4.2, 5.9, 10], true],
    ['two slow ones are no habit', '1+4', [5, 6], false],
    ['a number seen at a glance is not counted otherwise when slow', 'show:3:five', [5, 6, 7, 8], false],
  ] as const)('%s', (_, fact, seconds, expected) => expect(tells(fact, seconds)).toBe(expected));

  it('by right answers, and by the hand of their session', () => {
    expect(tells('1+4', [5, 6, 7, 8], 'wrong')).toBe(false);
    const slow = { tap: Object.fromEntries([0, 1, 2, 3].map((i) => [`s${i}`, 0.9])) };
    expect(tells('1+4', [4, 4.2, 4.4, 4.6])).toBe(true);
    expect(tells('1+4', [4, 4.2, 4.4, 4.6], 'correct', slow)).toBe(false);
  });
});
