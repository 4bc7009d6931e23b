import { parseFact } from '../facts/fact';
import type { Response } from '../record/response';
import { someResponse } from '../testing/response';
import { countMistakes, mistakesOf } from './mistake';

describe('mistakes by name', () => {
  it.each([
    ['2+?=5', 5, ['whole instead of part']],
    ['2+?=5', 2, ['other part', 'one off']],
    ['2+?=5', 7, ['added instead']],
    ['3+?=9', 8, ['ran past']],
    ['3+?=9', 7, ['one off']],
    ['bond:9:4', 9, ['whole instead of part']],
    ['bond:9:4', 4, ['other part', 'one off']],
    ['8-3', 8, ['whole instead of part']],
    ['8-3', 3, ['other part']],
    ['8-3', 6, ['one off']],
    ['7-2', 9, ['added instead']],
    ['3+1', 3, ['part said back', 'one off']],
    ['6+2', 4, ['took away instead']],
    ['5+4', 8, ['one off']],
    ['5+4', 3, ['something else']],
    ['show:8:frame-fives', 5, ['one row only']],
    ['show:8:frame-fives', 3, ['one row only']],
    ['show:8:frame-fives', 2, ['empty boxes']],
    ['show:7:frame-pairs', 3, ['empty boxes']],
    ['match:6', 9, ['writing slip']],
    ['match:6', 3, ['something else']],
    ['5+4', 9, []],
  ])('%s answered %i', (fact, given, names) => expect(mistakesOf(parseFact(fact), given)).toEqual(names));

  it('are counted per child, first looks alone, ties and the newest told', () => {
    const row = (
      fact: string,
      kind: Response['kind'],
      given: string,
      at: number,
      change: Partial<Response> = {},
    ): Response => someResponse({ id: String(at), shownAt: at, kind, fact, given, outcome: 'wrong', ...change });
    const counts = countMistakes([
      row('3+1', 'add', '3', 1),
      row('5+4', 'add', '8', 2),
      row('5+4', 'add', '', 3, { outcome: 'none' }),
      row('5+4', 'add', '8', 4, { aid: 'second-look' }),
      row('5+4', 'add', '8', 5, { void: 'spoiled' }),
      row('5+4', 'add', '9', 6, { outcome: 'correct' }),
    ]);
    expect(counts).toEqual([
      { mistake: 'one off', count: 2, tied: 1, newest: { fact: '5+4', given: '8' } },
      { mistake: 'part said back', count: 1, tied: 1, newest: { fact: '3+1', given: '3' } },
    ]);
  });
});
