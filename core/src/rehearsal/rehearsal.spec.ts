import { gamma, normal, pick, seeded, shuffled } from '../random/random';
import { observedText, parseObserved } from '../record/response';
import type { Response } from '../record/response';
import { LONG } from '../testing/property';
import type { Condition } from './child';
import { simulateClass } from './class';
import { InformedJudge, Told, usualRule } from './compare';

const run = (seed: number, condition: Condition = 'mixed') => {
  let id = 0;
  return simulateClass({
    seed,
    names: ['Oriel', 'Ivo', 'Fenn', 'Odo', 'Kesi', 'Bram', 'Cleo'],
    weeks: condition === 'holiday' ? 6 : 3,
    condition,
    until: Date.UTC(2026, 10, 25, 12),
    makeId: () => String(id++),
  });
};

describe('a simulated class', () => {
  it('is the same for the same seed and another for another', () => {
    const [one, two] = [run(5), run(5)];
    const written = ({ sittings, responses, truth }: typeof one): string =>
      JSON.stringify([sittings, responses, truth]);
    expect(written(one)).toBe(written(two));
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
    for (const r of responses)
      if (r.kind !== 'match' && r.kind !== 'count') expect(known).toContain(`${r.child} ${r.fact}`);
    for (const { retrieveShare } of truth) expect(retrieveShare).toBeGreaterThan(0);
  });
});

describe('conditions', () => {
  const gaps = (times: readonly number[]): number[] => times.slice(1).map((t, i) => (t - times[i]!) / 86_400_000);

  it('are what their names say', () => {
    expect(run(5, 'no warm-ups').responses.some((r) => r.kind === 'match' || r.kind === 'count')).toBe(false);
    expect(run(5, 'spoken').responses.every((r) => r.answerMode === 'spoken')).toBe(true);
    expect(run(5, 'few answers').sittings.filter((s) => s.child === 'Ivo')).toHaveLength(3);
    expect(
      Math.max(
        ...gaps(
          run(5, 'holiday')
            .sittings.filter((s) => s.child === 'Ivo')
            .map((s) => s.startedAt),
        ),
      ),
    ).toBeGreaterThan(14);
    const slowCopies = (condition: Condition): number => {
      const copies = run(5, condition).responses.filter((r) => r.kind === 'match');
      return copies.filter((r) => (r.responseMs ?? 0) > 3500).length / copies.length;
    };
    expect(slowCopies('heavy-tailed')).toBeGreaterThan(slowCopies('plain'));
    expect(slowCopies('restless')).toBeGreaterThan(2 * slowCopies('plain'));
    const knownBefore = (condition: Condition): number => run(5, condition).children.filter((c) => c.growth > 0).length;
    expect([knownBefore('plain'), knownBefore('growing')]).toEqual([0, 7]);
  });
});

describe('judges to compare with', () => {
  it('the rule of thumb wants four of five right within three seconds', () => {
    const { responses } = run(5);
    const five = (seconds: number, right: number): Response[] =>
      Array.from({ length: 5 }, (_, i) => ({
        ...responses[0]!,
        kind: 'add' as const,
        fact: '3+4',
        responseMs: seconds * 1000,
        outcome: i < right ? ('correct' as const) : ('wrong' as const),
        flags: [],
        void: '',
      }));
    expect([
      usualRule(five(2, 5)),
      usualRule(five(2, 4)),
      usualRule(five(2, 3)),
      usualRule(five(3.5, 5)),
      usualRule([]),
    ]).toEqual([1, 1, 0, 0, 0]);
  });

  it('one told the true times is surer the more it has seen, and right', () => {
    const { responses, truth, children, sittings: sat } = run(5, 'stops at a number');
    const sittings = new Map(sat.map((s) => [s.id, s]));
    const told = new Told('stops at a number');
    let right = 0;
    let all = 0;
    for (const child of LONG ? children : children.slice(0, 2)) {
      const judge = new InformedJudge(told, (r) => sittings.get(r.sitting)!);
      for (const { fact, retrieveShare } of truth.filter((t) => t.child === child.name)) {
        const answers = own(responses, child.name, fact);
        if (answers.length < 3) continue;
        all++;
        right += Number(judge.judge(fact, answers) >= 0.5 === retrieveShare >= 0.8);
      }
    }
    expect(all).toBeGreaterThan(LONG ? 100 : 25);
    expect(right / all).toBeGreaterThan(0.75);
  });
  const own = (responses: readonly Response[], child: string, fact: string): Response[] =>
    responses.filter((r) => r.child === child && r.fact === fact);
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
