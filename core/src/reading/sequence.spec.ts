import type { WeekWords } from './overTime';
import { someResponse } from '../testing/response';
import { lastSession } from './lastSession';
import { sequenceOf } from './sequence';

const DAY = 86_400_000;
const monday = 20_416; // 24 November 2025
const at = (day: number, change: object = {}) =>
  someResponse({ shownAt: (monday + day) * DAY + 9 * 3_600_000, sitting: `s${day}`, ...change });
const dayOf = (ms: number): number => Math.floor(ms / DAY);

describe('what was done between two readings', () => {
  it('is told in order, newest first, with aids, help and what a week’s end read', () => {
    const responses = [
      at(0, { fact: '3+4' }),
      at(0, { fact: '3+4', outcome: 'wrong', help: ['look-again'], secondAnswer: '7' }),
      at(1, { fact: '3+4', aid: 'picture' }),
      at(1, { fact: '2+2' }),
      at(8, { fact: '3+4', void: 'noise' }),
      at(9, { fact: '3+4' }),
    ];
    const weeks: WeekWords[] = [
      { child: '', week: '2025-12-01', words: { '3+4': 'knows' } },
      { child: '', week: '2025-11-24', words: { '3+4': 'counts', '2+2': 'knows' } },
    ];
    const told = sequenceOf(new Set(['3+4']), responses, weeks, dayOf);
    expect(told.map((one) => [one.what, one.day - monday])).toEqual([
      ['read', 13],
      ['asked', 9],
      ['read', 6],
      ['asked', 1],
      ['asked', 0],
    ]);
    expect(told[0]).toMatchObject({ from: 'counts', to: 'knows', asked: true });
    // A week without an answer to it: similar facts moved it.
    const silent = responses.filter((r) => r.shownAt < at(7).shownAt || r.void !== '');
    expect(sequenceOf(new Set(['3+4']), silent, weeks, dayOf)[0]).toMatchObject({ to: 'knows', asked: false });
    expect(told[3]).toMatchObject({ answers: 1, aids: ['picture'] });
    expect(told[4]).toMatchObject({ answers: 2, right: 1, helps: ['look-again'] });
  });
});

describe('the last session', () => {
  it('counts what was judged, what of it was wrong, and what was helped', () => {
    const responses = [
      at(0, { outcome: 'wrong' }),
      at(1),
      at(1, { outcome: 'wrong' }),
      at(1, { aid: 'prompt' }),
      at(1, { kind: 'match', fact: 'match:4' }),
      at(1, { void: 'undone' }),
    ];
    expect(lastSession(responses)).toEqual({ judged: 2, wrong: 1, helped: 1 });
    expect(lastSession([])).toEqual({ judged: 0, wrong: 0, helped: 0 });
  });
});
