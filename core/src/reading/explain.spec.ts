import { simulateClass } from '../rehearsal/class';
import { classValues, explainFact, judgeChild } from './judgeChild';
import { DEFAULT_READING_SETTINGS } from './reading';

describe('a reading explained', () => {
  let made = 0;
  const { responses } = simulateClass({
    seed: 41,
    names: ['Ivo', 'Wilfa', 'Kesi'],
    weeks: 3,
    until: Date.UTC(2026, 10, 25, 12),
    makeId: () => `r${made++}`,
  });
  const values = classValues(responses);
  const own = responses.filter((r) => r.child === 'Ivo');
  const { readings } = judgeChild('Ivo', own, values, { settings: DEFAULT_READING_SETTINGS });

  it('comes to the same probability, from weights that sum to one and answers that are there', () => {
    for (const reading of readings.filter((r) => r.responses > 2).slice(0, 6)) {
      const why = explainFact('Ivo', own, values, reading.fact)!;
      expect(why.posterior.pAutomatic).toBeCloseTo(reading.pAutomatic, 4);
      expect(why.dispersions.reduce((sum, d) => sum + d.weight, 0)).toBeCloseTo(1, 1);
      expect(why.answers.map((a) => a.response.fact)).toEqual(why.answers.map(() => reading.fact));
      for (const { likelihood } of why.answers) expect(Math.max(...likelihood)).toBe(1);
      expect(why.withoutOwn.pAutomatic).not.toBeCloseTo(why.posterior.pAutomatic, 6);
    }
  });

  it('is nothing for a fact that was never asked', () => expect(explainFact('Ivo', own, values, '9+1')).toBeNull());
});
