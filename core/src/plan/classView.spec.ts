import type { Reading, ReadingWord } from '../reading/reading';
import { someReading } from '../testing/reading';
import { stillCounted } from './classView';

const read = (child: string, fact: string, reading: ReadingWord): Reading => someReading(fact, { child, reading });

describe('facts that most of a class do not know yet', () => {
  it('are those that at least half of those who were asked do not, most children first', () => {
    const readings = [
      ...['a', 'b', 'c'].map((c) => read(c, '3+4', 'counts')),
      read('a', '4+4', 'works out'),
      read('b', '4+4', 'knows'),
      read('c', '4+4', 'too few answers'),
      read('d', '4+4', 'not yet'),
      read('a', '2+1', 'knows'),
      read('b', '2+1', 'not yet'),
      read('c', '2+1', 'knows'),
    ];
    const counted = (child: string) => ({ child, standing: 'counted' });
    expect(stillCounted(readings, 3)).toEqual([
      { fact: '3+4', asked: 3, open: ['a', 'b', 'c'].map(counted) },
      {
        fact: '4+4',
        asked: 4,
        open: [
          { child: 'a', standing: 'worked out' },
          { child: 'd', standing: 'not yet' },
        ],
      },
    ]);
    expect(stillCounted(readings, 4).map((f) => f.fact)).toEqual(['4+4']);
    // Who was never asked is not counted among those who were.
    expect(stillCounted([...readings, someReading('3+4', { child: 'd', responses: 0 })], 3)[0]?.asked).toBe(3);
  });
});
