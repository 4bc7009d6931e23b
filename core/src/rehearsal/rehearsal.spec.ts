import { gamma, normal, pick, seeded, shuffled } from '../random/random';
import { observedText, parseObserved } from '../record/response';
import { simulateClass } from './class';

const run = (seed: number) => {
  let id = 0;
  return simulateClass({
    seed,
    names: ['Oriel', 'Ivo', 'Fenn', 'Odo', 'Kesi', 'Bram', 'Cleo'],
    weeks: 3,
    until: Date.UTC(2026, 10, 25, 12),
    makeId: () => String(id++),
  });
};

describe('a simulated class', () => {
  it('is the same for the same seed and another for another', () => {
    expect(run(5)).toEqual(run(5));
    expect(run(5).responses).not.toEqual(run(6).responses);
  });

  it('sits on weekdays, up to the day before, and one child was away lately', () => {
    const { sittings } = run(5);
    for (const { startedAt } of sittings) {
      expect([0, 6]).not.toContain(new Date(startedAt).getUTCDay());
      expect(startedAt).toBeLessThan(Date.UTC(2026, 10, 25));
    }
    const last = Math.max(...sittings.filter((s) => s.child === 'Cleo').map((s) => s.startedAt));
    expect(Date.UTC(2026, 10, 25) - last).toBeGreaterThan(8 * 86_400_000);
  });

  it('has a truth for every fact that was asked', () => {
    const { responses, truth } = run(5);
    const known = new Set(truth.map((t) => `${t.child} ${t.fact}`));
    for (const r of responses) if (r.kind !== 'match' && r.kind !== 'count') expect(known).toContain(`${r.child} ${r.fact}`);
    for (const { retrieveShare } of truth) expect(retrieveShare).toBeGreaterThan(0);
  });
});

describe('chance', () => {
  const many = (draw: () => number): { mean: number; variance: number } => {
    const xs = Array.from({ length: 20_000 }, draw);
    const mean = xs.reduce((a, b) => a + b, 0) / xs.length;
    return { mean, variance: xs.reduce((sum, x) => sum + (x - mean) ** 2, 0) / xs.length };
  };

  it('draws with the moments it should (seed 8)', () => {
    const random = seeded(8);
    expect(many(random).mean).toBeCloseTo(0.5, 1);
    expect(many(() => normal(random)).variance).toBeCloseTo(1, 1);
    const g = many(() => gamma(random, 0.6, 2));
    expect(g.mean).toBeCloseTo(1.2, 1);
    expect(g.variance / 2.4).toBeCloseTo(1, 0);
  });

  it('shuffles without loss and refuses what cannot be', () => {
    expect([...shuffled(seeded(1), [1, 2, 3, 4])].sort()).toEqual([1, 2, 3, 4]);
    expect(() => gamma(seeded(1), 0, 1)).toThrow(RangeError);
    expect(() => pick(seeded(1), [])).toThrow(RangeError);
  });
});

describe('signs as text', () => {
  it.each([
    ['', null, []],
    ['counted', 'counted', []],
    ['counted:fingers lips', 'counted', ['fingers', 'lips']],
    [':lips', null, ['lips']],
  ] as const)('%j', (text, sign, finerSigns) => {
    expect(parseObserved(text)).toEqual({ sign, finerSigns });
    expect(observedText({ sign, finerSigns: [...finerSigns] })).toBe(text);
  });
  it('refuses a sign it does not know', () => expect(parseObserved('dreamt')).toBeNull());
});
