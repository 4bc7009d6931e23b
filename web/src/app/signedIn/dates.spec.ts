import { HttpTestingController } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { jest } from '@jest/globals';
import { configure, ME } from '../testing/page';
import { Dates } from './dates';
import { Session } from './session';

describe('dates as they are read', () => {
  beforeEach(() => {
    configure();
    jest.useFakeTimers({ now: Date.parse('2026-11-29T06:30:00Z') });
  });
  afterEach(() => jest.useRealTimers());

  it.each([
    ['2026-11-29T06:30:00Z', 'just now'],
    ['2026-11-29T06:10:00Z', 'today'],
    ['2026-11-29T03:10:00Z', 'today'],
    // Less than two times 24 hours ago, and yet two days.
    ['2026-11-27T09:36:00Z', '2 days ago'],
    ['2026-11-28T22:00:00Z', 'yesterday'],
    ['2026-11-14T12:00:00Z', '2 weeks ago'],
    ['2026-08-14T12:00:00Z', '3 months ago'],
  ])('%s is %s', (at, said) => expect(TestBed.inject(Dates).ago(at)).toBe(said));

  it.each(['America/New_York', 'Pacific/Honolulu', 'Pacific/Kiritimati'])(
    'a day that has no hour is the same day everywhere, in %s too',
    (timeZone) => {
      TestBed.inject(Session).refresh().subscribe();
      const me = { ...ME, school: { ...ME.school, timeZone } };
      TestBed.inject(HttpTestingController).expectOne('/api/me').flush(me);
      const dates = TestBed.inject(Dates);
      expect([dates.date('2026-11-23'), dates.weekdayOf('2026-11-23'), dates.longDate('2026-11-23')]).toEqual([
        '23 Nov',
        'Mon 23 Nov',
        '23 November 2026',
      ]);
      expect([1, 7].map(dates.weekdayName)).toEqual(['Mon', 'Sun']);
    },
  );

  it('are days of the school’s calendar, in British order', () => {
    const dates = TestBed.inject(Dates);
    expect(dates.dayOfYear('2026-11-25T23:30:00Z')).toBe('25 Nov 2026');
    expect(dates.weekday('2026-11-25T10:00:00Z')).toBe('Wednesday 25 November');
    expect(dates.dayOf('2026-06-30T23:30:00Z')).toBe('2026-07-01');
    expect(dates.date('2026-11-23')).toBe('23 Nov');
  });
});
