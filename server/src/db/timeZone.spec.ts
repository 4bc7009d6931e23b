import { dateStarts, dayStarts } from './timeZone';

/** London's clocks go forward on 29 March 2026 (a day of 23 hours) and back on 25 October (25 hours). */
describe('the start of a day where the school stands', () => {
  it.each([
    ['2026-03-29', 0, '2026-03-29T00:00:00.000Z'],
    ['2026-03-29', 1, '2026-03-29T23:00:00.000Z'],
    ['2026-10-25', 0, '2026-10-24T23:00:00.000Z'],
    ['2026-10-25', 1, '2026-10-26T00:00:00.000Z'],
    ['2026-10-23', 7, '2026-10-30T00:00:00.000Z'],
  ])('of %s and %d days later is %s in London', (date, later, start) => {
    expect(dateStarts(date, 'Europe/London', later).toISOString()).toBe(start);
    // The same from any moment of that day.
    for (const hour of ['01', '12', '22'])
      expect(dayStarts(new Date(`${date}T${hour}:30:00Z`), 'Europe/London', later).toISOString()).toBe(start);
  });

  it('is local midnight, by quarters of an hour too', () => {
    expect(dayStarts(new Date('2026-11-25T18:14:00Z'), 'Asia/Kathmandu').toISOString()).toBe(
      '2026-11-24T18:15:00.000Z',
    );
    expect(dayStarts(new Date('2026-11-25T18:16:00Z'), 'Asia/Kathmandu').toISOString()).toBe(
      '2026-11-25T18:15:00.000Z',
    );
  });
});
