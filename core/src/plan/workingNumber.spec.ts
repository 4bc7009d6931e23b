import { factText } from '../facts/fact';
import type { Reading, ReadingWord } from '../reading/reading';
import { someReading } from '../testing/reading';
import { workingNumber } from './workingNumber';

const P: Partial<Record<ReadingWord, number>> = { knows: 0.9, counts: 0.1 };
const read = (fact: string, reading: ReadingWord, responses = 3): Reading =>
  someReading(fact, { reading, responses, pAutomatic: P[reading] ?? 0.5 });
const whole = (n: number, reading: ReadingWord): Reading[] =>
  Array.from({ length: n - 1 }, (_, i) => read(factText('add', n, i + 1), reading));

describe('the working number', () => {
  it('is not known before a pair was asked', () => {
    expect(workingNumber([]).number).toBeNull();
    expect(
      workingNumber([read('show:7:five', 'knows'), read('3+0', 'counts'), read('2+4', 'too few answers', 0)]).number,
    ).toBeNull();
  });

  it('is the smallest number whose pairs are not fixed', () => {
    const readings = [...whole(4, 'knows'), ...whole(5, 'knows'), ...whole(6, 'counts'), ...whole(7, 'counts')];
    const found = workingNumber(readings);
    expect([found.number, found.allKnown]).toEqual([6, false]);
    expect(found.pairs.get(6)).toEqual(
      [1, 2, 3].map((first) => ({ first, second: 6 - first, standing: 'counted', asked: ['add'] })),
    );
  });

  it('says of every pair how it stands, by the way of asking that is nearest to knowing', () => {
    const found = workingNumber([
      read('2+3', 'knows'),
      read('5-2', 'counts'),
      read('1+4', 'too few answers'),
      read('4+2', 'counts', 0),
    ]);
    expect(found.pairs.get(5)?.map((p) => [p.first, p.standing])).toEqual([
      [1, 'not settled'],
      [2, 'known'],
    ]);
    expect(found.pairs.get(6)?.every((p) => p.standing === 'not asked')).toBe(true);
  });

  it('takes a pair for known however it was asked, and numbers below the first asked as known', () => {
    expect(workingNumber([read('bond:6:1', 'knows'), read('6-2', 'knows'), read('?+3=6', 'knows')]).number).toBe(7);
  });

  it('goes by the step that fits best, not by a single pair that came slowly', () => {
    const readings = [
      ...whole(3, 'too few answers').map((r) => ({ ...r, pAutomatic: 0.4 })),
      ...whole(4, 'knows'),
      ...whole(5, 'knows'),
      ...whole(6, 'knows'),
      ...whole(7, 'counts'),
    ];
    expect(workingNumber(readings).number).toBe(7);
  });

  it('lets one pair lag when there are five', () => {
    const tens = ['1+9', '2+8', '3+7', '4+6'].map((fact) => read(fact, 'knows'));
    expect(workingNumber([...tens, read('5+5', 'counts')])).toMatchObject({ number: null, allKnown: true });
    expect(
      workingNumber([...tens.slice(2), read('5+5', 'counts'), read('2+8', 'counts'), read('1+9', 'counts')]).number,
    ).toBe(10);
  });
});
