import { simulateClass, type SimulatedClass } from '../rehearsal/class';
import type { Condition } from '../rehearsal/child';
import { brier } from '../rehearsal/score';
import { classValues, judgeClass } from './judgeChild';
import { CLASS_BEFORE } from './classValues';
import { measuringOf } from './measuring';
import { DEFAULT_READING_SETTINGS } from './reading';

let made = 0;
const classOf = (condition: Condition, seed: number): SimulatedClass =>
  simulateClass({
    seed,
    names: Array.from({ length: 6 }, (_, i) => `child-${i}`),
    weeks: 6,
    condition,
    until: Date.parse('2026-11-25T12:00:00Z'),
    makeId: (at) => `${at}-${made++}`,
  });

describe('adults and devices', () => {
  const simulated = classOf('two adults', 411);
  const values = classValues(simulated.responses);

  it('are learned from numbers to copy and from agreement with the times (seed 411)', () => {
    const shift = (source: string): number => values.sources[source]!.shift;
    // The second adult stops the clock 0.7 s later, on a hand of about a second; the board takes half as long again as the tablet.
    expect(shift('spoken second') - shift('spoken first')).toBeGreaterThan(0.25);
    expect(Math.abs(shift('tap board') - shift('tap tablet') - Math.log(1.5))).toBeLessThan(0.15);
    const { first, second } = values.adults;
    // True: 0.95 and 0.45 of the signs (a wrong one is right by chance one time in four), and 0 and 0.05 of the numbers.
    expect(first!.trust).toBeGreaterThan(0.83);
    expect(second!.trust).toBeLessThan(0.75);
    expect(second!.slips).toBeGreaterThan(2 * first!.slips);
  });

  it('known, make the judgement better by a twentieth than unknown (seed 411)', () => {
    const scoreOf = (responses: SimulatedClass['responses']): number => {
      const p = new Map(
        judgeClass(responses, { settings: DEFAULT_READING_SETTINGS }).flatMap(({ readings }) =>
          readings.map((r) => [`${r.child} ${r.fact}`, r.pAutomatic] as const),
        ),
      );
      return brier(
        simulated.truth.map((t) => ({ p: p.get(`${t.child} ${t.fact}`) ?? 0, truth: t.retrieveShare >= 0.8 })),
      )!;
    };
    const nameless = simulated.responses.map((r) => ({ ...r, markedBy: '', device: '' }));
    expect(scoreOf(simulated.responses) / scoreOf(nameless)).toBeLessThan(0.95);
  });

  it('are alike where one adult and one device do everything, and unknown without a name', () => {
    const { responses } = classOf('plain', 412);
    const { sources, adults } = classValues(responses);
    expect([sources, adults]).toEqual([{}, {}]);
    const named = classValues(responses.map((r) => ({ ...r, markedBy: 'only', device: 'one' })));
    expect(named.sources['tap one']!.shift).toBeCloseTo(0, 12);
    // A file may name an adult as it likes.
    const odd = responses.map((r) => ({ ...r, answerMode: 'spoken' as const, markedBy: 'constructor' }));
    for (const { readings } of judgeClass(odd.slice(0, 400), { settings: DEFAULT_READING_SETTINGS }))
      for (const { pAutomatic } of readings) expect(pAutomatic).toBeGreaterThanOrEqual(0);
  });

  it('are told of what is known of them alone, and only from enough', () => {
    const known = measuringOf(values, 'second', 'board');
    expect(known.map((one) => one.what)).toEqual(['late', 'late', 'signs', 'slips']);
    expect(known[0]).toMatchObject({ by: 'adult', mode: 'spoken' });
    expect(known[1]).toMatchObject({ by: 'device', mode: 'tap' });
    const { sources } = values;
    const few = { ...values, sources: { ...sources, 'tap board': { ...sources['tap board']!, copies: 7 } } };
    expect(measuringOf(few, '', 'board')).toEqual([]);
    // An adult who enters what is said is told nothing about it.
    expect(measuringOf(values, 'first', '').map((one) => one.what)).toEqual(['late', 'signs']);
    expect(measuringOf(values, 'somebody', 'elsewhere')).toEqual([]);
    expect(measuringOf(CLASS_BEFORE, 'second', 'board')).toEqual([]);
  });
});
