import { ROUTES, type AuditView, type Me } from '@vane/contract';
import { filledPath, setUp, SET_UP, startHarness, type Browser, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';
import { inviteLead, limitSchool, openSchool, schoolsHere, SchoolTrouble } from './schools';

let harness: Harness;
beforeEach(async () => {
  harness = await startHarness();
});
afterEach(() => harness.close());

const LEAD = { name: 'Lock keeper', email: 'Lock@Estuary.example' };
const SCHOOL = { name: 'Estuary Infants', timeZone: 'Australia/Sydney', lead: LEAD };
const open = (wish = SCHOOL) => openSchool(harness.orm.em.fork(), harness.clock, wish);
async function joined(token: string): Promise<Browser> {
  const browser = harness.browser('198.51.100.9');
  const password = 'gates-and-sluices-9';
  expect((await browser.send('POST', '/api/join', { token, name: LEAD.name, password })).status).toBe(201);
  return browser;
}

describe('two schools in one Vane', () => {
  it('are opened one beside the other; whoever signs in comes to their own', async () => {
    await setUp(harness.browser());
    const { token } = await open();
    const lead = await joined(token);
    const me = (await (await lead.get('/api/me')).json()) as Me;
    expect(me).toMatchObject({
      adult: { role: 'lead', email: 'lock@estuary.example' },
      school: { name: 'Estuary Infants', timeZone: 'Australia/Sydney' },
      classes: [],
    });
    const again = harness.browser();
    await again.send('POST', '/api/sign-in', { email: LEAD.email, password: 'gates-and-sluices-9' });
    expect(await (await again.get('/api/me')).json()).toMatchObject({ school: { name: 'Estuary Infants' } });
    const here = await schoolsHere(harness.orm.em.fork());
    expect(here.map(({ name, adults, classes, children }) => [name, adults, classes, children])).toEqual([
      ['Estuary Infants', 1, 0, 0],
      ['Saltmarsh Infants', 1, 1, 3],
    ]);
  });

  it('see nothing of one another, by any route', async () => {
    const own = harness.browser();
    const { classId, path, children } = await setUp(own);
    const odo = children.get('Odo') ?? '';
    await own.send('POST', `${path}/record`, { sittings: [SITTING], responses: [rowFor(odo)] });
    const lead = await joined((await open()).token);
    const places: Record<string, string> = { classId, childId: odo, id: classId, code: 'QRST23', form: 'json' };
    const ofClass = Object.keys(ROUTES).filter((name) => /\/(classes|school\/classes)\/:/.test(name));
    expect(ofClass.length).toBeGreaterThan(35);
    for (const name of ofClass) {
      const [method = '', route = ''] = name.split(' ');
      const path = filledPath(route, places, classId);
      const answer = await (method === 'GET' ? lead.get(path) : lead.send(method as 'POST', path, {}));
      // A bad body may be named before it is said that there is nothing to be changed.
      const refused = method !== 'GET' && route.startsWith('/school') ? [404, 400] : [404];
      expect([name, refused.includes(answer.status)]).toEqual([name, true]);
    }
    const said = async (route: string): Promise<string> => (await lead.get(`/api${route}`)).text();
    for (const route of ['/me', '/school', '/school/classes', '/school/audit', '/school/mail', '/school/imports'])
      expect([route, /Saltmarsh|Sandpiper|Odo|keeper@/i.test(await said(route))]).toEqual([route, false]);
    // And what is there is still there.
    expect((await own.get(`${path}/children/${odo}`)).status).toBe(200);
  });

  it('take no answer for the other’s child, under the same ids', async () => {
    const own = harness.browser();
    const { children } = await setUp(own);
    const lead = await joined((await open()).token);
    const made = (await (await lead.send('POST', '/api/school/classes', { name: 'Sandpiper' })).json()) as {
      id: string;
    };
    const path = `/api/classes/${made.id}`;
    const batch = { sittings: [SITTING], responses: [rowFor(children.get('Odo') ?? '')] };
    expect(await (await lead.send('POST', `${path}/record`, batch)).json()).toMatchObject({ accepted: [] });
    // The same nickname, the same ids: two records.
    await lead.send('POST', `${path}/children`, { nicknames: ['Odo'] });
    const view = (await (await lead.get(path)).json()) as { children: { id: string }[] };
    const theirs = { sittings: [SITTING], responses: [rowFor(view.children[0]?.id ?? '')] };
    expect(await (await lead.send('POST', `${path}/record`, theirs)).json()).toMatchObject({ accepted: ['r1'] });
  });

  it('one is not opened twice, nor for somebody who works at another; a lost link is made anew', async () => {
    const browser = harness.browser();
    await setUp(browser);
    const { schoolId, token } = await open();
    await expect(open()).rejects.toThrow(SchoolTrouble);
    const taken = { ...LEAD, email: SET_UP.email };
    await expect(open({ ...SCHOOL, name: 'Breakwater', lead: taken })).rejects.toThrow('already signs in');
    // Nothing of it stays.
    expect((await schoolsHere(harness.orm.em.fork())).map(({ name }) => name)).not.toContain('Breakwater');
    const fresh = await inviteLead(harness.orm.em.fork(), harness.clock, schoolId, LEAD);
    expect((await browser.get(`/api/join/${token}`)).status).toBe(410);
    expect((await browser.get(`/api/join/${fresh}`)).status).toBe(200);
    const nowhere = '0197a000-0000-7000-8000-00000000000f';
    await expect(inviteLead(harness.orm.em.fork(), harness.clock, nowhere, LEAD)).rejects.toThrow('There is no school');
  });

  it('whoever runs Vane says how many children a school may have, by whatever way they come; it goes on with those it has', async () => {
    const own = harness.browser();
    const { classId, path, children } = await setUp(own);
    const [school] = await schoolsHere(harness.orm.em.fork());
    const limit = (change: Parameters<typeof limitSchool>[3]) =>
      limitSchool(harness.orm.em.fork(), harness.clock, school?.id ?? '', change);
    await limit({ mostChildren: 4, replyTo: 'office@saltmarsh.example' });
    // What is not named stays.
    await limit({ replyTo: 'quay@saltmarsh.example' });
    expect((await schoolsHere(harness.orm.em.fork()))[0]).toMatchObject({
      mostChildren: 4,
      replyTo: 'quay@saltmarsh.example',
    });
    const add = (nicknames: string[]) => own.send('POST', `${path}/children`, { nicknames });
    const codeOf = async (answer: Response) => ((await answer.json()) as { code: string }).code;
    expect((await add(['Fenn', 'Pell'])).status).toBe(409);
    expect((await add(['Fenn'])).status).toBeLessThan(300);
    expect(await codeOf(await add(['Pell']))).toBe('school-full');
    const archive = await (await own.get(`${path}/archive.json`)).text();
    await own.send('PUT', `/api/school/classes/${classId}`, { name: 'Heron' });
    expect(await codeOf(await own.send('POST', '/api/school/archive?write=yes', archive))).toBe('school-full');
    const roster = await (await own.get('/api/school/roster.zip')).arrayBuffer();
    // A roster of those who are here adds nobody.
    expect((await own.send('POST', '/api/school/roster?write=yes', new Uint8Array(roster))).status).toBe(200);
    const odo = `${path}/children/${children.get('Odo') ?? ''}`;
    await own.send('PUT', odo, { archived: true });
    expect((await add(['Pell'])).status).toBeLessThan(300);
    expect(await codeOf(await own.send('PUT', odo, { archived: false }))).toBe('school-full');
    await limit({ mostChildren: null });
    expect((await own.send('PUT', odo, { archived: false })).status).toBe(204);
    // The school's lead sees what was done with it, and that it was none of its own.
    const acts = (await (await own.get('/api/school/audit')).json()) as AuditView[];
    expect(acts.filter(({ by }) => by === '').map(({ what, detail }) => [what, detail])).toEqual([
      ['limits changed', 'any number of children'],
      ['limits changed', 'replies to quay@saltmarsh.example'],
      ['limits changed', '4 children, replies to office@saltmarsh.example'],
    ]);
    await expect(limitSchool(harness.orm.em.fork(), harness.clock, classId, {})).rejects.toThrow('There is no school');
  });

  it('a school that waits for its lead is not taken over at the set-up page', async () => {
    await open();
    expect(await (await harness.browser().get('/api/door')).json()).toMatchObject({ needsSetUp: false });
    expect((await harness.browser().send('POST', '/api/set-up', SET_UP)).status).toBe(409);
  });
});
