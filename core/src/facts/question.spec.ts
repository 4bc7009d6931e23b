import fc from '../testing/property';
import { NotAFact } from './fact';
import { isFact, parseQuestion } from './question';

describe('questions', () => {
  it.each([
    ['3+5', 'add', '8'],
    ['8+5', 'bridge', '13'],
    ['13-5', 'bridge', '8'],
    ['8+?=13', 'bridge', '5'],
    ['8+5:move', 'bridge', '2'],
    ['3+7+2', 'three', '12'],
    ['3+?+2=10', 'three', '5'],
    ['ways:6', 'ways', null],
    ['groups:4:2', 'groups', '8'],
    ['more:4:6', 'compare', 'right'],
    ['more:6:4', 'compare', 'left'],
    ['more:4:4', 'compare', 'same'],
    ['same:4:4', 'compare', 'same'],
    ['same:4:5', 'compare', 'different'],
    ['check:3+4=8', 'check', 'no'],
    ['check:3+?=8=5', 'check', 'yes'],
    ['check:8+5=13', 'check', 'yes'],
    ['hides:4+5:8+5:2+3', 'bridge', '8+5'],
    ['hides:1+6+2:3+5+7', 'bridge', '3+5+7'],
    ['ten:3+7+2', 'three', '3+7'],
    ['ten:2+3+7', 'three', '3+7'],
    ['ten:3+2+7', 'three', '3+7'],
    ['groups:4:2:count', 'groups', '4'],
    ['boxes:10', 'part', '10'],
    ['boxes-top:10', 'part', '5'],
    ['top:7', 'part', '5'],
    ['top:3', 'part', '3'],
    ['below:7', 'part', '2'],
    ['below:3', 'part', '0'],
    ['side:4:3', 'part', '4'],
    ['left:5-1', 'part', '4'],
    ['start:1', 'part', '1'],
    ['anywhere:3', 'part', '3'],
  ])('%s is of kind %s and answered %s', (text, kind, answer) => {
    expect(parseQuestion(text)).toEqual({ text, kind, answer });
  });

  it.each([
    '',
    '21-1',
    '15+6',
    '3+?+8=10',
    'ways:11',
    'groups:11:2',
    'check:3+4',
    'more:4',
    '8+1:move',
    'same:4:5:6',
    'ten:3+6+2',
    'top:11',
    'left:3-5',
    'side:12:12',
    'groups:11:2:count',
  ])('refuses %j', (text) => {
    expect(() => parseQuestion(text)).toThrow(NotAFact);
  });

  it('past ten goes on where facts within ten end', () => {
    fc.assert(
      fc.property(fc.nat(10), fc.nat(10), (a, b) => {
        expect(isFact(`${a}+${b}`)).toBe(a + b <= 10);
        expect(parseQuestion(`${a}+${b}`)).toMatchObject({
          kind: a + b > 10 ? 'bridge' : 'add',
          answer: String(a + b),
        });
      }),
    );
  });
});
