import {
  invited as invitedBy,
  linkIn,
  SET_UP,
  setUp,
  startHarness,
  type Browser,
  type Harness,
} from '../testing/harness';

let harness: Harness;
beforeEach(async () => {
  harness = await startHarness();
});
afterEach(() => harness.close());

const signIn = (
  browser: Browser,
  email: string = SET_UP.email,
  password: string = SET_UP.password,
): Promise<Response> => browser.send('POST', '/api/sign-in', { email, password });
const later = (ms: number): void => void (harness.clock = new Date(harness.clock.getTime() + ms));
const codeOf = async (answer: Response): Promise<string> => ((await answer.json()) as { code: string }).code;

const newestLink = (): string => linkIn(harness);
const invited = (lead: Browser, wish: object = {}): Promise<Browser> => invitedBy(harness, lead, wish);

describe('adults', () => {
  it('join by a link that works once and in time, with the classes given to them and no others', async () => {
    const lead = harness.browser();
    const { classId } = await setUp(lead);
    await lead.send('POST', '/api/school/classes', { name: 'Heron' });
    const mate = await invited(lead, { classes: [classId] });
    const me = (await (await mate.get('/api/me')).json()) as { adult: { role: string }; classes: { name: string }[] };
    expect([me.adult.role, me.classes.map((c) => c.name)]).toEqual(['teacher', ['Sandpiper']]);
    expect((await mate.get('/api/school')).status).toBe(403);
    const token = newestLink();
    expect(
      await codeOf(await mate.send('POST', '/api/join', { token, name: 'Again', password: 'gulls-over-the-quay' })),
    ).toBe('link-used');
    await lead.send('POST', '/api/school/invites', {
      name: 'Late',
      email: 'late@saltmarsh.example',
      role: 'teacher',
      classes: [],
    });
    await harness.posted(2);
    expect((await harness.browser().get(`/api/join/${newestLink()}`)).status).toBe(200);
    later(8 * 86_400_000);
    expect((await harness.browser().get(`/api/join/${newestLink()}`)).status).toBe(410);
  });

  it('are given other classes and other tasks, and go; a lead always stays', async () => {
    const lead = harness.browser();
    const { classId } = await setUp(lead);
    const mate = await invited(lead);
    const school = async () =>
      (await (await lead.get('/api/school')).json()) as {
        adults: { id: string; name: string; role: string }[];
        invites: unknown[];
      };
    const { adults, invites } = await school();
    const idOf = (name: string): string => adults.find((a) => a.name === name)?.id ?? '';
    expect([adults.map((a) => a.role), invites]).toEqual([['lead', 'teacher'], []]);
    expect((await lead.send('PUT', `/api/school/adults/${idOf('Mate')}`, { classes: [classId] })).status).toBe(204);
    expect((await mate.get(`/api/classes/${classId}`)).status).toBe(200);
    expect(await codeOf(await lead.send('PUT', `/api/school/adults/${idOf(SET_UP.name)}`, { role: 'teacher' }))).toBe(
      'last-lead',
    );
    expect(await codeOf(await lead.send('DELETE', `/api/school/adults/${idOf(SET_UP.name)}`, {}))).toBe('last-lead');
    expect((await lead.get('/api/me')).status).toBe(200);
    expect((await lead.send('DELETE', `/api/school/adults/${idOf('Mate')}`, {})).status).toBe(204);
    expect((await mate.get('/api/me')).status).toBe(401);
    const audit = (await (await lead.get('/api/school/audit')).json()) as { what: string; by: string }[];
    expect(audit.map((a) => a.what)).toEqual(['adult removed', 'adult changed', 'adult joined', 'adult invited']);
  });

  it('get a new password by letter; the answer tells nobody who is here, and old sign-ins end', async () => {
    const browser = harness.browser();
    await setUp(browser);
    const ask = async (email: string): Promise<number> => {
      const { status } = await harness.browser().send('POST', '/api/forgotten', { email });
      return status;
    };
    expect([await ask('nobody@saltmarsh.example'), await ask(SET_UP.email)]).toEqual([204, 204]);
    // The answer does not wait for the letter; whoever is not here gets none, though it was asked for first.
    expect((await harness.posted(1)).map((l) => l.to)).toEqual([SET_UP.email]);
    const token = newestLink();
    expect((await harness.browser().send('POST', '/api/reset', { token, password: 'short' })).status).toBe(400);
    expect(
      (await harness.browser().send('POST', '/api/reset', { token, password: 'a-new-tide-every-day' })).status,
    ).toBe(204);
    expect((await harness.browser().send('POST', '/api/reset', { token, password: 'another-one-still' })).status).toBe(
      410,
    );
    expect((await browser.get('/api/me')).status).toBe(401);
    expect((await signIn(browser, SET_UP.email, 'a-new-tide-every-day')).status).toBe(200);
  });

  it('change their password, and sign out everywhere', async () => {
    const [here, there] = [harness.browser(), harness.browser()];
    await setUp(here);
    await signIn(there);
    expect(
      await codeOf(await here.send('PUT', '/api/me/password', { old: 'wrong', password: 'a-new-tide-every-day' })),
    ).toBe('wrong-password');
    expect(
      (await here.send('PUT', '/api/me/password', { old: SET_UP.password, password: 'a-new-tide-every-day' })).status,
    ).toBe(204);
    expect([(await here.get('/api/me')).status, (await there.get('/api/me')).status]).toEqual([200, 401]);
    await signIn(there, SET_UP.email, 'a-new-tide-every-day');
    await here.send('POST', '/api/me/sign-out-everywhere', {});
    expect([(await here.get('/api/me')).status, (await there.get('/api/me')).status]).toEqual([401, 401]);
  });

  it('lock a device: it takes answers in and gives nothing out until the pin is right; five wrong ones sign it out', async () => {
    const browser = harness.browser();
    const { path } = await setUp(browser);
    expect(await (await browser.send('POST', '/api/me/lock', {})).json()).toEqual({ locked: false });
    expect((await browser.send('PUT', '/api/me/pin', { pin: '12' })).status).toBe(400);
    await browser.send('PUT', '/api/me/pin', { pin: '4711' });
    await browser.send('POST', '/api/me/lock', {});
    for (const closed of [path, `${path}/log`, `${path}/readings`, '/api/school'])
      expect([closed, (await browser.get(closed)).status]).toEqual([closed, 423]);
    expect((await browser.send('PUT', '/api/me/pin', { pin: null })).status).toBe(423);
    expect((await browser.send('POST', `${path}/record`, { sittings: [], responses: [] })).status).toBe(200);
    expect(((await (await browser.get('/api/me')).json()) as { locked: boolean }).locked).toBe(true);
    expect((await browser.send('POST', '/api/me/unlock', { pin: '1111' })).status).toBe(401);
    expect((await browser.send('POST', '/api/me/unlock', { pin: '4711' })).status).toBe(204);
    expect((await browser.get(path)).status).toBe(200);
    await browser.send('POST', '/api/me/lock', {});
    for (let i = 0; i < 5; i++) await browser.send('POST', '/api/me/unlock', { pin: '1111' });
    expect(await codeOf(await browser.get('/api/me'))).toBe('not-signed-in');
  });

  it('are told whose records are due to be deleted', async () => {
    const lead = harness.browser();
    const { path, children } = await setUp(lead);
    await lead.send('PUT', `${path}/children/${children.get('Odo')}`, { archived: true });
    const due = async () =>
      ((await (await lead.get('/api/school')).json()) as { due: { nickname: string }[] }).due.map((d) => d.nickname);
    expect(await due()).toEqual([]);
    later(40 * 86_400_000);
    await signIn(lead);
    expect(await due()).toEqual([]);
    await lead.send('PUT', '/api/school/keep', { keepMonths: 1 });
    expect(await due()).toEqual(['Odo']);
  });
});
