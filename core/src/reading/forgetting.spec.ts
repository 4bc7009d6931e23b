import { seeded } from '../random/random';
import type { Response } from '../record/response';
import { someResponse } from '../testing/response';
import { halfLifeDays, askedByDay, retention, USUAL_HALF_LIFE_DAYS } from './forgetting';

const DAY = 86_400_000;
const dayOf = (atMs: number): number => Math.floor(atMs / DAY);
const NOW = Date.UTC(2026, 10, 25, 9);

describe('how fast a child forgets', () => {
  const answers = (life: number, seed: number): Response[][] => {
    const random = seeded(seed);
    return Array.from({ length: 40 }, (_, f) => {
      let rightDays = 0;
      return [0, 4, 12, 26].map((day, i): Response => {
        const gap = i === 0 ? 0 : day - [0, 4, 12, 26][i - 1]!;
        const right = random() < (rightDays === 0 ? 0.9 : Math.max(0.05, retention(gap, rightDays, life)));
        rightDays = right ? rightDays + 1 : 0;
        return someResponse({
          id: `${f}-${day}`,
          shownAt: NOW + day * DAY,
          fact: `${f % 6}+${Math.floor(f / 8)}`,
          outcome: right ? 'correct' : 'wrong',
        });
      });
    });
  };

  it('is the usual pace with no record, and comes back from a simulated one in the right order', () => {
    expect(halfLifeDays([])).toBe(USUAL_HALF_LIFE_DAYS);
    const mean = (life: number): number =>
      [1, 2, 3, 4].reduce(
        (sum, seed) => sum + halfLifeDays(answers(life, seed).map((one) => askedByDay(one, dayOf))),
        0,
      ) / 4;
    expect(mean(2)).toBeLessThan(mean(8));
    expect(mean(8)).toBeLessThan(mean(32));
  });

  it('halves at the half-life, which doubles with each right day', () => {
    expect(retention(8, 1, 8)).toBeCloseTo(0.5);
    expect(retention(8, 2, 8)).toBeCloseTo(Math.SQRT1_2);
  });
});
