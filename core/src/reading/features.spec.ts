import { parseFact } from '../facts/fact';
import { domainOf, FEATURES, placeFact } from './features';

/** The features of a fact that are not nought, by name; steps left out. */
const of = (text: string): Record<string, number> => {
  const fact = parseFact(text);
  const names = FEATURES[domainOf(fact)].map(({ name }) => name);
  const values = Array.from(placeFact(fact).features, (value, i) => [names[i] ?? '', value] as const);
  return Object.fromEntries(values.filter(([name, value]) => value !== 0 && !name.includes('reaches')));
};

describe('the features of a fact', () => {
  it('are what its numbers, its operation and its layout say', () => {
    expect(of('3+4')).toEqual({ level: 1, 'smaller part beyond two': 1, 'smaller part first': 1, whole: 2 });
    expect(of('5+5')).toEqual({ level: 1, 'smaller part beyond two': 3, double: 1, 'whole is ten': 1, whole: 5 });
    expect(of('8-4')).toMatchObject({ half: 1, undoing: 1 });
    expect(of('7-6')).toMatchObject({ 'part is one': 1, 'leaves at most one': 1 });
    expect(of('3+?=8')).toMatchObject({ undoing: 1, 'missing part': 1 });
    expect(of('show:5:frame-fives')).toEqual({ level: 1, 'whole row': 1, 'layout frame-fives': 1 });
  });

  it('count steps of the whole from five, and those of undoing only where something is undone', () => {
    const steps = (text: string): number[] => {
      const { features } = placeFact(parseFact(text));
      return FEATURES.number.flatMap(({ name }, i) => (name.includes('reaches') ? [features[i] ?? NaN] : []));
    };
    expect(steps('3+4')).toEqual([0, 0, 0, 0, 0, 1, 1, 0, 0, 0, ...[0, 0, 0, 0]]);
    expect(steps('3-1')).toEqual([0, 0, 0, -1, -1, 0, 0, 0, 0, 0, ...[0, -1, 0, 0]]);
  });

  it('belong to the family of the same parts, under the operation', () => {
    const family = (text: string) => placeFact(parseFact(text));
    expect([family('4+3').family, family('7-4').family, family('3+?=7').family]).toEqual(['3+4', '3+4', '3+4']);
    expect([family('4+3').effects, family('7-4').effects, family('3+?=7').effects]).toEqual([
      [0, 1],
      [0, 2],
      [0, 3],
    ]);
  });
});
