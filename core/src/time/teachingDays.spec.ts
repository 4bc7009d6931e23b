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
});
