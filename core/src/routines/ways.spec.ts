import fc from '../testing/property';
import { valuesOf } from './options';
import { outOfReach, pairTexts, parsePair, sortWays, waysOf, waysTotals, type Pair } from './ways';

const RULES = valuesOf('rule');

describe('ways to make a number', () => {
  it('are n + 1, n − 1, half of n and one, or half of n, as the rule has it', () => {
    for (let n = 1; n <= 10; n++) {
      expect(waysTotals(n)).toEqual({
        'turned-zero': n + 1,
        turned: n - 1,
        zero: Math.floor(n / 2) + 1,
        plain: Math.floor(n / 2),
      });
    }
    expect(waysTotals(10)).toEqual({ 'turned-zero': 11, turned: 9, zero: 6, plain: 5 });
  });

  it('each make the whole, and none comes twice, under every rule', () => {
    fc.assert(
      fc.property(fc.nat(10), fc.constantFrom(...RULES), (whole, rule) => {
        const ways = waysOf(whole, rule);
        expect(ways.every(([a, b]) => a + b === whole)).toBe(true);
        expect(new Set(ways.map(String)).size).toBe(ways.length);
      }),
    );
  });

  it('are sorted into found, repeated, left and what is none', () => {
    const offered: Pair[] = [[2, 4], [4, 2], [2, 4], [3, 4], [0, 6]]; // prettier-ignore
    expect(sortWays(6, 'turned-zero', offered)).toMatchObject({ found: [[2, 4], [4, 2], [0, 6]], repeated: [[2, 4]], besides: [[3, 4]] }); // prettier-ignore
    const plain = sortWays(6, 'plain', offered);
    expect(plain).toEqual({ found: [[2, 4]], repeated: [[4, 2], [2, 4]], besides: [[3, 4], [0, 6]], left: [[1, 5], [3, 3]] }); // prettier-ignore
  });

  it('lose no offer: every one is found, repeated or besides', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 10 }),
        fc.constantFrom(...RULES),
        fc.array(fc.tuple(fc.nat(10), fc.nat(10)), { maxLength: 30 }),
        (whole, rule, offered) => {
          const { found, repeated, besides, left } = sortWays(whole, rule, offered);
          expect(found.length + repeated.length + besides.length).toBe(offered.length);
          expect(found.length + left.length).toBe(waysOf(whole, rule).length);
        },
      ),
    );
  });

  it('are read and named both ways round where the rule says so', () => {
    expect([parsePair('4+2'), parsePair('4'), parsePair('a+b')]).toEqual([[4, 2], null, null]);
    expect(pairTexts([[2, 4], [3, 3]], 'plain')).toEqual(['2+4', '4+2', '3+3']); // prettier-ignore
    expect(pairTexts([[2, 4]], 'turned')).toEqual(['2+4']);
  });

  it('that a die can never roll are named', () => {
    expect(outOfReach(10)).toEqual([0, 7, 8, 9, 10]);
    expect(outOfReach(6)).toEqual([0]);
  });
});
