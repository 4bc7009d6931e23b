import { classArchive, type ChildRecord, type ClassView } from '@vane/contract';
import type { AuditedAct } from '../db/auditedActs';
import { Audit, Child, ClassAdult } from '../db/entities';
import { SET_UP, setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';

let harness: Harness;
let browser: Browser;
let made: Awaited<ReturnType<typeof setUp>>;
let zadie: string;
beforeEach(async () => {
  harness = await startHarness();
  browser = harness.browser();
  made = await setUp(browser);
  zadie = made.children.get('Zadie') ?? '';
});
afterEach(() => harness.close());

const SUPPORT = { supports: ['pointing', 'no-flash'], words: 'number strip on the table' };
const json = async <T>(path: string): Promise<T> => (await (await browser.get(path)).json()) as T;
const change = (body: object) => browser.send('PUT', `${made.path}/children/${zadie}`, body);
const acts = async (what: AuditedAct): Promise<string[]> =>
  (await harness.orm.em.fork().find(Audit, { what })).map((one) => one.detail);

describe('adjustments for a child', () => {
  it('is kept with who said it and when, told to the class’s adults, and written down without its words', async () => {
    expect((await change({ support: SUPPORT })).status).toBe(204);
    const record = await json<ChildRecord>(`${made.path}/children/${zadie}`);
    expect(record.support).toMatchObject({ ...SUPPORT, madeAt: harness.clock.toISOString() });
    expect(record.support.by).not.toBe('');
    const view = await json<ClassView>(made.path);
    expect(view.children.find((c) => c.id === zadie)?.support).toEqual(SUPPORT.supports);
    expect(view.children.filter((c) => c.support.length > 0)).toHaveLength(1);
    expect(await acts('support changed')).toEqual(['']);
    // Its own adults are not written down for reading it.
    expect(await acts('support read')).toEqual([]);
    expect((await change({ support: { supports: [], words: '' } })).status).toBe(204);
    expect((await json<ChildRecord>(`${made.path}/children/${zadie}`)).support).toEqual({
      supports: [],
      words: '',
      by: '',
      madeAt: null,
    });
  });

  it('is refused where it is not known, twice the same or too long', async () => {
    for (const support of [
      { supports: ['diagnosis'], words: '' },
      { supports: ['larger', 'larger'], words: '' },
      { supports: [], words: 'x'.repeat(201) },
      { supports: [], words: '', because: 'an illness' },
    ])
      expect((await change({ support })).status).toBe(400);
  });

  it('read by a lead whose class it is not is written down, once a day', async () => {
    await change({ support: SUPPORT });
    await harness.orm.em.fork().nativeDelete(ClassAdult, { classId: made.classId });
    await browser.get(made.path);
    await browser.get(`${made.path}/children/${zadie}`);
    expect(await acts('support read')).toHaveLength(1);
    harness.clock = new Date(harness.clock.getTime() + 25 * 3_600_000);
    // A sign-in does not last that long.
    await browser.send('POST', '/api/sign-in', { email: SET_UP.email, password: SET_UP.password });
    await browser.get(made.path);
    expect(await acts('support read')).toHaveLength(2);
  });

  it('is in the child’s export and the class’s archive, comes back from that, and goes with the child', async () => {
    await change({ support: SUPPORT });
    await change({ door: 'Zadie knows the pairs of five.' });
    await browser.send('POST', `${made.path}/record`, { sittings: [SITTING], responses: [rowFor(zadie)] });
    const file = await json<{ support: object; door: string }>(`${made.path}/children/${zadie}/record.json`);
    expect(file).toMatchObject({ support: SUPPORT, door: 'Zadie knows the pairs of five.' });
    const archive = await (await browser.get(`${made.path}/archive.json`)).text();
    const kept = classArchive.parse(JSON.parse(archive)).children.find((one) => one.nickname === 'Zadie');
    expect(kept).toMatchObject({ support: SUPPORT, door: 'Zadie knows the pairs of five.' });
    await browser.send('DELETE', `${made.path}/children/${zadie}`, {});
    // The file makes the class again, with its adjustments.
    const back = await browser.send(
      'POST',
      '/api/school/archive?write=yes',
      archive.replaceAll(/"(response_id|id|sitting)": "/g, '$&x'),
    );
    expect(back.status).toBe(200);
    const [again] = await harness.orm.em.fork().find(Child, { nickname: 'Zadie' });
    expect(again).toMatchObject({ supports: SUPPORT.supports, supportWords: SUPPORT.words });
    await harness.orm.em.fork().nativeDelete(Child, { nickname: 'Zadie' });
    const left = JSON.stringify(
      await harness.orm.em
        .fork()
        .execute(`select to_jsonb(c) as row from child c union all select to_jsonb(a) from audit a`),
    );
    expect(left).not.toContain('number strip');
  });
});

describe('what is said at the door', () => {
  it('is kept until it is taken away', async () => {
    expect((await change({ door: 'Two kind sentences.' })).status).toBe(204);
    expect((await json<ChildRecord>(`${made.path}/children/${zadie}`)).door).toBe('Two kind sentences.');
    expect((await change({ door: '' })).status).toBe(204);
    expect((await json<ChildRecord>(`${made.path}/children/${zadie}`)).door).toBe('');
    expect((await change({ door: 'x'.repeat(401) })).status).toBe(400);
  });
});
