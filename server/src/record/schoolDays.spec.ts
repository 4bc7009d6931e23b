import type { ChildRecord, LogPage, Me, OverTime } from '@vane/contract';
import { SET_UP, startHarness, type Browser, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';

/** Days, weeks and dates are those of the school's own calendar, wherever the server stands. */
let harness: Harness;
let browser: Browser;
beforeEach(async () => {
  harness = await startHarness();
  browser = harness.browser();
});
afterEach(() => harness.close());

const json = async <T>(answer: Promise<Response>): Promise<T> => (await (await answer).json()) as T;

/** A school in a time zone, with one child and answers at these moments. */
async function school(timeZone: string, moments: readonly string[]): Promise<{ path: string; child: string }> {
  const me = await json<Me>(browser.send('POST', '/api/set-up', { ...SET_UP, timeZone, children: ['Ivo'] }));
  expect(me.school.timeZone).toBe(timeZone);
  const path = `/api/classes/${me.classes[0]?.id}`;
  const child = (await json<{ children: { id: string }[] }>(browser.get(path))).children[0]?.id ?? '';
  const rows = moments.map((shown_at, i) => rowFor(child, { response_id: `r${i}`, shown_at }));
  await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses: rows });
  return { path, child };
}

// Sunday 22 November in UTC is Monday in Sydney and Kiritimati from 13:00 and 10:00 on, and still Saturday in Honolulu until 10:00.
const MOMENTS = ['2026-11-22T09:30:00.000Z', '2026-11-22T12:30:00.000Z', '2026-11-22T13:30:00.000Z'];

describe.each([
  ['Europe/London', ['2026-11-16'], [0, 3, 0]],
  ['Australia/Sydney', ['2026-11-16', '2026-11-23'], [0, 2, 1]],
  ['Pacific/Kiritimati', ['2026-11-16', '2026-11-23'], [0, 1, 2]],
  ['Pacific/Honolulu', ['2026-11-16'], [1, 2, 0]],
] as const)('in %s', (timeZone, weeks, [saturday, sunday, monday]) => {
  it('the log’s dates, the day a record is stepped back to, and weeks are the school’s', async () => {
    const { path, child } = await school(timeZone, MOMENTS);
    const logged = async (day: string): Promise<number> =>
      (await json<LogPage>(browser.get(`${path}/log?from=${day}&to=${day}`))).total;
    expect([await logged('2026-11-21'), await logged('2026-11-22'), await logged('2026-11-23')]).toEqual([
      saturday,
      sunday,
      monday,
    ]);
    const until = async (day: string): Promise<number> =>
      (await json<ChildRecord>(browser.get(`${path}/children/${child}?until=${day}`))).responses.length;
    expect([await until('2026-11-21'), await until('2026-11-22')]).toEqual([saturday, saturday + sunday]);
    let over = await json<OverTime>(browser.get(`${path}/over-time`));
    for (let tries = 0; tries < 200 && over.pending > 0; tries++) {
      await new Promise((later) => setTimeout(later, 10));
      over = await json<OverTime>(browser.get(`${path}/over-time`));
    }
    expect(over.weeks.map(({ week }) => week)).toEqual(weeks);
  });
});

it('a school that says where it stands is judged by its days; a place that is none is refused', async () => {
  const { path, child } = await school('Europe/London', ['2026-11-24T23:55:00.000Z', '2026-11-25T00:06:00.000Z']);
  const days = async (): Promise<number | undefined> =>
    (await json<ChildRecord>(browser.get(`${path}/children/${child}`))).readings[0]?.days;
  expect(await days()).toBe(2);
  expect((await browser.send('PUT', '/api/school/time-zone', { timeZone: 'Harbour/Jetty' })).status).toBe(400);
  expect((await browser.send('PUT', '/api/school/time-zone', { timeZone: 'Australia/Sydney' })).status).toBe(204);
  expect(await days()).toBe(1);
  expect((await json<Me>(browser.get('/api/me'))).school.timeZone).toBe('Australia/Sydney');
});

it('a school keeps its holidays in order, and tells everybody who works there', async () => {
  await school('Europe/London', []);
  const winter = { from: '2026-12-19', to: '2027-01-03' };
  const autumn = { from: '2026-10-26', to: '2026-10-30' };
  expect((await browser.send('PUT', '/api/school/days-off', { daysOff: [winter, autumn] })).status).toBe(204);
  expect((await json<Me>(browser.get('/api/me'))).school.daysOff).toEqual([autumn, winter]);
  const turned = { from: winter.to, to: winter.from };
  expect((await browser.send('PUT', '/api/school/days-off', { daysOff: [turned] })).status).toBe(400);
});
