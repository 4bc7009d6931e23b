import { loadDemo } from '../demo/load';
import { isDemo } from '../db/demoSchool';
import { DEMO_SIGN_IN } from '../demo/names';
import { newSetUpCode, setUpCodeAtStart } from '../school/setUpCode';
import { SET_UP, setUp, startHarness, type Browser, type Harness } from '../testing/harness';

/** Who gets in, and what they may read: what an audit from outside found. */
let harness: Harness;
beforeEach(async () => {
  harness = await startHarness();
});
afterEach(() => harness.close());

const json = async <T>(answer: Response): Promise<T> => (await answer.json()) as T;

/** A second school in the same database, with its lead signed in. */
async function otherSchool(): Promise<{ browser: Browser; schoolId: string }> {
  const em = harness.orm.em.fork();
  const rows = await em.execute<{ hash: string }[]>('select password_hash as hash from adult limit 1');
  const hash = rows[0]?.hash;
  const schoolId = '0197b000-0000-7000-8000-00000000000b';
  await em.execute(`insert into school (id, name, created_at) values (?, 'Elsewhere', now())`, [schoolId]);
  await em.execute(
    `insert into adult (school_id, id, email, name, role, password_hash, created_at) values (?, ?, 'lead@elsewhere.example', 'Other lead', 'lead', ?, now())`,
    [schoolId, '0197b000-0000-7000-8000-00000000000c', hash],
  );
  const browser = harness.browser();
  const answer = await browser.send('POST', '/api/sign-in', {
    email: 'lead@elsewhere.example',
    password: SET_UP.password,
  });
  expect(answer.status).toBe(200);
  return { browser, schoolId };
}

describe('letters', () => {
  const invite = { name: 'Mate', email: 'mate@harbour.example', role: 'teacher', classes: [] };
  const read = async (browser: Browser): Promise<string> => (await browser.get('/api/school/mail')).text();

  it('of a school are read there alone, also by a school that once invited the same address', async () => {
    const here = harness.browser();
    await setUp(here);
    const { browser: there } = await otherSchool();
    await there.send('POST', '/api/school/invites', invite);
    await here.send('POST', '/api/school/invites', invite);
    expect(JSON.parse(await read(here))).toMatchObject([{ to: invite.email, subject: 'Vane at Saltmarsh Infants' }]);
    expect(JSON.parse(await read(there))).toMatchObject([{ to: invite.email, subject: 'Vane at Elsewhere' }]);
  });

  it('to a new password are shown on no page, to no school', async () => {
    const here = harness.browser();
    await setUp(here);
    await here.send('POST', '/api/forgotten', { email: SET_UP.email });
    expect(await harness.posted(1)).toHaveLength(1);
    expect(harness.letters.map(({ to, secret }) => [to, secret])).toEqual([[SET_UP.email, true]]);
    expect(await read(here)).not.toContain('reset');
  });

  it('to a new password stay good when somebody else asks for one more, and end with the first that is used', async () => {
    const here = harness.browser();
    await setUp(here);
    for (const browser of [here, harness.browser()])
      await browser.send('POST', '/api/forgotten', { email: SET_UP.email });
    const tokens = (await harness.posted(2)).map(({ text }) => /reset\/([\w-]+)/.exec(text)![1]!);
    const reset = (token: string) =>
      harness.browser().send('POST', '/api/reset', { token, password: 'other-boats-other-ropes' });
    expect((await reset(tokens[0]!)).status).toBe(204);
    expect((await reset(tokens[1]!)).status).toBe(410);
  });

  it('to a new password open nothing once the password was changed', async () => {
    const here = harness.browser();
    await setUp(here);
    await here.send('POST', '/api/forgotten', { email: SET_UP.email });
    expect(await harness.posted(1)).toHaveLength(1);
    const token = /reset\/([\w-]+)/.exec(harness.letters[0]!.text)![1]!;
    const password = 'other-boats-other-ropes';
    expect((await here.send('PUT', '/api/me/password', { old: SET_UP.password, password })).status).toBe(204);
    const late = await harness.browser().send('POST', '/api/reset', { token, password: 'taken-by-the-letter' });
    expect(late.status).toBe(410);
  });
});

describe('the demo', () => {
  const door = async (): Promise<object> => json(await harness.browser().get('/api/door'));
  const demoSignIn = (): Promise<Response> => harness.browser().send('POST', '/api/sign-in', DEMO_SIGN_IN);

  it('is never loaded beside a school, whose door knows nothing of it', async () => {
    await setUp(harness.browser());
    expect(await loadDemo(harness.orm.em.fork(), harness.clock, 1)).toBe(false);
    expect(await door()).toEqual({ needsSetUp: false, demo: null });
    expect((await harness.orm.em.fork().execute('select id from school')).length).toBe(1);
  });

  it('makes way for a school of one’s own, with everything in it', async () => {
    expect(await loadDemo(harness.orm.em.fork(), harness.clock, 1)).toBe(true);
    expect(await door()).toMatchObject({ demo: DEMO_SIGN_IN });
    expect((await demoSignIn()).status).toBe(200);
    const own = harness.browser();
    expect((await own.send('POST', '/api/set-up', { ...SET_UP, email: 'mine@harbour.example' })).status).toBe(201);
    const em = harness.orm.em.fork();
    expect(await em.execute('select name from school')).toEqual([{ name: SET_UP.school }]);
    expect(await em.execute('select count(*)::int as n from response')).toEqual([{ n: 0 }]);
    expect((await demoSignIn()).status).toBe(401);
    // Only once: the school is nobody's demo.
    expect((await harness.browser().send('POST', '/api/set-up', SET_UP)).status).toBe(409);
  });

  it('that an earlier Vane put beside a school lets nobody in by the password that everybody knows', async () => {
    await loadDemo(harness.orm.em.fork(), harness.clock, 1);
    const em = harness.orm.em.fork();
    await em.execute(`insert into school (id, name, created_at) values (?, 'Real', now())`, [
      '0197b000-0000-7000-8000-00000000000d',
    ]);
    expect(await isDemo(em)).toBe(false);
    expect((await demoSignIn()).status).toBe(401);
    expect(await door()).toMatchObject({ demo: null });
  });
});

describe('guessing a pin', () => {
  it('is over after five tries, however many come at once', async () => {
    const browser = harness.browser();
    await setUp(browser);
    await browser.send('PUT', '/api/me/pin', { pin: '4711' });
    await browser.send('POST', '/api/me/lock', {});
    const tries = Array.from({ length: 60 }, (_, i) =>
      browser.send('POST', '/api/me/unlock', { pin: String(1000 + i) }),
    );
    const codes = await Promise.all(tries.map(async (one) => (await json<{ code: string }>(await one)).code));
    expect(codes.filter((code) => code === 'wrong-pin').length).toBeLessThanOrEqual(5);
    expect((await browser.send('POST', '/api/me/unlock', { pin: '4711' })).status).toBe(401);
  });

  it('is needed to take the pin away', async () => {
    const browser = harness.browser();
    await setUp(browser);
    expect((await browser.send('PUT', '/api/me/pin', { pin: '4711' })).status).toBe(204);
    expect((await browser.send('PUT', '/api/me/pin', { pin: null })).status).toBe(401);
    expect((await browser.send('PUT', '/api/me/pin', { pin: '1234', old: '0000' })).status).toBe(401);
    expect((await browser.send('PUT', '/api/me/pin', { pin: null, old: '4711' })).status).toBe(204);
  });
});

describe('a device with a pin', () => {
  const later = (minutes: number): void => void (harness.clock = new Date(harness.clock.getTime() + minutes * 60_000));
  const codeOf = async (answer: Response): Promise<string> => (await json<{ code: string }>(answer)).code;

  it('is locked by the server after ten minutes in which nobody did anything, whatever its pages ask by themselves', async () => {
    const browser = harness.browser();
    const { path } = await setUp(browser);
    later(30);
    expect((await browser.get(path)).status).toBe(200);
    await browser.send('PUT', '/api/me/pin', { pin: '4711' });
    for (const minutes of [6, 6]) {
      later(minutes);
      expect((await browser.send('POST', '/api/me/active', {})).status).toBe(204);
    }
    for (let minutes = 0; minutes < 10; minutes += 2) {
      later(2);
      await browser.send('POST', `${path}/record`, { sittings: [], responses: [] });
    }
    expect(await codeOf(await browser.get(path))).toBe('locked');
    expect(await json(await browser.get('/api/me'))).toMatchObject({ locked: true });
    // Answers that wait come in all the same, and being there does not open it.
    expect((await browser.send('POST', `${path}/record`, { sittings: [], responses: [] })).status).toBe(200);
    expect(await codeOf(await browser.send('POST', '/api/me/active', {}))).toBe('locked');
    expect((await browser.send('POST', '/api/me/unlock', { pin: '4711' })).status).toBe(204);
    expect((await browser.get(path)).status).toBe(200);
  });
});

describe('setting up', () => {
  const set = (code: string) => harness.browser().send('POST', '/api/set-up', { ...SET_UP, code });

  it('asks for the code that the window shows, however it is typed, and guesses are few', async () => {
    expect((await set('')).status).toBe(401);
    for (let i = 0; i < 9; i++) expect((await set(`GUESS${i}`)).status).toBe(401);
    expect((await set(SET_UP.code)).status).toBe(429);
    expect(await json(await harness.browser().get('/api/door'))).toMatchObject({ needsSetUp: true });
    const elsewhere = harness.browser('198.51.100.7');
    const typed = { ...SET_UP, code: ` ${SET_UP.code.toLowerCase().replace('2', '-2')} ` };
    expect((await elsewhere.send('POST', '/api/set-up', typed)).status).toBe(201);
    expect(await harness.orm.em.fork().execute('select * from set_up_code')).toEqual([]);
  });

  it('has one code for all servers, which each start of the only one makes anew', async () => {
    const em = harness.orm.em.fork();
    const shown = (alone: boolean, given?: string) => setUpCodeAtStart(em.fork(), harness.clock, { given, alone });
    expect(await shown(false)).toBeNull();
    const [first, second] = [(await shown(true)) ?? '', (await newSetUpCode(em.fork(), harness.clock)) ?? ''];
    expect(first).toMatch(/^[A-HJKMNP-Z2-9]{10}$/);
    expect((await set(first)).status).toBe(401);
    expect(await harness.orm.em.fork().execute('select id from set_up_code')).toEqual([{ id: 1 }]);
    expect((await set(second)).status).toBe(201);
    expect(await shown(true)).toBeNull();
  });

  it('in the place of the demo asks for it too', async () => {
    await loadDemo(harness.orm.em.fork(), harness.clock, 1);
    expect((await set('GUESS1')).status).toBe(401);
    expect((await set(SET_UP.code)).status).toBe(201);
  });
});

describe('over HTTPS', () => {
  it('the browser is told to stay there, and holds the cookie to this host', async () => {
    const safe = await startHarness({ secureCookie: true, proxied: true });
    try {
      const browser = safe.browser();
      const answer = await browser.send('POST', '/api/set-up', SET_UP);
      expect(answer.headers.get('strict-transport-security')).toMatch(/^max-age=\d{7,}/);
      for (const [i, name] of ['__Host-vane_sign_in', '__Host-vane_device'].entries())
        expect(answer.headers.getSetCookie()[i]).toMatch(new RegExp(`^${name}=.*Path=/.*Secure`));
      expect((await browser.get('/api/me')).status).toBe(200);
    } finally {
      await safe.close();
    }
  });
});
