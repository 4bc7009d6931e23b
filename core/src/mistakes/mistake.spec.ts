import { parseFact } from '../facts/fact';
import type { Response } from '../record/response';
import { someResponse } from '../testing/response';
import { countMistakes, mistakeOf, mistakesOf } from './mistake';

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
    ['3+1', 1, ['part said back']],
    // Only what counts towards a whole can run past, and not beyond it.
    ['9-3', 8, ['something else']],
    ['3+?=9', 2, ['something else']],
    ['3+?=9', 10, ['something else']],
    ['match:5', 2, ['writing slip']],
    ['match:1', 7, ['writing slip']],
    ['match:6', 2, ['something else']],
    ['show:6:dice', 9, ['something else']],
    ['show:8:dice', 7, ['one off']],
    // Rows and empty boxes are a frame's; a row of five is full on a frame by fives alone.
    ['show:8:dice', 2, ['something else']],
    ['count:8:scatter', 2, ['something else']],
    ['show:8:frame-pairs', 5, ['something else']],
    ['show:5:frame-fives', 0, ['something else']],
    ['show:4:frame-fives', 5, ['one off']],
    ['5+4', 9, []],
  ])('%s answered %i', (fact, given, names) => expect(mistakesOf(parseFact(fact), given)).toEqual(names));

  const row = (
    fact: string,
    kind: Response['kind'],
    given: string,
    at: number,
    change: Partial<Response> = {},
  ): Response => someResponse({ id: String(at), shownAt: at, kind, fact, given, outcome: 'wrong', ...change });

  it('are told by how many, then in their usual order; the newest by when it was shown, not by where it stands', () => {
    const counts = countMistakes([
      row('5+4', 'add', '8', 9),
      row('4+4', 'add', '7', 3),
      // Seven and one stand for nothing that is a mistake by name.
      row('5+4', 'add', '3', 4),
      row('8-3', 'subtract', '8', 5),
      row('8-3', 'subtract', '8', 5, { given: '8' }),
      row('5+4', 'add', '', 6),
      row('5+4', 'add', '8½', 6),
      row('ways:5', 'ways', '2 3', 7),
      row('ways:5', 'ways', '2', 7),
    ]);
    expect(counts.map(({ mistake, count, newest }) => [mistake, count, newest.fact])).toEqual([
      ['whole instead of part', 2, '8-3'],
      ['one off', 2, '5+4'],
      ['something else', 1, '5+4'],
    ]);
  });

  it('are counted per child, first looks alone, ties and the newest told', () => {
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

describe('the name that tells most', () => {
  it.each([
    ['2+?=5', '2', 'other part'],
    ['5+0', '0', 'part said back'],
    ['9+5', '4', 'ten left out'],
    ['9+5', '9', 'part said back'],
    ['9+5', '13', 'one off'],
    ['13-5', '13', 'whole instead of part'],
    ['3+?+2=10', '10', 'whole instead of part'],
    ['3+?+2=10', '3', 'other part'],
    ['top:7', '7', 'whole instead of part'],
    ['top:7', '2', 'other part'],
    ['below:8', '5', 'other part'],
    ['side:4:3', '3', 'other part'],
    ['side:4:3', '7', 'whole instead of part'],
    ['left:5-1', '1', 'other part'],
    ['groups:4:2:count', '8', 'whole instead of part'],
    ['groups:4:2', '4', 'other part'],
    ['boxes-top:10', '10', 'whole instead of part'],
    ['8+5:move', '5', 'whole instead of part'],
    ['7+3', '10', null],
    ['7+3', '', null],
    ['ways:6', '4+2', null],
    ['same:3:4', 'same', null],
  ])('%s answered "%s": %s', (text, given, name) => expect(mistakeOf(text, given)).toBe(name));
});
