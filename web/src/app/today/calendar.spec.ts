import { calendarOf, eventsOf } from './calendar';

const SITTINGS = [
  { id: 'a', title: 'Pairs of six', who: ['Odo', 'Ivo'], reason: 'Last asked three days ago.', minutes: 4 },
  { id: 'b', title: 'A first look; and more', who: ['Zadie'], reason: 'Not asked yet.', minutes: 3 },
];
const FROM = new Date('2026-11-25T09:00:00Z');

it('puts sittings one after the other', () => {
  expect(
    eventsOf(SITTINGS, FROM).map((e) => [e.id, (e.start as Date).toISOString(), (e.end as Date).toISOString()]),
  ).toEqual([
    ['2026-11-25-a@vane', '2026-11-25T09:00:00.000Z', '2026-11-25T09:04:00.000Z'],
    ['2026-11-25-b@vane', '2026-11-25T09:04:00.000Z', '2026-11-25T09:07:00.000Z'],
  ]);
});

it('makes an iCalendar file of them', () => {
  const text = calendarOf('Curlew', SITTINGS, FROM);
  const lines = text.replaceAll('\r\n ', '').split('\r\n');
  expect([lines[0], lines[1], lines.at(-1)]).toEqual(['BEGIN:VCALENDAR', 'VERSION:2.0', 'END:VCALENDAR']);
  expect(lines).toEqual(
    expect.arrayContaining([
      'SUMMARY:Pairs of six: Odo\\, Ivo',
      'SUMMARY:A first look\\; and more: Zadie',
      'DTSTART:20261125T090000Z',
      'DTEND:20261125T090400Z',
    ]),
  );
});
