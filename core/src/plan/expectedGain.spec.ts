import { parseFact } from '../facts/fact';
import { someReading } from '../testing/reading';
import { ExpectedGain } from './expectedGain';
import type { Offered } from './offer';

const offered = (fact: string, p: number, responses = 0): Offered => ({
  fact,
  step: 'pairs',
  place: 'at',
  answer: parseFact(fact).answer,
  whole: 0,
  p,
  reading: someReading(fact, { pAutomatic: p, responses }),
});

describe('what a question is expected to tell', () => {
  const facts = ['2+5', '5+2', '2+6', '9-4', 'show:7:frame-fives'].map((fact) => offered(fact, 0.5));
  const [sum, turned, near, other, show] = facts as [Offered, Offered, Offered, Offered, Offered];

  it('falls with every time it is asked, most for what is nearest to it', () => {
    const gain = new ExpectedGain(facts);
    const before = facts.map((one) => gain.of(one));
    gain.ask(sum);
    const left = facts.map((one, i) => gain.of(one) / before[i]!);
    const of = (one: Offered): number => left[facts.indexOf(one)]!;
    expect(of(sum)).toBeLessThan(of(turned));
    expect(of(turned)).toBeLessThan(of(near));
    expect(of(near)).toBeLessThan(of(other));
    expect(of(other)).toBeLessThan(1);
    // Numbers say nothing of seeing.
    expect(of(show)).toBeCloseTo(1, 12);
  });

  it('is more where there is doubt, less after answers, and least where time tells nothing', () => {
    const of = (fact: string, p: number, responses = 0): number => {
      const one = offered(fact, p, responses);
      return new ExpectedGain([one]).of(one);
    };
    expect(of('3+4', 0.5)).toBeGreaterThan(of('3+4', 0.8));
    expect(of('3+4', 0.8)).toBeGreaterThan(of('3+4', 0.99));
    expect(of('3+4', 0.5)).toBeGreaterThan(of('3+4', 0.5, 3));
    expect(of('3+4', 0.5)).toBeGreaterThan(of('6+1', 0.5));
  });

  it('counts everything that an answer moves', () => {
    const alone = new ExpectedGain([sum]);
    expect(new ExpectedGain(facts).of(sum)).toBeGreaterThan(alone.of(sum));
  });
});
