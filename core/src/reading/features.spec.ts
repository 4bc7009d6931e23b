import { parseFact } from '../facts/fact';
import { CLASS_BEFORE } from './classValues';
import { domainOf, FEATURES, placeFact } from './features';
import { judgeChild } from './judgeChild';
import { DEFAULT_READING_SETTINGS } from './reading';

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

  it.each([
    // level 0, and for each beyond the smaller part of two −0.5, for each beyond a whole of five −0.1
    ['2+3', 0, 'a small sum'],
    ['3+4', -0.5 - 0.2, 'a larger smaller part'],
    ['4+1', 0.5 + 0.7, 'a part that is one'],
    ['5+0', 1 + 0.7, 'a part that is zero'],
    ['3+3', -0.5 - 0.1 + 0.8, 'a double'],
    ['6-3', -0.5 - 0.1 + 0.3 - 0.8, 'a half, undone'],
    ['5-2', -0.8, 'undoing'],
    ['2+?=5', -0.8, 'a missing part is undoing too'],
    ['4+6', -1 - 0.5 + 0.4, 'a pair of ten'],
    ['show:3:dice', 0.5 + 1 + 0.6, 'up to three, at a glance'],
    ['show:4:dice', 0.5 + 0.3, 'four'],
    ['show:4:scatter', 0.5 + 0.3 - 0.8, 'four, scattered'],
    ['show:5:frame-fives', 0.5 + 0.5, 'a whole row'],
    ['show:10:frame-fives', 0.5 + 0.7 - 1.5, 'a full frame'],
    ['show:7:line', 0.5 - 0.6 - 0.8, 'objects on a line'],
  ])('before any answer, %s stands at log-odds %d: %s', (text, logOdds) => {
    const fact = parseFact(text);
    const features = FEATURES[domainOf(fact)];
    const values = placeFact(fact).features;
    expect(features.reduce((sum, { mean }, i) => sum + mean * values[i]!, 0)).toBeCloseTo(logOdds, 10);
  });

  it('say of facts that nobody was asked what a teacher would: harder is less likely known', () => {
    const alsoFacts = ['3+1', '3+3', '3+4', '7-3', '6-3', '3+?=7', 'show:2:dice', 'show:6:dice', 'show:6:scatter'];
    const { readings } = judgeChild('Nuru', [], CLASS_BEFORE, { settings: DEFAULT_READING_SETTINGS, alsoFacts });
    const p = (fact: string): number => readings.find((r) => r.fact === fact)!.pAutomatic;
    for (const [easier, harder] of [
      ['3+1', '3+4'],
      ['3+3', '3+4'],
      ['3+4', '7-3'],
      ['6-3', '7-3'],
      ['3+4', '3+?=7'],
      ['show:2:dice', 'show:6:dice'],
      ['show:6:dice', 'show:6:scatter'],
    ] as const)
      expect([easier, harder, p(easier) > p(harder)]).toEqual([easier, harder, true]);
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
