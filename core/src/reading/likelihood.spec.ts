import { parseFact } from '../facts/fact';
import type { Response } from '../record/response';
import { answerLikelihood, signLikelihood, stepsInView, untimedLikelihood } from './likelihood';

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

  it('weighs a sign for the strategy it names', () => {
    expect(signLikelihood(null)).toEqual([1, 1, 1, 1]);
    const plain = untimedLikelihood(base, FACT);
    const signed = untimedLikelihood({ ...base, sign: 'counted' }, FACT);
    expect(signed[2] / signed[0]).toBeGreaterThan(20 * (plain[2] / plain[0]));
  });

  it('caps counting of a picture that is gone', () => {
    const nine = parseFact('show:9:frame-pairs');
    expect(stepsInView(nine, 750, 0.7)).toEqual({ fromGreater: 5, all: 5 });
    expect(stepsInView(nine, null, 0.7)).toEqual({ fromGreater: 9, all: 9 });
    expect(stepsInView(FACT, 750, 0.7)).toEqual({ fromGreater: 3, all: 8 });
  });
});
