import fc from '../testing/property';
import { changesOf, countsByWeek, type WeekWords } from './overTime';
import { isOpen, READING_WORDS, type ReadingWord } from './reading';

const week = (child: string, monday: string, words: Record<string, ReadingWord>): WeekWords => ({
  child,
  week: monday,
  words,
});

describe('readings over time', () => {
  it('a child that was not asked in a week keeps what it had', () => {
    const counted = countsByWeek([
      week('Odo', '2026-11-16', { '1+1': 'knows', '2+3': 'counts' }),
      week('Odo', '2026-11-02', { '1+1': 'counts' }),
      week('Ivo', '2026-11-09', { '2+2': 'knows' }),
    ]);
    expect(counted.map((c) => [c.week, c.counts.knows, c.counts.counts])).toEqual([
      ['2026-11-02', 0, 1],
      ['2026-11-09', 1, 1],
      ['2026-11-16', 2, 1],
    ]);
  });

  it('names what became known, and what was known and lapsed, the newest first', () => {
    const changes = changesOf([
      week('Odo', '2026-11-02', { '1+1': 'knows', '2+3': 'too few answers', '4+4': 'counts' }),
      week('Odo', '2026-11-09', { '1+1': 'knows', '2+3': 'counts', '4+4': 'too few answers' }),
      week('Odo', '2026-11-16', { '1+1': 'works out', '2+3': 'knows', '4+4': 'knows' }),
    ]);
    expect(changes).toEqual([
      { fact: '4+4', week: '2026-11-16', from: 'counts', to: 'knows', lapse: false },
      { fact: '2+3', week: '2026-11-16', from: 'counts', to: 'knows', lapse: false },
      { fact: '1+1', week: '2026-11-16', from: 'knows', to: 'works out', lapse: true },
      { fact: '1+1', week: '2026-11-02', from: null, to: 'knows', lapse: false },
    ]);
  });

  it('the changes played again, in order, end at the words of the last week', () => {
    const words = fc.dictionary(fc.constantFrom('1+1', '2+3', '5-2'), fc.constantFrom(...READING_WORDS));
    fc.assert(
      fc.property(fc.array(words, { minLength: 1, maxLength: 8 }), (list) => {
        const weeks = list.map((own, i) => week('Odo', `2026-0${i + 1}-05`, own));
        const known = new Map<string, boolean>();
        for (const change of changesOf(weeks).reverse()) {
          expect(change.lapse).toBe(known.get(change.fact) === true && change.to !== 'knows');
          known.set(change.fact, change.to === 'knows');
        }
        const last = new Map<string, ReadingWord>();
        for (const own of list) for (const [fact, word] of Object.entries(own)) if (!isOpen(word)) last.set(fact, word);
        for (const [fact, word] of last) expect(known.get(fact) ?? false).toBe(word === 'knows');
      }),
    );
  });
});
