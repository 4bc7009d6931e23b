import { parseFact } from '../facts/fact';
import type { Response } from '../record/response';
import { someResponse } from '../testing/response';
import { answerLikelihood, signLikelihood, stepsInView, untimedLikelihood } from './likelihood';

const base = someResponse({ fact: '5+3', given: '8', responseMs: 1800 });
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
    // A source that kept only "correct" is believed.
    expect(answerLikelihood({ ...base, given: '' }, FACT)[0]).toBeCloseTo(0.97);
  });

  it('takes silence for little, and for nothing of the number', () => {
    const silent = answerLikelihood({ ...base, given: '', outcome: 'none' }, FACT);
    expect(Math.max(...silent) / Math.min(...silent)).toBeLessThan(2);
    expect(answerLikelihood({ ...base, given: '3', outcome: 'none' }, FACT)).toEqual(silent);
  });

  it('does not believe that a wrong answer was known, and believes the other signs', () => {
    const wrong = { ...base, given: '7', outcome: 'wrong' } as const;
    expect(untimedLikelihood({ ...wrong, sign: 'knew' }, FACT)).toEqual(untimedLikelihood(wrong, FACT));
    expect(untimedLikelihood({ ...wrong, sign: 'counted' }, FACT)).not.toEqual(untimedLikelihood(wrong, FACT));
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

describe('likelihood in numbers', () => {
  const answer = (fact: string, given: string, outcome: Response['outcome'] = 'wrong') =>
    answerLikelihood({ ...base, fact, given, outcome }, parseFact(fact));

  it('errs in counting the more, the more there is to count, up to a limit', () => {
    expect(answer('1+2', '3', 'correct')[2]).toBeCloseTo(0.92, 12);
    expect(answer('5+5', '10', 'correct')[2]).toBeCloseTo(0.78, 12);
    expect(answer('show:4:frame-fives', '4', 'correct')[2]).toBeCloseTo(0.9, 12);
    expect(answer('5+5', '9')[2]).toBeCloseTo((0.22 * 0.7) / 2, 12);
    expect(answer('5+5', '7')[2]).toBeCloseTo((0.22 * 0.3) / 8, 12);
  });

  it('guesses any number alike, and a part of the sum more', () => {
    expect(answer('5+3', '7')[3]).toBeCloseTo(0.7 / 11, 12);
    expect(answer('5+3', '3')[3]).toBeCloseTo(0.7 / 11 + 0.15, 12);
    expect(answer('show:3:five', '3', 'correct')[3]).toBeCloseTo(0.7 / 11, 12);
  });

  it('goes by right or wrong where the number is not there', () => {
    expect(answer('5+3', '', 'correct')).toEqual(answer('5+3', '8', 'correct'));
    // Wrong, and not known how: the chance of being wrong at all.
    expect(answer('5+3', '', 'wrong').slice(0, 2)).toEqual([0.03, 0.07]);
    expect(answer('5+5', '', 'wrong')[2]).toBeCloseTo(0.22, 12);
    expect(answer('5+5', '', 'wrong')[3]).toBeCloseTo(1 - 0.7 / 11, 12);
  });

  it('weighs every strategy by the sign', () => {
    const plain = untimedLikelihood(base, FACT);
    (['knew', 'derived', 'counted', 'guessed'] as const).forEach((sign, s) => {
      const signed = untimedLikelihood({ ...base, sign }, FACT);
      signed.forEach((x, i) => expect(x / plain[i]!).toBeCloseTo(i === s ? 0.9 : 0.1 / 3, 12));
    });
  });
});
