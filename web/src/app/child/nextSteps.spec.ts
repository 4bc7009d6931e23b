import { TestBed } from '@angular/core/testing';
import type { ChildRecord, ChildWeek } from '@vane/contract';
import { factsWithinTen, mondayOf, dateOfDay, schoolDays, type ChildNeed, type Reading } from '@vane/core';
import { CHILDREN, configure, text } from '../testing/page';
import { NextSteps } from './nextSteps';

const ORIEL = CHILDREN[0]!;
/** Knows the sums below six, and counts the rest. */
const READINGS = factsWithinTen('add').map((fact): Reading => {
  const knows = fact.split('+').reduce((sum, n) => sum + Number(n), 0) < 6;
  const pAutomatic = knows ? 0.95 : 0.05;
  const reading = knows ? 'knows' : 'counts';
  const known = { pAutomatic, lean: 0, certainty: 0.8, responses: 4, days: 3 };
  return { child: ORIEL.id, fact, reading, ...known, reason: { code: 'in-between' } };
});
const NEED: ChildNeed = {
  child: ORIEL.id,
  need: { need: 'pairs', whole: 6 },
  daysSince: 2,
  daysThisWeek: 0,
  facts: [],
};
const monday = mondayOf(schoolDays('Europe/London')(Date.now()));
const weeksAgo = (n: number): ChildWeek => ({
  child: ORIEL.id,
  week: dateOfDay(monday - 7 * n),
  words: { '2+4': 'counts', '4+2': 'counts' },
  workingNumber: 6,
  help: 'picture',
  older: null,
});

async function shown(weeks: readonly ChildWeek[], routinesUsed: readonly string[]): Promise<string> {
  configure();
  const fixture = TestBed.createComponent(NextSteps);
  const record = { child: { ...ORIEL, routinesUsed }, readings: READINGS } as unknown as ChildRecord;
  for (const [name, value] of Object.entries({ record, planned: NEED, plan: 'there', weeks }))
    fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  const said = text(fixture);
  TestBed.resetTestingModule();
  return said;
}

describe('what to do next', () => {
  it('says when nothing has changed for three weeks, and offers a routine that was not used lately', async () => {
    const weeks = [6, 5, 4, 2, 1].map(weeksAgo);
    const said = await shown(weeks, ['planned', 'one-cut']);
    expect(said).toMatch(
      /The pairs of six: no change for three weeks \(.+ and .+\)\.\s*Try another way:\s*All the ways/,
    );
    expect(await shown(weeks, ['one-cut', 'all-the-ways', 'sums'])).not.toContain('Try another way');
    expect(await shown([], ['planned'])).not.toContain('no change');
  });
});
