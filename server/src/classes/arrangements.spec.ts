import type { Arrangements, ClassView } from '@vane/contract';
import { DAY, WEEK } from '../testing/nonsense';
import { setUp, startHarness, type Browser, type Harness } from '../testing/harness';

let harness: Harness;
beforeEach(async () => {
  harness = await startHarness();
});
afterEach(() => harness.close());

const arranged = async (browser: Browser, path: string): Promise<Arrangements> =>
  ((await (await browser.get(path)).json()) as ClassView).arranged;

describe('what a class has arranged', () => {
  it('stands on every device as it was changed last, whatever comes in last', async () => {
    const browser = harness.browser();
    const { path } = await setUp(browser);
    expect(await arranged(browser, path)).toEqual({ day: null, week: null });
    const day = (changedAt: number, minutes: number) => ({ ...DAY, changedAt, plan: { ...DAY.plan, minutes } });
    expect((await browser.send('PUT', `${path}/day-plan`, day(20, 12))).status).toBe(204);
    expect((await browser.send('PUT', `${path}/day-plan`, day(10, 30))).status).toBe(204);
    await Promise.all(
      [40, 30, 50].map((at) => browser.send('PUT', `${path}/week-settings`, { ...WEEK, changedAt: at })),
    );
    const found = await arranged(browser, path);
    expect([found.day?.plan.minutes, found.week?.changedAt]).toEqual([12, 50]);
    // A device whose clock is a century ahead keeps nobody from changing it afterwards.
    await browser.send('PUT', `${path}/day-plan`, day(4e12, 20));
    harness.clock = new Date(harness.clock.getTime() + 60_000);
    await browser.send('PUT', `${path}/day-plan`, day(harness.clock.getTime(), 15));
    expect((await arranged(browser, path)).day?.plan.minutes).toBe(15);
    await harness.orm.em
      .fork()
      .execute(`update setting set value = jsonb_set(value, '{changedAt}', '4e12') where name = 'day-plan'`);
    await browser.send('PUT', `${path}/day-plan`, day(harness.clock.getTime(), 18));
    expect((await arranged(browser, path)).day?.plan.minutes).toBe(18);
    const bad = await browser.send('PUT', `${path}/day-plan`, { ...DAY, date: 'today' });
    expect([bad.status, await bad.text()]).toEqual([400, expect.stringContaining('date') as string]);
  });

  it('names an erased child nowhere any more', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const [odo = '', ivo = ''] = [children.get('Odo'), children.get('Ivo')];
    await browser.send('PUT', `${path}/day-plan`, { ...DAY, plan: { ...DAY.plan, swapped: [[odo, ivo]] } });
    const away = { day: 3, children: [odo, ivo] };
    await browser.send('PUT', `${path}/week-settings`, { ...WEEK, settings: { ...WEEK.settings, group: 3, away } });
    expect((await browser.send('DELETE', `${path}/children/${odo}`, {})).status).toBe(200);
    const { day, week } = await arranged(browser, path);
    // A page from before there was a choice of days sends none: Mondays to Fridays.
    const weekdays = [1, 2, 3, 4, 5];
    // It named one day and its children too.
    const left = { ...WEEK.settings, group: 3, weekdays, away: [{ child: ivo, from: 3, to: 3 }] };
    expect([day, week?.settings]).toEqual([null, left]);
  });
});
