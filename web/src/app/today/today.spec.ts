import type { ChildNeed, PlannedSitting, ProposedFact, Reading } from '@vane/core';
import { NEW_DAY } from '../plan/arrangements';
import { arranged, withSwaps } from './dayPlan';
import { learnedLine } from './learned';
import { words } from '../language/words';

const fact = (text: string, role: ProposedFact['role'], word?: Reading['reading'], lean = 0): ProposedFact => ({
  fact: text,
  step: 'pairs',
  whole: 6,
  why: 'to-learn',
  form: 'symbols' as const,
  role,
  pAutomatic: 0.4,
  reading: word
    ? {
        child: 'ivo',
        fact: text,
        reading: word,
        pAutomatic: 0.4,
        lean,
        certainty: 0.5,
        responses: 3,
        days: 2,
        reason: { code: 'in-between' },
      }
    : null,
});
const child = (name: string, facts: ProposedFact[] = []): ChildNeed => ({
  child: name,
  need: { need: 'pairs', whole: 6 },
  daysSince: 3,
  daysThisWeek: 0,
  facts,
});
const sitting = (id: string, children: ChildNeed[]): PlannedSitting => ({
  id,
  needs: [{ need: 'pairs', whole: 6 }],
  children,
  minutes: 3,
});
const three = [
  sitting('x', [child('ivo')]),
  sitting('y', [child('fenn'), child('cleo')]),
  sitting('z', [child('odo')]),
];
const ids = (sittings: readonly PlannedSitting[]): string => sittings.map((s) => s.id).join('');

describe('a day’s plan', () => {
  it('is as proposed until something is pinned, put off or moved', () => {
    expect(ids(arranged(three, NEW_DAY))).toBe('xyz');
    expect(ids(arranged(three, { ...NEW_DAY, pinned: ['z'] }))).toBe('zxy');
    expect(ids(arranged(three, { ...NEW_DAY, skipped: ['cleo fenn'] }))).toBe('xz');
    expect(ids(arranged(three, { ...NEW_DAY, order: ['y', 'z', 'x'], pinned: ['x'] }))).toBe('xyz');
  });

  it('lets children change places, and change back', () => {
    const who = (swapped: [string, string][]) =>
      withSwaps(three, swapped).map((s) => s.children.map((c) => c.child).join('+'));
    expect(who([['ivo', 'cleo']])).toEqual(['cleo', 'fenn+ivo', 'odo']);
    expect(who([['ivo', 'cleo'], ['cleo', 'ivo'], ['odo', 'nobody']])).toEqual(['ivo', 'fenn+cleo', 'odo']); // prettier-ignore
  });
});

describe('the plan in words', () => {
  it('says of each child why they are there, by how each fact stands, and names no fact twice', () => {
    const facts = [
      fact('2+4', 'need', 'in between', 0.2),
      fact('2+4', 'need', 'in between', 0.2),
      fact('3+3', 'sure', 'knows'),
      fact('show:7:five', 'warm', 'knows'),
    ];
    const why = (...some: ProposedFact[]): string => words.plan.reason(child('fenn', some));
    expect(why(...facts)).toBe('nearly known: 2\u00a0+\u00a04; to keep practising: seeing 7; last asked 3 days ago');
    expect(why(fact('5+1', 'need'))).toBe('not asked yet: 5\u00a0+\u00a01; last asked 3 days ago');
    // Nothing that is counted, or leans that way, is called nearly known.
    expect(why(fact('6+2', 'need', 'counts', -0.9), fact('2+5', 'need', 'in between', -0.1))).toBe(
      'still counted: 6\u00a0+\u00a02; not settled yet: 2\u00a0+\u00a05; last asked 3 days ago',
    );
    expect(words.plan.reason({ ...child('odo'), daysSince: null, need: { need: 'begin' } })).toContain('five frame');
    const undoing = { ...child('odo', [fact('6-2', 'need')]), need: { need: 'undoing', whole: 6 } as const };
    expect(words.plan.reason({ ...undoing, behind: { asked: 5, known: 5 } })).toContain(
      'the sums of six are known, now take away and missing part; not asked yet: 6',
    );
    expect(words.plan.reason({ ...undoing, behind: { asked: 5, known: 4 } })).toContain('4 of 5 sums of six are known');
  });

  it('names what a session is about, of one number or of neighbours', () => {
    expect([
      words.plan.title([{ need: 'pairs', whole: 7 }]),
      words.plan.title([
        { need: 'pairs', whole: 6 },
        { need: 'pairs', whole: 5 },
      ]),
      words.plan.title([{ need: 'anchor', to: 5 }]),
      words.plan.title([{ need: 'undoing', whole: 8 }, { need: 'seeing' }]),
    ]).toEqual([
      'Pairs of seven',
      'Pairs of five and six',
      'How many more to five',
      'Take away and missing part: eight; Seeing at a glance',
    ]);
  });

  it('tells what was learned, and whom to ask', () => {
    const read = (
      text: string,
      word: Reading['reading'],
      code: 'quick-on-days' | 'probably-known' = 'quick-on-days',
    ): Reading => ({
      child: 'ivo',
      fact: text,
      reading: word,
      pAutomatic: 0.9,
      lean: 1,
      certainty: 0.8,
      responses: 4,
      days: 2,
      reason: { code },
    });
    const view = {
      id: 'ivo',
      nickname: 'Ivo',
      lastAskedAt: null,
      measures: { copies: {}, counts: 0 },
      times: null,
      workingNumber: null,
      halfLifeDays: null,
      routinesUsed: [],
      support: [],
    };
    const last = (judged: number, wrong: number, helped = 0) => ({ moved: [], answered: { judged, wrong, helped } });
    const line = learnedLine({
      child: view,
      last: {
        moved: [{ fact: '3+4', before: read('3+4', 'counts'), after: read('3+4', 'knows'), by: 'answers' }],
        answered: { judged: 4, wrong: 0, helped: 0 },
      },
      readings: [read('6+1', 'in between', 'probably-known'), read('5+1', 'knows', 'probably-known')],
    });
    expect(line).toMatchObject({
      name: 'Ivo',
      view: 'add',
      words: '3 + 4 known (before: counted). Ask “Did you count, or did you just know?” for 6 + 1.',
    });
    expect(learnedLine({ child: view, last: last(4, 0), readings: [read('6+1', 'knows')] }).words).toBe(
      'Nothing changed: all four answers were right, as expected.',
    );
    expect(learnedLine({ child: view, last: last(4, 3), readings: [read('6+1', 'too few answers')] }).words).toContain(
      'Nothing changed yet. Three of four answers were wrong',
    );
    expect(learnedLine({ child: view, last: last(0, 0, 5), readings: [] }).words).toContain('given with help');
  });
});
