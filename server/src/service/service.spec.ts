import type { AuditView, Me, ServiceView } from '@vane/contract';
import { ROUTES } from '@vane/contract';
import { SET_UP, setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { newServiceKey } from './serviceKeys';

let harness: Harness;
let lead: Browser;
let made: Awaited<ReturnType<typeof setUp>>;
beforeEach(async () => {
  harness = await startHarness({}, 2);
  lead = harness.browser();
  made = await setUp(lead);
});
afterEach(() => harness.close());

const key = (): Promise<string> => newServiceKey(harness.shards.first.orm.em.fork(), harness.clock);
async function service(): Promise<Browser> {
  const browser = harness.browser('198.51.100.7');
  expect((await browser.send('POST', '/api/service/open', { token: await key() })).status).toBe(204);
  return browser;
}
const view = async (browser: Browser): Promise<ServiceView> =>
  (await (await browser.get('/api/service/schools')).json()) as ServiceView;
const WISH = {
  name: 'Estuary Infants',
  timeZone: 'Australia/Sydney',
  shard: 'second',
  lead: { name: 'Lock keeper', email: 'lock@estuary.example' },
};
const tokenIn = async (answer: Response): Promise<string> =>
  ((await answer.json()) as { link: string }).link.split('/').at(-1) ?? '';

describe('whoever runs Vane', () => {
  it('comes in by a link for twelve hours, and nobody else does, their own sign-in or not', async () => {
    const token = await key();
    for (const name of Object.keys(ROUTES).filter((one) => one.includes('/service/schools'))) {
      const [method = '', path = ''] = name.split(' ');
      const full = `/api${path.replace(':id', made.classId)}`;
      for (const browser of [harness.browser(), lead])
        expect(
          (method === 'GET' ? await browser.get(full) : await browser.send(method as 'PUT', full, {})).status,
        ).toBe(401);
    }
    expect((await lead.send('POST', '/api/service/open', { token: `${token.slice(1)}A` })).status).toBe(401);
    const own = harness.browser();
    await own.send('POST', '/api/service/open', { token });
    expect((await view(own)).schools).toHaveLength(1);
    // Nothing of a school's own is open to it.
    for (const path of ['/api/me', '/api/school', made.path]) expect((await own.get(path)).status).toBe(401);
    harness.clock = new Date(harness.clock.getTime() + 12 * 3_600_000 + 1);
    expect((await own.get('/api/service/schools')).status).toBe(401);
  });

  it('sees how many there are and no child, opens a school in any database, and invites its lead once more', async () => {
    const own = await service();
    const opened = await own.send('POST', '/api/service/schools', WISH);
    expect(opened.status).toBe(201);
    const token = await tokenIn(opened);
    const { schools, shards } = await view(own);
    expect(shards).toEqual(['first', 'second']);
    expect(
      schools.map(({ name, shard, adults, classes, children }) => [name, shard, adults, classes, children]),
    ).toEqual([
      ['Estuary Infants', 'second', 0, 0, 0],
      [SET_UP.school, 'first', 1, 1, 3],
    ]);
    expect(JSON.stringify(schools)).not.toMatch(/Odo|keeper/);
    for (const [wish, code] of [
      [WISH, 'name-taken'],
      [{ ...WISH, name: 'Breakwater', lead: { ...WISH.lead, email: SET_UP.email } }, 'email-taken'],
      [{ ...WISH, name: 'Breakwater', shard: 'third' }, 'not-found'],
    ] as const)
      expect(await (await own.send('POST', '/api/service/schools', wish)).json()).toMatchObject({ code });
    const again = `/api/service/schools/${schools[0]?.id ?? ''}/invites`;
    const fresh = await tokenIn(await own.send('POST', again, WISH.lead));
    expect((await lead.get(`/api/join/${token}`)).status).toBe(410);
    const theirs = harness.browser();
    const join = { token: fresh, name: 'Lock keeper', password: 'gates-and-sluices-9' };
    expect((await theirs.send('POST', '/api/join', join)).status).toBe(201);
    expect((await (await theirs.get('/api/me')).json()) as Me).toMatchObject({
      school: { timeZone: 'Australia/Sydney' },
    });
    // The school's lead sees what was done with it.
    const acts = (await (await theirs.get('/api/school/audit')).json()) as AuditView[];
    expect(acts.map(({ by, what }) => [by, what])).toEqual(
      expect.arrayContaining([
        ['', 'school opened'],
        ['', 'adult invited'],
      ]),
    );
  });

  it('says how many children a school may have, by whatever way they come; the school goes on with those it has', async () => {
    const own = await service();
    const [school] = (await view(own)).schools;
    const limits = `/api/service/schools/${school?.id ?? ''}`;
    expect((await own.send('PUT', limits, { mostChildren: 4, replyTo: 'office@saltmarsh.example' })).status).toBe(204);
    expect((await view(own)).schools[0]).toMatchObject({ mostChildren: 4, replyTo: 'office@saltmarsh.example' });
    const add = (nicknames: string[]) => lead.send('POST', `${made.path}/children`, { nicknames });
    expect((await add(['Fenn', 'Pell'])).status).toBe(409);
    const codeOf = async (answer: Response) => ((await answer.json()) as { code: string }).code;
    expect((await add(['Fenn'])).status).toBeLessThan(300);
    expect(await codeOf(await add(['Pell']))).toBe('school-full');
    const archive = await (await lead.get(`${made.path}/archive.json`)).text();
    await lead.send('PUT', `/api/school/classes/${made.classId}`, { name: 'Heron' });
    expect(await codeOf(await lead.send('POST', '/api/school/archive?write=yes', archive))).toBe('school-full');
    const roster = await (await lead.get('/api/school/roster.zip')).arrayBuffer();
    // A roster of those who are here adds nobody.
    expect((await lead.send('POST', '/api/school/roster?write=yes', new Uint8Array(roster))).status).toBe(200);
    const odo = `${made.path}/children/${made.children.get('Odo') ?? ''}`;
    await lead.send('PUT', odo, { archived: true });
    expect((await add(['Pell'])).status).toBeLessThan(300);
    expect(await codeOf(await lead.send('PUT', odo, { archived: false }))).toBe('school-full');
    expect((await own.send('PUT', limits, { mostChildren: null, replyTo: null })).status).toBe(204);
    expect((await lead.send('PUT', odo, { archived: false })).status).toBe(204);
    expect((await own.send('PUT', limits, { mostChildren: 0, replyTo: null })).status).toBe(400);
  });
});
