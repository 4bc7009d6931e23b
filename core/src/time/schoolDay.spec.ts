import fc from '../testing/property';
import { dateOfDay, dayOfDate, isoWeekday, isTimeZone, isWeekend, mondayOf, schoolDays, startOfDay } from './schoolDay';

const at = (text: string): number => Date.parse(text);
const dateAt = (text: string, zone: string): string => dateOfDay(schoolDays(zone)(at(text)));

/** Far ahead of UTC, furthest ahead, far behind, at its own quarter of an hour, and where clocks change by half an hour. */
const ZONES = [
  'Europe/London',
  'Australia/Sydney',
  'Pacific/Kiritimati',
  'Pacific/Honolulu',
  'Asia/Kathmandu',
  'Australia/Lord_Howe',
];

describe('a school’s day', () => {
  it.each([
    // A morning on the carpet in Sydney lies in two days of UTC.
    ['2026-11-24T23:55:00Z', 'Australia/Sydney', '2026-11-25'],
    ['2026-11-25T00:06:00Z', 'Australia/Sydney', '2026-11-25'],
    ['2026-11-25T10:01:00Z', 'Pacific/Kiritimati', '2026-11-26'],
    ['2026-11-25T09:59:00Z', 'Pacific/Kiritimati', '2026-11-25'],
    ['2026-11-25T09:59:00Z', 'Pacific/Honolulu', '2026-11-24'],
    ['2026-11-25T10:00:00Z', 'Pacific/Honolulu', '2026-11-25'],
    // Both changes of clocks in London: 29 March and 25 October 2026.
    ['2026-03-28T23:59:00Z', 'Europe/London', '2026-03-28'],
    ['2026-03-29T22:59:00Z', 'Europe/London', '2026-03-29'],
    ['2026-03-29T23:00:00Z', 'Europe/London', '2026-03-30'],
    ['2026-10-24T22:59:00Z', 'Europe/London', '2026-10-24'],
    ['2026-10-24T23:00:00Z', 'Europe/London', '2026-10-25'],
    ['2026-10-25T23:59:00Z', 'Europe/London', '2026-10-25'],
  ])('of %s in %s is %s', (moment, zone, date) => expect(dateAt(moment, zone)).toBe(date));

  it.each([
    // Five hours and three quarters ahead of UTC.
    ['2026-11-25', 'Asia/Kathmandu', '2026-11-24T18:15:00.000Z'],
    ['2026-11-25', 'Australia/Eucla', '2026-11-24T15:15:00.000Z'],
    ['2026-11-25', 'Pacific/Kiritimati', '2026-11-24T10:00:00.000Z'],
    ['2026-11-25', 'Pacific/Honolulu', '2026-11-25T10:00:00.000Z'],
    ['2026-06-25', 'Europe/London', '2026-06-24T23:00:00.000Z'],
    ['2026-11-25', 'Europe/London', '2026-11-25T00:00:00.000Z'],
    // Clocks are put forward at midnight: the day begins at one o'clock.
    ['2026-04-24', 'Africa/Cairo', '2026-04-23T22:00:00.000Z'],
  ])('%s in %s begins at %s', (date, zone, start) =>
    expect(new Date(startOfDay(dayOfDate(date), zone)).toISOString()).toBe(start),
  );

  it('begins when the one before ends, whatever the clocks do', () => {
    const days = fc.integer({ min: dayOfDate('2020-01-01'), max: dayOfDate('2035-01-01') });
    fc.assert(
      fc.property(fc.constantFrom(...ZONES), days, (zone, day) => {
        // Asked of the calendar itself, not of what is tested.
        const date = new Intl.DateTimeFormat('sv', { timeZone: zone });
        const start = startOfDay(day, zone);
        expect([date.format(start - 1), date.format(start)]).toEqual([dateOfDay(day - 1), dateOfDay(day)]);
        const hours = (startOfDay(day + 1, zone) - start) / 3_600_000;
        expect([22.5, 23, 23.5, 24, 24.5, 25]).toContain(hours);
      }),
    );
  });

  it('has 23 and 25 hours when London’s clocks change', () => {
    const hours = (date: string): number =>
      (startOfDay(dayOfDate(date) + 1, 'Europe/London') - startOfDay(dayOfDate(date), 'Europe/London')) / 3_600_000;
    expect([hours('2026-03-29'), hours('2026-10-25'), hours('2026-11-25')]).toEqual([23, 25, 24]);
  });

  it('that the date line left out begins with the next one', () => {
    // Samoa went from 29 to 31 December 2011.
    expect(dateOfDay(schoolDays('Pacific/Apia')(startOfDay(dayOfDate('2011-12-30'), 'Pacific/Apia')))).toBe(
      '2011-12-31',
    );
  });

  it('has a weekday, a week that begins on Monday, and an end of the week', () => {
    // 23 November 2026 is a Monday.
    const week = Array.from({ length: 8 }, (_, i) => dayOfDate('2026-11-23') + i);
    expect(week.map(isoWeekday)).toEqual([1, 2, 3, 4, 5, 6, 7, 1]);
    expect(week.map(isWeekend)).toEqual([false, false, false, false, false, true, true, false]);
    expect(week.map((day) => dateOfDay(mondayOf(day)))).toEqual([...Array<string>(7).fill('2026-11-23'), '2026-11-30']);
    // Of a moment, the day that it is written with.
    expect(dayOfDate('2026-11-23T22:10:00Z')).toBe(week[0]);
  });

  it('is written as a date, and known by zones that there are', () => {
    expect(dateOfDay(dayOfDate('2026-11-25'))).toBe('2026-11-25');
    expect([isTimeZone('Europe/London'), isTimeZone('Harbour/Jetty')]).toEqual([true, false]);
    expect(() => schoolDays('Harbour/Jetty')).toThrow(RangeError);
  });
});
