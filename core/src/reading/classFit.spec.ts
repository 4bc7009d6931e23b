import { seeded, type Random } from '../random/random';
import { simulateClass, type ClassPlan } from '../rehearsal/class';
import type { Response } from '../record/response';
import { childRecord } from './childRecord';
import { childData } from './childData';
import { updateChild } from './childFit';
import { freshState } from './childState';
import { CLASS_BEFORE, type ClassValues } from './classValues';
import { USUAL_SCATTER } from './posterior';
import { FEATURES, type Domain } from './features';
import { classValues } from './judgeChild';

const simulated = (seed: number, plan: Partial<ClassPlan> = {}): readonly Response[] => {
  let id = 0;
  return simulateClass({
    seed,
    names: Array.from({ length: 8 }, (_, i) => `child-${i}`),
    weeks: 2,
    until: Date.UTC(2026, 5, 10),
    makeId: () => String(id++).padStart(6, '0'),
    ...plan,
  }).responses;
};
const weight = (values: ClassValues, name: string, domain: Domain = 'number'): number =>
  values.fields[USUAL_SCATTER]![domain].mean[FEATURES[domain].findIndex((f) => f.name === name)]!;

describe('what a class has in common', () => {
  it('is steep in the whole where knowledge stops at a number, and says how far children differ (seed 11)', () => {
    const values = classValues(simulated(11, { condition: 'stops at a number' }));
    expect(weight(values, 'whole')).toBeLessThan(weight(CLASS_BEFORE, 'whole') - 0.3);
    const level = values.fields[USUAL_SCATTER]!.number.variance[0]!;
    expect(level).toBeGreaterThan(0.2);
    // Working numbers from two to ten: some two steps of log-odds either way.
    expect(level).toBeLessThan(8);
  });

  it('does not matter to it what order children come in (seed 12)', () => {
    const responses = simulated(12, { weeks: 1 });
    const [one, other] = [classValues(responses), classValues([...responses].reverse())];
    one.fields[USUAL_SCATTER]!.number.mean.forEach((m, i) =>
      expect(m).toBeCloseTo(other.fields[USUAL_SCATTER]!.number.mean[i]!, 6),
    );
  });

  it.each<[string, (r: Response, random: Random) => Response | null, (values: ClassValues) => boolean]>([
    [
      'nothing but pictures: numbers stay as they were before, seeing is learned',
      (r) => (r.kind === 'show' ? r : null),
      (values) => weight(values, 'level') === 0 && weight(values, 'level', 'seeing') > 1,
    ],
    [
      'every answer after eight seconds and nothing measured: slow hands',
      (r) => (r.kind === 'match' || r.kind === 'count' ? null : { ...r, responseMs: 8000 }),
      ({ times }) => times.hand.median > 3 && times.hand.median < 5,
    ],
    [
      'every answer nought: nothing is known, and hands are as quick as before',
      (r) => ({ ...r, given: '0', outcome: 'wrong' }),
      (values) =>
        weight(values, 'level') < -3 && weight(values, 'level', 'seeing') < -3 && values.times.hand.median < 1.5,
    ],
    [
      'a thousandth of a second or ten minutes: children differ beyond measure',
      (r, random) => ({ ...r, responseMs: random() < 0.5 ? 1 : 600_000 }),
      ({ times }) => times.hand.sd > 2,
    ],
    [
      'one answer in twenty: too few to learn from',
      (r, random) => (random() < 0.05 ? r : null),
      (values) => values === CLASS_BEFORE,
    ],
  ])('is learned, and stays in bounds, from %s', (_, change, learned) => {
    const random = seeded(5);
    const responses = simulated(13).flatMap((r) => change(r, random) ?? []);
    const values = classValues(responses);
    expect(learned(values)).toBe(true);
    const { fields, times } = values;
    for (const { mean, variance, familyVariance, operationVariance, ownVariance } of fields.flatMap((f) =>
      Object.values(f),
    )) {
      for (const m of mean) expect(Math.abs(m)).toBeLessThan(10);
      for (const v of [...variance, familyVariance, operationVariance, ownVariance]) {
        expect(v).toBeGreaterThan(0);
        expect(v).toBeLessThan(50);
      }
    }
    for (const { median, sd } of Object.values(times))
      expect(median > 0 && sd > 0 && Number.isFinite(median + sd)).toBe(true);
  });
});

describe('one child in its class', () => {
  it('has a field that starts where the last one ended: the same again moves little (seed 14)', () => {
    const responses = simulated(14).filter((r) => r.child === 'child-3');
    const data = childData(childRecord('child-3', responses), Date.UTC(2026, 5, 10), []);
    const state = freshState(data, CLASS_BEFORE);
    for (let i = 0; i < 6; i++) updateChild(state, data, CLASS_BEFORE, { hands: true, timeRounds: 2, sweeps: 4 });
    const before = state.domains.number.field!;
    updateChild(state, data, CLASS_BEFORE, { hands: true, timeRounds: 2, sweeps: 4 });
    const after = state.domains.number.field!;
    after.cavityMean.forEach((m, f) => expect(Math.abs(m - before.cavityMean[f]!)).toBeLessThan(0.2));
  });
});
