import type { ChildRecord, ClassReadings, ClassView, LogPage } from '@vane/contract';
import { setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';

let harness: Harness;
let browser: Browser;
beforeEach(async () => {
  harness = await startHarness();
  browser = harness.browser();
});
afterEach(() => harness.close());

async function begin() {
  const { path, children } = await setUp(browser);
  const ivo = children.get('Ivo') ?? '';
  const rows = [
    rowFor(ivo),
    rowFor(ivo, {
      response_id: 'r2',
      fact: '3+4',
      kind: 'add',
      shown_at: '2026-11-24T08:30:00.000Z',
      given: '8',
      outcome: 'wrong',
      exposure_ms: null,
      flags: ['blurred'],
    }),
    rowFor(ivo, {
      response_id: 'r3',
      fact: 'ways:4',
      kind: 'ways',
      given: '1+3',
      shown_at: '2026-11-25T08:31:00.000Z',
      exposure_ms: null,
    }),
  ];
  await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses: rows });
  const log = async (query = ''): Promise<LogPage> =>
    (await (await browser.get(`${path}/log${query}`)).json()) as LogPage;
  const correct = (body: object): Promise<Response> => browser.send('POST', `${path}/corrections`, body);
  const one = async (id: string) => (await log()).rows.find((r) => r.response_id === id);
  /** When the class says that it was asked last: each child, and each fact of theirs. */
  const lastAsked = async () => {
    const view = (await (await browser.get(path)).json()) as ClassView;
    const { asked } = (await (await browser.get(`${path}/readings`)).json()) as ClassReadings;
    return [view.children.find(({ id }) => id === ivo)?.lastAskedAt ?? null, asked.length === 0 ? null : asked];
  };
  return { path, children, ivo, log, correct, one, lastAsked };
}

describe('the log', () => {
  it('is narrowed by child, fact, day, routine and what is remarkable', async () => {
    const { children, ivo, log, correct } = await begin();
    const ids = async (query: string) => (await log(query)).rows.map((r) => r.response_id);
    expect(await ids('')).toEqual(['r3', 'r1', 'r2']);
    expect(await ids(`?child=${ivo}&from=2026-11-25`)).toEqual(['r3', 'r1']);
    expect(await ids('?to=2026-11-24')).toEqual(['r2']);
    expect(await ids('?fact=show')).toEqual(['r1']);
    expect(await ids('?fact=%25')).toEqual([]);
    expect(await ids('?routine=flash-and-say')).toHaveLength(3);
    expect(await ids('?routine=sums')).toEqual([]);
    expect([await ids('?only=flagged'), await ids('?only=wrong'), await ids('?only=void')]).toEqual([
      ['r2'],
      ['r2'],
      [],
    ]);
    expect(await ids(`?child=${[...children.values()].find((id) => id !== ivo)}`)).toEqual([]);
    await correct({ responses: ['r1'], change: { what: 'void', reason: 'bell rang' } });
    expect(await ids('?only=corrected')).toEqual(['r1']);
    expect((await log('?fact=show')).total).toBe(1);
  });

  it('says what is wrong with a question it cannot answer', async () => {
    const { path } = await begin();
    const answer = await browser.get(`${path}/log?from=yesterday`);
    expect([answer.status, await answer.text()]).toEqual([400, expect.stringContaining('from')]);
  });
});

describe('corrections', () => {
  it('of a whole sitting are a few statements, and told of with it or not at all', async () => {
    const { path, ivo, correct, log } = await begin();
    const rows = Array.from({ length: 40 }, (_, i) => rowFor(ivo, { response_id: `many-${i}`, sitting: 'long' }));
    await browser.send('POST', `${path}/record`, { sittings: [{ ...SITTING, id: 'long' }], responses: rows });
    const before = harness.statements.length;
    const change = { what: 'void', reason: 'bell rang' };
    expect(await (await correct({ sitting: 'long', change })).json()).toEqual({ changed: 40 });
    const own = harness.statements.slice(before);
    const from = own.findIndex((sql) => /begin/i.test(sql));
    const asked = own.slice(from, own.findIndex((sql) => /commit/i.test(sql)) + 1);
    expect(asked.filter((sql) => sql.includes('into "audit"'))).toHaveLength(1);
    expect(asked.length).toBeLessThanOrEqual(10);
    expect((await log('?only=void')).total).toBe(40);
  });

  it('keep the original, say who and when, and can be taken back', async () => {
    const { one, correct } = await begin();
    expect(await (await correct({ responses: ['r2'], change: { what: 'answer', given: '7' } })).json()).toEqual({
      changed: 1,
    });
    expect(await one('r2')).toMatchObject({
      given: '7',
      outcome: 'correct',
      corrected: { by: expect.any(String) as string, was: 'Ivo: 8' },
    });
    await correct({ responses: ['r2'], change: { what: 'void', reason: 'noise' } });
    expect(await one('r2')).toMatchObject({ given: '7', void: 'noise' });
    await correct({ responses: ['r2'], change: { what: 'original' } });
    expect(await one('r2')).toMatchObject({ given: '8', outcome: 'wrong', void: '' });
    expect(await (await correct({ responses: ['r2'], change: { what: 'original' } })).json()).toEqual({ changed: 0 });
  });

  it('a session that was void as a whole counts again as it did before, and meanwhile is as if it had not been', async () => {
    const { one, correct, lastAsked } = await begin();
    const sitting = SITTING.id;
    await correct({ responses: ['r2'], change: { what: 'void', reason: 'noise' } });
    const before = await lastAsked();
    const reason = 'session spoiled';
    expect(await (await correct({ sitting, change: { what: 'void', reason } })).json()).toMatchObject({ changed: 3 });
    expect((await one('r2'))?.void).toBe(reason);
    expect(await lastAsked()).toEqual([null, null]);
    await correct({ sitting, change: { what: 'valid', reason } });
    expect([(await one('r1'))?.void, (await one('r2'))?.void]).toEqual(['', 'noise']);
    expect(await lastAsked()).toEqual(before);
    // What is not void for that reason stays as it is.
    expect(await (await correct({ sitting, change: { what: 'valid', reason } })).json()).toEqual({ changed: 0 });
  });

  it('a slip of the pen is no wrong number', async () => {
    const { one, correct } = await begin();
    await correct({ responses: ['r2'], change: { what: 'slip' } });
    expect(await one('r2')).toMatchObject({ given: '7', outcome: 'correct', observed: ':writing-slip' });
  });

  it('give an answer to the child who gave it, and only to one of the class', async () => {
    const { path, children, ivo, one, correct } = await begin();
    const other = [...children].find(([, id]) => id !== ivo)!;
    await correct({ responses: ['r1', 'r2'], change: { what: 'child', child: other[1] } });
    expect((await one('r1'))?.nickname).toBe(other[0]);
    const record = (await (await browser.get(`${path}/children/${other[1]}`)).json()) as ChildRecord;
    expect(record.responses.map((r) => r.response_id).sort()).toEqual(['r1', 'r2']);
    expect(
      (await correct({ responses: ['r1'], change: { what: 'child', child: '0197a000-0000-7000-8000-0000000000ff' } }))
        .status,
    ).toBe(404);
  });

  it('void a spoiled sitting at once, and move the readings', async () => {
    const { path, log, correct } = await begin();
    const answers = async () =>
      ((await (await browser.get(`${path}/readings`)).json()) as ClassReadings).readings.map((r) => [
        r.fact,
        r.responses,
      ]);
    expect(await answers()).toContainEqual(['show:7:frame-fives', 1]);
    expect(await (await correct({ sitting: 's1', change: { what: 'void', reason: 'fire drill' } })).json()).toEqual({
      changed: 3,
    });
    expect((await log('?only=void')).total).toBe(3);
    expect(await answers()).toContainEqual(['show:7:frame-fives', 0]);
  });

  it('are refused where they make no sense', async () => {
    const { correct } = await begin();
    expect((await correct({ responses: ['r3'], change: { what: 'answer', given: '7' } })).status).toBe(422);
    expect((await correct({ responses: ['nowhere'], change: { what: 'slip' } })).status).toBe(404);
    expect((await correct({ responses: ['r1'], sitting: 's1', change: { what: 'slip' } })).status).toBe(400);
    expect((await correct({ responses: ['r1'], change: { what: 'void', reason: ' ' } })).status).toBe(400);
  });
});
