import type { ChildNeed } from '@vane/core';
import { listedBy, reasonsOf } from './reasons';

const begins = (child: string): ChildNeed => ({
  child,
  need: { need: 'begin' },
  daysSince: null,
  daysThisWeek: 0,
  facts: [],
});

it('the same reason of several children is told once, in the order in which they sit', () => {
  const waited: ChildNeed = {
    child: 'zadie',
    need: { need: 'pairs', whole: 5 },
    daysSince: 3,
    daysThisWeek: 0,
    facts: [],
  };
  const children = [begins('odo'), waited, begins('ivo')];
  const names = new Map([
    ['odo', 'Odo'],
    ['ivo', 'Ivo'],
    ['zadie', 'Zadie'],
  ]);
  expect(reasonsOf({ id: 'a', needs: [], minutes: 4, children }, listedBy(names))).toEqual([
    { who: 'Odo and Ivo', why: 'not asked yet; small amounts on the five frame begin the record' },
    { who: 'Zadie', why: 'last asked 3 days ago' },
  ]);
});
