import { someReading } from '../testing/reading';
import { strengths } from './strengths';

const known = (fact: string, change: object = {}) => someReading(fact, { reading: 'knows', ...change });

describe('what is told to parents', () => {
  it('is a number only where every pair of it was asked and is known; else the sums themselves', () => {
    const four = [known('1+3'), known('2+2')];
    expect(strengths(four)).toEqual({ wholes: [4], facts: [], seen: null });
    expect(strengths([known('1+3')])).toEqual({ wholes: [], facts: ['1+3'], seen: null });
    expect(strengths([...four, someReading('1+4', { reading: 'counts' }), known('2+3')])).toMatchObject({
      wholes: [4],
      facts: ['2+3'],
    });
  });

  it('is nothing that was right once, or on one day', () => {
    expect(strengths([known('1+3', { responses: 1, days: 1 }), known('2+2', { responses: 4, days: 1 })])).toEqual({
      wholes: [],
      facts: [],
      seen: null,
    });
  });

  it('goes as far as amounts are seen without a gap', () => {
    const seen = (...amounts: number[]) => strengths(amounts.map((n) => known(`show:${n}:frame-fives`))).seen;
    expect([seen(), seen(3, 4, 5, 9), seen(5), seen(1, 2)]).toEqual([null, 5, 5, 2]);
  });
});
