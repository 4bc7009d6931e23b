import type { ChildNeed } from '@vane/core';
import { reasonsOf } from './reasons';

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
  expect(reasonsOf({ id: 'a', needs: [], minutes: 4, children })).toEqual([
    { children: ['odo', 'ivo'], why: 'not asked yet; small amounts on the five frame begin the record' },
    { children: ['zadie'], why: 'last asked 3 days ago' },
  ]);
});
