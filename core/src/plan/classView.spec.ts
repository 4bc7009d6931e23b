import type { Reading, ReadingWord } from '../reading/reading';
import { someReading } from '../testing/reading';
import { stillCounted } from './classView';

const read = (child: string, fact: string, reading: ReadingWord): Reading => someReading(fact, { child, reading });

describe('facts that most of a class still count', () => {
  it('are those at least half of the readings say so of, most children first', () => {
    const readings = [
      ...['a', 'b', 'c'].map((c) => read(c, '3+4', 'counts')),
      read('a', '4+4', 'works out'),
      read('b', '4+4', 'knows'),
      read('c', '4+4', 'too few answers'),
      read('a', '2+1', 'knows'),
      read('b', '2+1', 'not yet'),
      read('c', '2+1', 'knows'),
    ];
    expect(stillCounted(readings, 2)).toEqual([
      { fact: '3+4', counting: ['a', 'b', 'c'], read: 3 },
      { fact: '4+4', counting: ['a'], read: 2 },
    ]);
    expect(stillCounted(readings, 3).map((f) => f.fact)).toEqual(['3+4']);
  });
});
