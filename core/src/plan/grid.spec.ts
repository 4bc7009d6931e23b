import { someReading } from '../testing/reading';
import type { ChildNeed } from './classPlan';
import { sessionGrid } from './grid';
import type { Need } from './need';
import type { ProposedFact } from './propose';

const asks = (text: string, role: ProposedFact['role'] = 'need'): ProposedFact => ({
  fact: text,
  step: 'pairs',
  whole: 6,
  why: 'to-learn',
  form: 'symbols',
  role,
  pAutomatic: 0.4,
  reading: null,
});
const child = (name: string, need: Need, facts: readonly ProposedFact[]): ChildNeed => ({
  child: name,
  need,
  daysSince: 3,
  daysThisWeek: 0,
  facts,
});
const six: Need = { need: 'pairs', whole: 6 };
const of = (name: string, fact: string, responses = 2) => ({ ...someReading(fact, { responses }), child: name });

describe('a session as a picture', () => {
  it('has a row for each child and a column for each fact of the need that is asked or was, sums first', () => {
    const children = [
      child('ivo', six, [asks('1+1', 'sure'), asks('bond:6:2'), asks('4+2')]),
      child('odo', six, [asks('2+4')]),
    ];
    const readings = [of('ivo', '3+3'), of('odo', '4+2'), of('odo', '5+1', 0), of('odo', '4+4'), of('fenn', '1+5')];
    const [group, more] = sessionGrid({ children }, readings);
    expect(more).toBeUndefined();
    expect(group?.facts).toEqual(['2+4', '3+3', '4+2', 'bond:6:2']);
    // The sum that is asked first is no sum of six.
    expect([group?.more, sessionGrid({ children: children.slice(1) }, readings)[0]?.more]).toEqual([true, false]);
    expect(group?.rows.map((row) => [row.child, row.cells.map((cell) => cell.asked)])).toEqual([
      ['ivo', [false, false, true, true]],
      ['odo', [true, false, false, false]],
    ]);
    expect(group?.rows.map((row) => row.cells.map((cell) => cell.reading?.fact ?? ''))).toEqual([
      ['', '3+3', '', ''],
      ['', '', '4+2', ''],
    ]);
  });

  it('shades what is asked at the need, whatever for', () => {
    const [group] = sessionGrid({ children: [child('ivo', six, [asks('4+2', 'sure'), asks('2+4')])] }, []);
    expect(group?.rows[0]?.cells.map(({ fact, asked }) => [fact, asked])).toEqual([
      ['2+4', true],
      ['4+2', true],
    ]);
  });

  it('keeps needs apart, and leaves out what is only known of where the columns would not fit', () => {
    const eight: Need = { need: 'pairs', whole: 8 };
    const facts = ['1+7', '7+1', '2+6', '6+2', '3+5', '5+3', '4+4', 'bond:8:3', 'bond:8:5'];
    const all = [...facts, 'bond:8:2', 'bond:8:4', 'bond:8:1'].map((fact) => of('ivo', fact));
    const [first, second] = sessionGrid({ children: [child('odo', six, [asks('2+4')]), child('ivo', eight, [asks('bond:8:4')])] }, all); // prettier-ignore
    expect([first?.need, second?.need]).toEqual([six, eight]);
    expect(second?.facts).toHaveLength(10);
    expect(second?.facts).toContain('bond:8:4');
  });

  it('has no columns where everybody is asked something else', () => {
    const need: Need = { need: 'finding out' };
    const some = (from: number) => Array.from({ length: 6 }, (_, i) => asks(`${i}+${from}`));
    const [group] = sessionGrid({ children: [child('ivo', need, some(1)), child('odo', need, some(2))] }, [
      of('ivo', '0+1'),
    ]);
    expect(group?.facts).toBeNull();
    expect(group?.rows.map(({ cells }) => cells.length)).toEqual([6, 6]);
    expect(group?.rows[0]?.cells[0]).toMatchObject({ fact: '0+1', asked: true, reading: { responses: 2 } });
  });
});
