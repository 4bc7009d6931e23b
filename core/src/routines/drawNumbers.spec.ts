import fc from '../testing/property';
import { seeded } from '../random/random';
import { drawNumbers, NothingToDraw } from './drawNumbers';

describe('draws', () => {
  it('are balanced, seeded, and never repeat a number at once', () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.uniqueArray(fc.nat(10), { minLength: 2 }),
        fc.integer({ min: 1, max: 60 }),
        (seed, numbers, length) => {
          const drawn = drawNumbers(seeded(seed), numbers, length);
          expect(drawn).toHaveLength(length);
          expect(drawn).toEqual(drawNumbers(seeded(seed), numbers, length));
          const counts = numbers.map((n) => drawn.filter((d) => d === n).length);
          expect(Math.max(...counts) - Math.min(...counts)).toBeLessThanOrEqual(1);
          drawn.slice(1).forEach((n, i) => expect(n).not.toBe(drawn[i]));
        },
      ),
    );
  });

  it('repeats a number that is the only one, and refuses none', () => {
    expect(drawNumbers(seeded(1), [3, 3], 4)).toEqual([3, 3, 3, 3]);
    expect(() => drawNumbers(seeded(1), [], 4)).toThrow(NothingToDraw);
  });
});
