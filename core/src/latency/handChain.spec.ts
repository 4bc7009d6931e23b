import { normal, seeded } from '../random/random';
import { handOffsets, OFFSETS } from './handChain';

const SPREAD = 0.3;
/** Log-probabilities of sittings in which a hand was off by so much, from some log times each. */
function logsOf(off: readonly number[], answers: number, seed: number): Float64Array {
  const random = seeded(seed);
  const logs = new Float64Array(off.length * OFFSETS.length);
  off.forEach((by, s) => {
    for (let i = 0; i < answers; i++) {
      const seen = by + SPREAD * normal(random);
      OFFSETS.forEach((offset, k) => (logs[s * OFFSETS.length + k]! -= 0.5 * ((seen - offset) / SPREAD) ** 2));
    }
  });
  return logs;
}
const found = (off: readonly number[], answers: number, seed = 3): Float64Array =>
  handOffsets(
    logsOf(off, answers, seed),
    off.map(() => answers),
  );
const mean = (xs: ArrayLike<number>): number => Array.from(xs).reduce((a, b) => a + b, 0) / xs.length;

describe('a hand from sitting to sitting', () => {
  it('that is even is found even, however few its answers', () => {
    for (const offset of found(Array<number>(12).fill(0), 3)) expect(Math.abs(offset)).toBeLessThan(0.08);
  });

  it('that becomes 1.7 times slower after two thirds is found so, and the first sittings stay the usual', () => {
    const offsets = found([...Array<number>(8).fill(0), ...Array<number>(4).fill(Math.log(1.7))], 10);
    expect(Math.abs(mean(offsets.slice(0, 8)))).toBeLessThan(0.06);
    expect(Math.abs(mean(offsets.slice(8)) - Math.log(1.7))).toBeLessThan(0.1);
  });

  it('that drifts is followed', () => {
    const off = Array.from({ length: 16 }, (_, s) => s * 0.04);
    const offsets = found(off, 12);
    expect(offsets[15]! - offsets[0]!).toBeGreaterThan(0.4);
    expect(offsets[15]! - offsets[0]!).toBeLessThan(0.75);
  });

  it('one odd answer is no change; one whole odd sitting is', () => {
    const single = found([0, 0, 0.5, 0, 0, 0], 1);
    expect(Math.abs(single[2]!)).toBeLessThan(0.2);
    const whole = found([0, 0, 0.6, 0, 0, 0], 20);
    expect(whole[2]).toBeGreaterThan(0.4);
    expect(Math.abs(whole[4]!)).toBeLessThan(0.1);
  });

  it('keeps the usual where most answers are, not most sittings', () => {
    const off = [0, 0.5, 0.5];
    const offsets = handOffsets(logsOf(off, 40, 8), [90, 40, 40]);
    expect(Math.abs(offsets[0]!)).toBeLessThan(0.05);
    expect(offsets[1]).toBeGreaterThan(0.3);
  });

  it('lies between the offsets at which it was looked', () => {
    // Half way between two of them, and at the end of the grid.
    expect(Math.abs(found([0, 0, 0, 0.5, 0.5], 200)[4]! - 0.5)).toBeLessThan(0.04);
    expect(found([0, 0, 0, 0.95, 0.95], 200)[4]).toBeGreaterThan(0.85);
  });
});
