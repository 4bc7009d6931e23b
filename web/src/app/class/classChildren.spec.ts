import type { ChildView, ChildWeek } from '@vane/contract';
import { dateOfDay, dayOfDate, factsWithinTen, isNumberFact, mondayOf, parseFact, type Reading } from '@vane/core';
import { needsFor } from '../plan/classPlan';
import { CHILDREN } from '../testing/page';
import { classChildren, pictureOf, movement, type ClassChild } from './classChildren';

const NOW = Date.parse('2026-11-25T09:00:00Z');
const upTo = (child: string, known: number): Reading[] =>
  factsWithinTen('add').map((text): Reading => {
    const fact = parseFact(text);
    const knows = isNumberFact(fact) && fact.whole <= known;
    return {
      child,
      fact: text,
      reading: knows ? 'knows' : 'counts',
      pAutomatic: knows ? 0.95 : 0.05,
      lean: 0,
      certainty: 0.8,
      responses: 4,
      days: 3,
      reason: { code: 'in-between' },
    };
  });
const child = (nickname: string, change: Partial<ChildView> = {}): ChildView => ({
  ...CHILDREN[0]!,
  id: nickname,
  nickname,
  ...change,
});
const week = (of: string, monday: string, workingNumber: number | null, more: Partial<ChildWeek> = {}): ChildWeek => ({
  child: of,
  week: monday,
  words: {},
  workingNumber,
  help: 'picture',
  older: null,
  ...more,
});

function classOf(
  views: readonly ChildView[],
  readings: readonly Reading[],
  weeks: readonly ChildWeek[] = [],
  since = '2026-11-18',
) {
  const needs = needsFor({ children: views, judged: { readings, asked: [] }, timeZone: 'Europe/London' }, NOW);
  return classChildren(views, readings, needs, weeks, { now: NOW, timeZone: 'Europe/London', since });
}
const named = (all: readonly ClassChild[], nickname: string): ClassChild => all.find((c) => c.nickname === nickname)!;

describe('the children of a class', () => {
  it('each have a place, and what the plan has for them', () => {
    const all = classOf([child('Oriel'), child('Tamsin'), child('Ivo')], [...upTo('Oriel', 6), ...upTo('Tamsin', 10)]);
    expect(named(all, 'Oriel').place).toMatchObject({ number: 7, help: 'picture' });
    expect(named(all, 'Tamsin').place.allKnown).toBe(true);
    expect(named(all, 'Ivo')).toMatchObject({ place: { number: null, help: 'objects' }, needName: 'begin' });
    expect(named(all, 'Tamsin').ready).toEqual({ step: 'past ten' });
  });

  it('were heard this week from the school’s Monday on', () => {
    const at = (time: string) => classOf([child('Odo', { lastAskedAt: time })], [])[0]!.heardThisWeek;
    expect([at('2026-11-23T00:10:00Z'), at('2026-11-22T23:50:00Z')]).toEqual([true, false]);
    expect(dateOfDay(mondayOf(dayOfDate('2026-11-29')))).toBe('2026-11-23');
    expect(dateOfDay(mondayOf(dayOfDate('2026-11-23')))).toBe('2026-11-23');
  });

  it('have come from where the last week before the day had left them', () => {
    const weeks = [week('Oriel', '2026-11-02', 5), week('Oriel', '2026-11-09', 6), week('Oriel', '2026-11-16', 7)];
    const [one] = classOf([child('Oriel')], upTo('Oriel', 6), weeks);
    expect(one?.then?.number).toBe(6);
    expect(movement(one!)).toEqual({ across: 1, up: 0 });
    const [same] = classOf([child('Oriel')], upTo('Oriel', 6), weeks, '2026-11-22');
    expect(movement(same!)).toBeNull();
    const [less] = classOf([child('Oriel')], upTo('Oriel', 6), [week('Oriel', '2026-11-09', 7, { help: 'objects' })]);
    expect(movement(less!)).toEqual({ across: 0, up: 1 });
    expect(movement(classOf([child('Oriel')], upTo('Oriel', 6))[0]!)).toBeNull();
  });

  it('did not move where only the judgement has a new version', () => {
    const older = { modelVersion: 'field-5', workingNumber: 5, words: {} };
    const [one] = classOf([child('Oriel')], upTo('Oriel', 6), [week('Oriel', '2026-11-09', 7, { older })]);
    expect(movement(one!)).toBeNull();
    expect(one?.versionMoved).toEqual({ version: 'field-5', from: 5 });
  });
});

describe('the picture of a class', () => {
  it('puts children with the same need in one pool, in columns without gaps', () => {
    const names = ['Oriel', 'Tamsin', 'Ivo', 'Odo'];
    const readings = [...upTo('Oriel', 4), ...upTo('Tamsin', 4), ...upTo('Odo', 7)];
    const { columns, rows } = pictureOf(
      classOf(
        names.map((name) => child(name)),
        readings,
      ),
    );
    expect(columns.map(({ column, weight }) => [column, weight])).toEqual([
      ['none', 1],
      ['5', 1],
      ['6', 0],
      ['7', 0],
      ['8', 1],
    ]);
    expect(rows.map(({ help }) => help)).toEqual(['symbols', 'remembered', 'picture', 'objects']);
    const all = rows.flatMap(({ cells }) => cells.flatMap(({ pools }) => pools.flatMap((pool) => pool.children)));
    expect(all).toHaveLength(4);
    for (const { cells } of rows)
      for (const { pools } of cells)
        for (const { needName, children } of pools)
          expect(new Set(children.map((one) => one.needName))).toEqual(new Set([needName]));
  });

  it('has a place for everybody of a class that has just begun', () => {
    const names = Array.from({ length: 36 }, (_, i) => `Child ${i}`);
    const { columns, rows } = pictureOf(
      classOf(
        names.map((name) => child(name)),
        [],
      ),
    );
    expect(columns).toMatchObject([{ column: 'none', weight: 13 }]);
    expect(rows[3]?.cells[0]?.pools[0]?.children).toHaveLength(36);
  });
});
