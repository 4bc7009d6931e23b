import type { OverTime } from '@vane/contract';
import { MODEL_VERSION } from '@vane/core';
import { WeekReading } from '../db/entities';
import { setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';

let harness: Harness;
beforeEach(async () => {
  harness = await startHarness();
});
afterEach(() => harness.close());

async function judged(browser: Browser, path: string): Promise<OverTime> {
  for (let tries = 0; tries < 200; tries++) {
    const over = (await (await browser.get(`${path}/over-time`)).json()) as OverTime;
    if (over.pending === 0) return over;
    await new Promise((later) => setTimeout(later, 20));
  }
  throw new Error('the weeks are never judged');
}

describe('past weeks', () => {
  it('say where a child was; and what an older version of the judgement said of the same answers stays beside', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const odo = children.get('Odo') ?? '';
    const responses = [1, 2, 3].map((n) => rowFor(odo, { response_id: `r${n}`, kind: 'add', fact: '2+3', given: '5' }));
    await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses });
    const [week] = (await judged(browser, path)).weeks;
    expect(week).toMatchObject({ child: odo, older: null });
    const number = week?.workingNumber;
    expect(number).toBeGreaterThan(4);
    expect(['objects', 'picture', 'remembered', 'symbols']).toContain(week?.help);

    // As a Vane with another model had left it.
    const em = harness.orm.em.fork();
    const stored = await em.findOneOrFail(WeekReading, { childId: odo });
    stored.fingerprint = stored.fingerprint.replace(MODEL_VERSION, 'field-0');
    stored.workingNumber = 3;
    stored.words = { '2+3': 'knows' };
    await em.flush();
    const again = (await judged(browser, path)).weeks[0];
    expect(again?.workingNumber).toBe(number);
    expect(again?.older).toEqual({ modelVersion: 'field-0', workingNumber: 3, words: { '2+3': 'knows' } });

    // Another answer is no new version: what was said of other answers is forgotten.
    await browser.send('POST', `${path}/record`, {
      sittings: [],
      responses: [rowFor(odo, { response_id: 'r4', kind: 'add', fact: '2+3', given: '5' })],
    });
    expect((await judged(browser, path)).weeks[0]?.older).toBeNull();
  });

  it('from before places were kept are judged again', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    await browser.send('POST', `${path}/record`, {
      sittings: [SITTING],
      responses: [rowFor(children.get('Odo') ?? '')],
    });
    const { weeks } = await judged(browser, path);
    expect(weeks.map(({ help }) => help)).toEqual(['objects']);
    const em = harness.orm.em.fork();
    await em.nativeUpdate(WeekReading, {}, { help: null });
    expect((await judged(browser, path)).weeks).toEqual(weeks);
  });
});
