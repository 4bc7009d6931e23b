import { seeded, normal, type Random } from '../random/random';
import type { Response } from '../record/response';
import { someResponse } from '../testing/response';
import { childRecord } from './childRecord';
import { childData, type ChildFact } from './childData';
import { shapeChild, updateChild } from './childFit';
import { softmax } from '../statistics/softmax';
import { freshState, likelihoodTerms, type ChildState } from './childState';
import { CLASS_BEFORE, CHANGES, FORGETTINGS, type ClassValues } from './classValues';
import { judgeChild } from './judgeChild';
import { SCATTERS, Z_GRID } from './posterior';
import { DEFAULT_READING_SETTINGS } from './reading';

/**
 * Recovery: children whose knowledge changes in a known way, made by a few lines that share nothing with the model or the rehearsal. They retrieve in about 1.7 s or count on at 0.8 s an item;
 * all answers are right, so that time alone tells.
 */
const FACTS = ['3+4', '4+3', '3+5', '4+4', '3+6', '4+5', '5+4', '5+3', '6+3', '4+6', '9-4', '8-4', '8-3', '7-3', '9-5'];
const DAY_MS = 86_400_000;
const TODAY = Date.UTC(2026, 5, 26);

interface Course {
  /** Days before today on which every fact is asked once. */
  readonly days: readonly number[];
  /** Share retrieved so many days before today, of the i-th fact. */
  readonly share: (daysAgo: number, i: number) => number;
}

function responsesOf({ days, share }: Course, seed: number): Response[] {
  const random: Random = seeded(seed);
  const spread = (median: number, sigma: number): number => median * Math.exp(sigma * normal(random));
  let id = 0;
  return days.flatMap((daysAgo) => {
    const at = (i: number): number => TODAY - daysAgo * DAY_MS + i * 8000;
    const copies = [2, 3, 5].map((n, i) =>
      someResponse({
        id: String(id++),
        child: 'c',
        kind: 'match',
        fact: `match:${n}`,
        given: String(n),
        shownAt: at(i),
        responseMs: spread(1200, 0.25),
      }),
    );
    const asked = FACTS.map((fact, i) => {
      const [a, b] = fact.split(/[+-]/).map(Number) as [number, number];
      const adding = fact.includes('+');
      const steps = adding ? Math.min(a, b) : Math.min(b, a - b);
      const seconds = random() < share(daysAgo, i) ? spread(1.7, 0.2) : spread(1.8 + 0.8 * steps, 0.15);
      return someResponse({
        id: String(id++).padStart(5, '0'),
        child: 'c',
        kind: adding ? 'add' : 'subtract',
        fact,
        given: String(adding ? a + b : a - b),
        shownAt: at(3 + i),
        responseMs: 1000 * seconds,
      });
    });
    return [...copies, ...asked];
  });
}

function shaped(course: Course, seed: number, values: ClassValues = CLASS_BEFORE): ChildState {
  const data = childData(childRecord('c', responsesOf(course, seed)), TODAY, []);
  const state = freshState(data, values);
  for (let round = 0; round < 2; round++) updateChild(state, data, values, { hands: true, timeRounds: 3, sweeps: 2 });
  shapeChild(state, data, values, 2);
  return state;
}
/** Of every choice, from what was likely before and how likely it makes the answers (logarithm). */
const probable = (before: readonly number[], logs: readonly number[]): number[] =>
  softmax(logs.map((log, i) => log + Math.log(before[i]!)));
/** Probability that a child's knowledge changed in a way of one kind. */
const chanceOf = (kind: (typeof CHANGES)[number]['kind'], course: Course, seed: number): number =>
  probable(CLASS_BEFORE.changes, shaped(course, seed).changes!.changes)
    .filter((_, i) => CHANGES[i]!.kind === kind)
    .reduce((sum, p) => sum + p, 0);
const meanOver = (seeds: readonly number[], of: (seed: number) => number): number =>
  seeds.reduce((sum, seed) => sum + of(seed), 0) / seeds.length;
const meanP = (course: Course, seed: number): number => {
  const { readings } = judgeChild('c', responsesOf(course, seed), CLASS_BEFORE, {
    settings: DEFAULT_READING_SETTINGS,
    asOf: TODAY,
  });
  return readings.reduce((sum, r) => sum + r.pAutomatic, 0) / readings.length;
};

describe('growth over the weeks', () => {
  const days = [42, 37, 32, 27, 22, 17, 13, 9, 6, 3, 1];
  const logistic = (z: number): number => 1 / (1 + Math.exp(-z));
  const grows: Course = { days, share: (ago) => logistic(3.5 - 0.18 * ago) };
  const knewAll: Course = { days, share: () => 0.93 };
  const falls: Course = { days, share: (ago) => logistic(-3 + 0.17 * ago) };
  const grown = (course: Course, seed: number): number =>
    1 - probable(CLASS_BEFORE.changes, shaped(course, seed).changes!.changes)[0]!;

  it('is found in a child who came to know, and in no other (seeds 101 to 112)', () => {
    expect(meanOver([101, 102, 103, 104], (seed) => grown(grows, seed))).toBeGreaterThan(0.95);
    expect(meanOver([105, 106, 107, 108], (seed) => grown(knewAll, seed))).toBeLessThan(0.4);
    expect(meanOver([109, 110, 111, 112], (seed) => grown(falls, seed))).toBeLessThan(0.1);
  });

  it('lets a child who knows today be read as knowing, whatever was counted weeks ago (seeds 121 to 124)', () => {
    // Nineteen in twenty are retrieved in the last week; over all days it is about half.
    expect(meanOver([121, 122, 123, 124], (seed) => meanP(grows, seed))).toBeGreaterThan(0.7);
  });

  it('takes what answers of four weeks ago say of then to stand higher by the growth since (seed 131)', () => {
    const state = shaped({ days: [31, 30, 29, 28, 27, 26, 25, 1], share: (ago) => (ago > 5 ? 0.5 : 0.95) }, 131);
    const [slow, fast] = [1.5, 6].map((growth) =>
      CHANGES.findIndex((change) => change.kind === 'grown' && change.growth === growth),
    ) as [number, number];
    // Where on the grid today's z would have to lie, by what was retrieved and what was counted then: the middle of the likelihood.
    const middle = (fact: ChildFact, change: number): number => {
      const before = likelihoodTerms(fact, state.accounts, { scatter: 1, change, forgetting: 0 })[0]!.weight;
      const total = before!.reduce((sum, x) => sum + x, 0);
      return before!.reduce((sum, x, g) => sum + (x * Z_GRID[g]!) / total, 0);
    };
    // A fact of which some answers were retrieved and some counted, so that its likelihood has two sides.
    const { facts } = state.domains.number;
    const mixed = facts.filter((fact) => Math.abs(middle(fact, slow)) < 2);
    expect(mixed.length).toBeGreaterThan(4);
    // 4.5 more in six weeks is three more in four.
    for (const fact of mixed) expect(Math.abs(middle(fact, fast) - middle(fact, slow) - 3)).toBeLessThan(0.6);
  });
});

describe('facts learned one by one', () => {
  const days = [40, 36, 33, 29, 26, 22, 19, 15, 12, 8, 5, 2];
  /** Of the facts, in turn: known from so many days ago on. */
  const since = [50, 31, 50, 20, 50, 10, 31, 50];
  const oneByOne: Course = { days, share: (ago, i) => (ago < since[i % since.length]! ? 0.92 : 0.03) };
  const never: Course = { days, share: (_ago, i) => (i % 2 === 0 ? 0.92 : 0.03) };
  const isLearned = (course: Course, seed: number): number => chanceOf('learned', course, seed);

  it('are told from growth by degrees, and from none (seeds 151 to 158)', () => {
    expect(meanOver([151, 152, 153, 154], (seed) => isLearned(oneByOne, seed))).toBeGreaterThan(0.9);
    expect(meanOver([155, 156, 157, 158], (seed) => isLearned(never, seed))).toBeLessThan(0.35);
  });

  it('are known today, however often they were counted before (seeds 161 to 164)', () => {
    expect(meanOver([161, 162, 163, 164], (seed) => meanP(oneByOne, seed))).toBeGreaterThan(0.75);
  });
});

describe('facts that come oftener', () => {
  const days = [42, 38, 35, 31, 28, 24, 21, 17, 13, 9, 6, 4, 2, 1];
  /** Half of the facts, whatever their number, in half of the cases at first and nearly always since two weeks ago. */
  const rising: Course = {
    days,
    share: (ago, i) => (i % 2 === 0 ? 0.95 * (1 - 0.6 * Math.min(1, Math.max(0, ago - 14) / 28)) : 0.03),
  };
  const even: Course = { days, share: (_ago, i) => (i % 2 === 0 ? 0.95 : 0.03) };
  const isOftener = (course: Course, seed: number): number => chanceOf('oftener', course, seed);

  it('are told from facts that were always as they are (seeds 171 to 178)', () => {
    expect(meanOver([171, 172, 173, 174], (seed) => isOftener(rising, seed))).toBeGreaterThan(0.6);
    expect(meanOver([175, 176, 177, 178], (seed) => isOftener(even, seed))).toBeLessThan(0.2);
  });

  it('are known today, as far as that goes by the child’s own span (seeds 181 to 184)', () => {
    const unchanged = CLASS_BEFORE.changes.map((_, i) => Number(i === 0));
    const pUnder = (changes: readonly number[], seed: number): number => {
      const { readings } = judgeChild(
        'c',
        responsesOf(rising, seed),
        { ...CLASS_BEFORE, changes },
        {
          settings: DEFAULT_READING_SETTINGS,
          asOf: TODAY,
        },
      );
      const rose = readings.filter(({ fact }) => FACTS.indexOf(fact) % 2 === 0);
      return rose.reduce((sum, r) => sum + r.pAutomatic, 0) / rose.length;
    };
    const seeds = [181, 182, 183, 184];
    const gained = meanOver(seeds, (seed) => pUnder(CLASS_BEFORE.changes, seed) - pUnder(unchanged, seed));
    expect(gained).toBeGreaterThan(0.1);
  });
});

describe('a holiday', () => {
  const before = [40, 37, 34, 31, 28, 25, 22];
  const lost: Course = { days: [...before, 3, 2, 1], share: (ago) => (ago > 10 ? 0.93 : 0.12) };
  const kept: Course = { days: [...before, 3, 2, 1], share: () => 0.93 };
  const regained: Course = {
    days: [...before, 9, 8, 6, 5, 4, 3, 2, 1],
    share: (ago) => (ago > 10 || ago < 7 ? 0.93 : 0.12),
  };
  const forgot = (course: Course, seed: number): number =>
    probable(CLASS_BEFORE.forgettings, shaped(course, seed).changes!.forgettings ?? [0, -Infinity])[
      FORGETTINGS.indexOf(1.5)
    ]!;

  it('is seen to have cost knowledge where it did, and only there (seeds 201 to 208)', () => {
    expect(meanOver([201, 202, 203, 204], (seed) => forgot(lost, seed))).toBeGreaterThan(0.9);
    expect(meanOver([205, 206, 207, 208], (seed) => forgot(kept, seed))).toBeLessThan(0.3);
  });

  it('leaves what was lost unknown today, however well it was known before (seeds 211 to 214)', () => {
    expect(meanOver([211, 212, 213, 214], (seed) => meanP(lost, seed))).toBeLessThan(0.15);
    expect(meanOver([215, 216, 217, 218], (seed) => meanP(kept, seed))).toBeGreaterThan(0.75);
  });

  it('does not stand in the way of what was regained since (seeds 221 to 224)', () => {
    expect(meanOver([221, 222, 223, 224], (seed) => meanP(regained, seed))).toBeGreaterThan(0.55);
  });

  it('is a span of ten days without an answer, and no weekend', () => {
    const data = (days: readonly number[]) =>
      childData(childRecord('c', responsesOf({ days, share: () => 1 }, 231)), TODAY, []);
    expect(data([20, 9, 1]).hadBreak).toBe(true);
    expect(data([14, 11, 8, 4, 1]).hadBreak).toBe(false);
    const [fact] = data([20, 9, 1]).facts;
    expect(fact!.blocks.map((b) => b.beforeBreak)).toEqual([false, false, true]);
  });
});

describe('how facts scatter', () => {
  const few: Course = { days: [8, 3], share: () => 0.6 };
  const under = (scatters: readonly number[], seed: number): number[] =>
    judgeChild(
      'c',
      responsesOf(few, seed),
      { ...CLASS_BEFORE, scatters },
      { settings: DEFAULT_READING_SETTINGS, asOf: TODAY },
    ).readings.map((r) => r.pAutomatic);

  it('is averaged over: a reading is the mean of those under each scatter, by how well each explains the answers (seed 301)', () => {
    const evenly = SCATTERS.map(() => 1 / SCATTERS.length);
    const alone = SCATTERS.map((_, one) =>
      under(
        SCATTERS.map((_, s) => Number(s === one)),
        301,
      ),
    );
    const { scattered } = shaped(few, 301, { ...CLASS_BEFORE, scatters: evenly });
    // With two answers a fact hardly any scatter is ruled out: dropping any of them would show.
    expect(scattered.length).toBeGreaterThan(SCATTERS.length - 2);
    const together = under(evenly, 301);
    together.forEach((p, fact) => {
      const expected = scattered.reduce((sum, { weight, shape }) => sum + weight * alone[shape.scatter]![fact]!, 0);
      expect(p).toBeCloseTo(expected, 1);
      const each = alone.map((readings) => readings[fact]!);
      expect(p).toBeGreaterThan(Math.min(...each));
      expect(p).toBeLessThan(Math.max(...each));
    });
    // And it differs from the likeliest one alone.
    const likeliest = alone[scattered.reduce((a, b) => (b.weight > a.weight ? b : a)).shape.scatter]!;
    const apart = together.map((p, fact) => Math.abs(p - likeliest[fact]!));
    expect(Math.max(...apart)).toBeGreaterThan(0.03);
  });
});
