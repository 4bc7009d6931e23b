import fc from '../testing/property';
import { countingSteps, tooShortToTell } from './counting';
import {
  factInPrint,
  factsWithinTen,
  factText,
  familyOf,
  isNumberFact,
  NotAFact,
  parseFact,
  type Operation,
} from './fact';

const OPERATIONS: readonly Operation[] = ['add', 'subtract', 'missing'];

describe('facts', () => {
  it.each([
    ['3+5', 'add', 8],
    ['8-3', 'subtract', 5],
    ['3+?=8', 'missing', 5],
    ['?+5=8', 'missing', 3],
    ['8-?=5', 'missing', 3],
    ['?-3=5', 'missing', 8],
    ['8=3+?', 'missing', 5],
    ['5=?-3', 'missing', 8],
    ['bond:8:3', 'bond', 5],
    ['show:7:frame-fives', 'show', 7],
    ['match:7', 'match', 7],
    ['count:8:scatter', 'count', 8],
  ])('reads %s', (text, kind, answer) => {
    expect(parseFact(text)).toMatchObject({ text, kind, answer });
  });

  it.each([
    '',
    '3+8',
    '11-1',
    '3-5',
    '?+?=5',
    '3+5=8',
    'show:7',
    'show:7:heap',
    'show:11:five',
    '3 + 5',
    '3+?=2',
    'bond:3:5',
    '3+5\n',
  ])('refuses %j with the reason', (text) => {
    expect(() => parseFact(text)).toThrow(NotAFact);
  });

  it('knows a family by its parts and whole, whichever way it is asked', () => {
    const families = ['3+5', '5+3', '8-3', '8-5', '3+?=8', '?-3=5', 'bond:8:5'].map((text) => {
      const fact = parseFact(text);
      return isNumberFact(fact) ? familyOf(fact) : null;
    });
    expect(new Set(families)).toEqual(new Set(['3,5,8']));
  });

  it('has 66 facts of each operation, all of which parse to their whole', () => {
    for (const operation of OPERATIONS) {
      const texts = factsWithinTen(operation);
      expect(new Set(texts).size).toBe(66);
      for (const text of texts) expect(parseFact(text)).toMatchObject({ kind: operation });
    }
  });

  it('is its own id: parsing what factText wrote gives the same text back', () => {
    fc.assert(
      fc.property(fc.constantFrom(...OPERATIONS), fc.nat(10), fc.nat(10), (operation, whole, first) => {
        fc.pre(first <= whole);
        const text = factText(operation, whole, first);
        expect(parseFact(text).text).toBe(text);
      }),
    );
  });

  it('prints with a true minus sign and air', () => {
    expect(factInPrint('8-?=5')).toBe('8 − ? = 5');
    expect(factInPrint('show:7:five')).toBe('7');
    expect(factInPrint('bond:8:3')).toBe('8 is 3 and ?');
  });
});

describe('counting steps', () => {
  it.each([
    ['3+5', 3, 8],
    ['9-7', 2, 9],
    ['2+?=9', 2, 9],
    ['show:8:frame-fives', 3, 8],
    ['show:4:frame-fives', 4, 4],
    ['show:8:frame-pairs', 8, 8],
    ['match:9', 0, 0],
    ['count:6:scatter', 6, 6],
  ])('%s takes %i from the greater and %i in all', (text, fromGreater, all) => {
    expect(countingSteps(parseFact(text))).toEqual({ fromGreater, all });
  });

  it('says where time cannot tell counting from knowing', () => {
    expect(
      ['7+1', '0+5', '9-8', 'show:6:frame-fives', 'show:3:scatter'].map((text) => tooShortToTell(parseFact(text))),
    ).toEqual([true, true, true, true, true]);
    expect(['7+2', 'show:4:five', 'match:4'].map((text) => tooShortToTell(parseFact(text)))).toEqual([
      false,
      false,
      false,
    ]);
  });
});

describe('a fact as it is written', () => {
  it.each([
    ['show:10:frame-fives', 10],
    ['match:10', 10],
    ['bond:10:3', 7],
    ['bond:10:10', 0],
    ['10+?=10', 0],
    ['?+10=10', 0],
    ['10=10+?', 0],
    ['10=?+10', 0],
    ['10-?=10', 0],
  ])('%s goes up to ten in each of its places', (text, answer) => expect(parseFact(text).answer).toBe(answer));

  it.each(['show:5:dice', 'match:4', 'bond:9:4', '3+?=8', '8=3+?', '8-?=5', '3+4'])(
    '%s is refused with anything before or after it',
    (text) => {
      expect(() => parseFact(text)).not.toThrow();
      for (const odd of [`x${text}`, `1 ${text}`, `${text}x`, `${text} 1`]) expect(() => parseFact(odd)).toThrow();
    },
  );
});
