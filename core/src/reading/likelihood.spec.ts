import { parseFact } from '../facts/fact';
import { StrategyTimes } from '../latency/times';
import type { Response } from '../record/response';
import { answerLikelihood, likelihood, signLikelihood, stepsInView } from './likelihood';

const base: Response = {
  id: '1',
  child: 'Wilfa',
  sitting: 's',
  shownAt: 0,
  kind: 'add',
  fact: '5+3',
  answerMode: 'tap',
  exposureMs: null,
  responseMs: 1800,
  given: '8',
  outcome: 'correct',
  sign: null,
  finerSigns: [],
  aid: 'none',
  void: '',
  flags: [],
};
const FACT = parseFact('5+3');
const TIMES = { hand: { tap: 1.2 }, retrieve: 0.6, pace: 0.7 };

describe('likelihood of one answer', () => {
  it('sums to one over all answers, by strategy', () => {
    const sums = [0, 0, 0];
    for (let given = 0; given <= 10; given++) {
      answerLikelihood({ ...base, given: String(given), outcome: given === 8 ? 'correct' : 'wrong' }, FACT)
        .slice(0, 3)
        .forEach((p, s) => (sums[s] = (sums[s] ?? 0) + p));
    }
    for (const sum of sums) expect(sum).toBeCloseTo(1, 1);
  });

  it('reads one off as counting, a part said back as a guess', () => {
    const [known, , counted] = answerLikelihood({ ...base, given: '7', outcome: 'wrong' }, FACT);
    expect(counted / known).toBeGreaterThan(8);
    const [knownPart, , , guessedPart] = answerLikelihood({ ...base, given: '5', outcome: 'wrong' }, FACT);
    expect(guessedPart / knownPart).toBeGreaterThan(50);
  });

  it('takes "no answer" and unreadable answers in its stride', () => {
    for (const given of ['', 'eight', '88']) {
      for (const p of answerLikelihood({ ...base, given, outcome: 'wrong' }, FACT)) expect(p).toBeGreaterThan(0);
    }
    expect(answerLikelihood({ ...base, given: '', outcome: 'none' }, FACT)[3]).toBeGreaterThan(0.2);
    // A source that kept only "correct" is believed.
    expect(answerLikelihood({ ...base, given: '' }, FACT)[0]).toBeCloseTo(0.97);
  });

  it('weighs a sign for the strategy it names and lets time still speak', () => {
    expect(signLikelihood(null)).toEqual([1, 1, 1, 1]);
    const times = new StrategyTimes(TIMES, 'tap');
    const plain = likelihood(base, FACT, times, 0.7);
    const signed = likelihood({ ...base, sign: 'counted' }, FACT, times, 0.7);
    expect(signed[2] / signed[0]).toBeGreaterThan(20 * (plain[2] / plain[0]));
  });

  it('judges an answer without a time by answer and sign alone', () => {
    const [known, , counted] = likelihood({ ...base, responseMs: null }, FACT, new StrategyTimes(TIMES, 'tap'), 0.7);
    expect(known / counted).toBeLessThan(2);
  });

  it('caps counting of a picture that is gone', () => {
    const nine = parseFact('show:9:frame-pairs');
    expect(stepsInView(nine, 750, 0.7)).toEqual({ fromGreater: 5, all: 5 });
    expect(stepsInView(nine, null, 0.7)).toEqual({ fromGreater: 9, all: 9 });
    expect(stepsInView(FACT, 750, 0.7)).toEqual({ fromGreater: 3, all: 8 });
  });
});
