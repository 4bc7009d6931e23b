import { dateOfDay } from './schoolDay';
import { teachingDays } from './teachingDays';

describe('teaching days', () => {
  const of = (at: string, timeZone: string, count = 3): string[] =>
    teachingDays(Date.parse(at), count, timeZone).map(dateOfDay);

  it('are Mondays to Fridays after the day', () => {
    expect(of('2026-11-26T09:00:00Z', 'UTC')).toEqual(['2026-11-27', '2026-11-30', '2026-12-01']);
    expect(of('2026-11-29T09:00:00Z', 'UTC', 1)).toEqual(['2026-11-30']);
  });

  it('go by the school’s day', () => {
    // Thursday evening in London is Friday in Sydney.
    expect(of('2026-11-26T20:00:00Z', 'Europe/London', 1)).toEqual(['2026-11-27']);
    expect(of('2026-11-26T20:00:00Z', 'Australia/Sydney', 1)).toEqual(['2026-11-30']);
  });

  it('are the days of the class, holidays left out', () => {
    const from = Date.parse('2026-12-16T09:00:00Z');
    const days = (weekdays: number[], off: { from: string; to: string }[]): string[] =>
      teachingDays(from, 3, 'UTC', weekdays, off).map(dateOfDay);
    expect(days([1, 4], [])).toEqual(['2026-12-17', '2026-12-21', '2026-12-24']);
    expect(days([1, 2, 3, 4, 5], [{ from: '2026-12-18', to: '2027-01-01' }])).toEqual([
      '2026-12-17',
      '2027-01-04',
      '2027-01-05',
    ]);
    // A Sunday school.
    expect(days([7], [{ from: '2026-12-20', to: '2026-12-20' }])).toEqual(['2026-12-27', '2027-01-03', '2027-01-10']);
  });

  it('are looked for four hundred days ahead, and no further', () => {
    const closedFor = (days: number): { from: string; to: string }[] => [{ from: '1970-01-01', to: dateOfDay(days) }];
    expect(teachingDays(0, 1, 'UTC', [1, 2, 3, 4, 5, 6, 7], closedFor(399))).toEqual([400]);
    expect(teachingDays(0, 1, 'UTC', [1, 2, 3, 4, 5, 6, 7], closedFor(400))).toEqual([]);
  });

  it('are none where a school stays closed', () =>
    expect(teachingDays(0, 5, 'UTC', [1], [{ from: '1970-01-01', to: '1980-01-01' }])).toEqual([]));
});
