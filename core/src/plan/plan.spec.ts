import fc from 'fast-check';
import { seeded } from '../random/random';
import type { Reading } from '../reading/reading';
import { drawNumbers, NothingToDraw } from './draw';
import { warmUpNeeded } from './measures';
import { whoNext } from './whoNext';

describe('draws', () => {
  it('are balanced, seeded, and never repeat a number at once', () => {
    fc.assert(
      fc.property(fc.integer(), fc.uniqueArray(fc.nat(10), { minLength: 2 }), fc.integer({ min: 1, max: 60 }), (seed, numbers, length) => {
        const drawn = drawNumbers(seeded(seed), numbers, length);
        expect(drawn).toHaveLength(length);
        expect(drawn).toEqual(drawNumbers(seeded(seed), numbers, length));
        const counts = numbers.map((n) => drawn.filter((d) => d === n).length);
        expect(Math.max(...counts) - Math.min(...counts)).toBeLessThanOrEqual(1);
        drawn.slice(1).forEach((n, i) => expect(n).not.toBe(drawn[i]));
      }),
    );
  });

  it('needs two numbers', () => expect(() => drawNumbers(seeded(1), [3, 3], 4)).toThrow(NothingToDraw));
});

describe('measures of a child', () => {
  it.each([
    [{ copies: {}, counts: 0 }, 'tap', 'copies'],
    [{ copies: { tap: 4 }, counts: 0 }, 'tap', 'counts'],
    [{ copies: { tap: 4 }, counts: 4 }, 'tap', 'none'],
    [{ copies: { tap: 40 }, counts: 4 }, 'spoken', 'copies'],
  ] as const)('%j in %s asks for %s', (lately, mode, warmUp) => expect(warmUpNeeded(lately, mode)).toBe(warmUp));
});

describe('who next', () => {
  const NOW = Date.UTC(2026, 10, 25, 8);
  const HOUR = 3_600_000;
  const read = (fact: string, reading: Reading['reading']): Reading => ({
    child: '',
    fact,
    reading,
    pAutomatic: 0.5,
    lean: 0,
    certainty: 0,
    responses: 3,
    days: 2,
    reason: { code: 'in-between' },
  });
  const child = (name: string, lastAskedAt: number | null, readings: Reading[] = []) => ({ child: name, lastAskedAt, readings });

  it('puts first who was never asked, then who has waited longest, then who has more to settle', () => {
    const order = whoNext(
      [
        child('today', NOW - HOUR),
        child('week', NOW - 9 * 24 * HOUR),
        child('three', NOW - 3 * 24 * HOUR),
        child('three-open', NOW - 3 * 24 * HOUR, [read('show:9:five', 'counts')]),
        child('new', null),
      ],
      NOW,
      0,
    );
    expect(order.map((p) => [p.child, p.line])).toEqual([
      ['new', 'never'],
      ['week', 'over-a-week'],
      ['three-open', 'this-week'],
      ['three', 'this-week'],
      ['today', 'lately'],
    ]);
  });

  it('counts days by the teacher’s midnights', () => {
    const late = Date.UTC(2026, 10, 24, 23, 30);
    expect(whoNext([child('a', late)], NOW, 0)[0]?.daysSince).toBe(1);
    expect(whoNext([child('a', late)], NOW, HOUR)[0]?.daysSince).toBe(0);
    expect(whoNext([child('a', NOW + 5 * HOUR)], NOW, 0)[0]?.daysSince).toBe(0);
  });

  it('names the shows that are open, by number', () => {
    const readings = [
      read('show:10:frame-fives', 'counts'),
      read('show:8:frame-fives', 'works out'),
      read('show:7:frame-fives', 'too few answers'),
      read('3+4', 'counts'),
      read('show:2:five', 'knows'),
    ];
    expect(whoNext([child('a', NOW, readings)], NOW, 0)[0]).toMatchObject({
      counted: ['show:8:frame-fives', 'show:10:frame-fives'],
      unsure: ['show:7:frame-fives'],
    });
  });
});
