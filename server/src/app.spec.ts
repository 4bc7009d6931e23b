import { ROUTES, type Problem } from '@vane/contract';
import { setUp, SET_UP, startHarness, type Harness } from './testing/harness';
import { rowFor, SITTING } from './testing/rows';

let harness: Harness;
beforeEach(async () => {
  harness = await startHarness();
});
afterEach(() => harness.close());

const problem = async (answer: Response): Promise<Problem> => (await answer.json()) as Problem;

describe('the door', () => {
  it('answers health with the state of the database, and says when it is gone', async () => {
    const up = await harness.browser().get('/api/health');
    expect(up.status).toBe(200);
    expect(await up.json()).toMatchObject({ status: 'ok', database: 'up', version: 'test' });
  });

  it('sets up once, signs in, and forgets on signing out', async () => {
    const browser = harness.browser();
    expect(await (await browser.get('/api/door')).json()).toEqual({ needsSetUp: true, demo: null });
    const made = await browser.send('POST', '/api/set-up', SET_UP);
    expect(made.status).toBe(201);
    expect(made.headers.get('set-cookie')).toMatch(/HttpOnly; SameSite=Strict/);
    expect(await (await browser.get('/api/me')).json()).toMatchObject({
      school: { name: 'Saltmarsh Infants', demo: false },
      classes: [{ name: 'Sandpiper' }],
    });
    expect(
      (await problem(await harness.browser().send('POST', '/api/set-up', { ...SET_UP, email: 'x@y.example' }))).code,
    ).toBe('set-up-done');

    await browser.send('POST', '/api/sign-out', {});
    expect((await browser.get('/api/me')).status).toBe(401);
    expect(
      (await browser.send('POST', '/api/sign-in', { email: ' Keeper@Saltmarsh.example', password: SET_UP.password }))
        .status,
    ).toBe(200);
    expect((await browser.get('/api/me')).status).toBe(200);
  });

  it('stores no password and no token as it is', async () => {
    await setUp(harness.browser());
    const em = harness.orm.em.fork();
    const [adult] = await em.execute<{ password_hash: string }[]>('select password_hash from adult');
    const [signIn] = await em.execute<{ token_hash: string }[]>('select token_hash from sign_in');
    expect(adult?.password_hash).toMatch(/^\$argon2id\$/);
    expect(signIn?.token_hash).toMatch(/^[0-9a-f]{64}$/);
  });

  it('says the same of a wrong password and an unknown adult', async () => {
    await setUp(harness.browser());
    const wrong = await problem(
      await harness.browser().send('POST', '/api/sign-in', { email: SET_UP.email, password: 'no' }),
    );
    const unknown = await problem(
      await harness.browser().send('POST', '/api/sign-in', { email: 'nobody@saltmarsh.example', password: 'no' }),
    );
    expect(wrong).toEqual(unknown);
    expect(wrong).toMatchObject({ status: 401, code: 'wrong-sign-in' });
  });

  it('lets a sign-in expire', async () => {
    const browser = harness.browser();
    await setUp(browser);
    harness.clock = new Date(harness.clock.getTime() + 15 * 3_600_000);
    expect((await problem(await browser.get('/api/me'))).code).toBe('not-signed-in');
  });
});

describe('every request', () => {
  it('goes by the table of routes, and every route of the table is served', () => {
    const served = harness.app.routes
      .filter(({ method, path }) => method !== 'ALL' && path.startsWith('/api/'))
      .map(({ method, path }) => `${method} ${path.slice('/api'.length)}`);
    expect([...new Set(served)].sort()).toEqual(Object.keys(ROUTES).sort());
  });

  it('carries a strict policy and answers problems as problem+json', async () => {
    const answer = await harness.browser().get('/api/nothing');
    expect(answer.status).toBe(404);
    expect(answer.headers.get('content-type')).toBe('application/problem+json');
    const policy = answer.headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'none'");
    expect(policy).toMatch(/script-src 'self';/);
    expect(policy).not.toMatch(/script-src[^;]*unsafe/);
    expect(answer.headers.get('x-content-type-options')).toBe('nosniff');
  });

  it('names the places of a bad body', async () => {
    const answer = await harness.browser().send('POST', '/api/sign-in', { email: '', password: 7 });
    expect(await problem(answer)).toMatchObject({
      status: 400,
      code: 'bad-body',
      places: [{ place: 'email' }, { place: 'password' }],
    });
    expect((await problem(await harness.browser().send('POST', '/api/sign-in', '{"email":'))).code).toBe('bad-body');
  });

  it('refuses a body that is too large, and another site’s request', async () => {
    const large = await harness.browser().send('POST', '/api/sign-in', { email: 'a', password: 'x'.repeat(300_000) });
    expect(large.status).toBe(413);
    const other = await harness
      .browser()
      .send(
        'POST',
        '/api/sign-in',
        { email: 'a', password: 'b' },
        { origin: 'http://elsewhere.example', host: '127.0.0.1' },
      );
    expect((await problem(other)).code).toBe('other-origin');
  });

  it('shows a class to the adults it is given to, and to nobody else', async () => {
    const owner = harness.browser();
    const { path, children } = await setUp(owner);
    const routes = [
      path,
      `${path}/readings`,
      `${path}/log`,
      `${path}/responses.csv`,
      `${path}/children/${children.get('Ivo')}`,
    ];
    for (const route of routes) expect([route, (await harness.browser().get(route)).status]).toEqual([route, 401]);

    // A second adult of the same school without the class.
    const em = harness.orm.em.fork();
    await em.execute(
      `insert into adult (school_id, id, email, name, role, password_hash, created_at)
       select school_id, '0197a000-0000-7000-8000-00000000000f', 'mate@saltmarsh.example', 'Mate', 'teacher', password_hash, now() from adult`,
    );
    const mate = harness.browser();
    await mate.send('POST', '/api/sign-in', { email: 'mate@saltmarsh.example', password: SET_UP.password });
    for (const route of routes) expect([route, (await mate.get(route)).status]).toEqual([route, 404]);
    expect((await mate.send('POST', `${path}/record`, { sittings: [SITTING], responses: [] })).status).toBe(404);
    expect((await mate.send('PUT', `${path}/carpet`, {})).status).toBe(404);
    expect((await mate.get('/api/school/classes')).status).toBe(403);
    for (const route of routes) expect([route, (await owner.get(route)).status]).toEqual([route, 200]);
    expect((await owner.get('/api/classes/not-an-id')).status).toBe(404);
  });

  it('says so when the database does not answer, and works again when it does', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    await harness.orm.close();
    const answer = await browser.send('POST', `${path}/record`, {
      sittings: [SITTING],
      responses: [rowFor(children.get('Ivo') ?? '')],
    });
    expect([500, 503]).toContain(answer.status);
    expect((await harness.browser().get('/api/health')).status).toBe(503);
    await harness.orm.connect();
    expect((await browser.get(path)).status).toBe(200);
  });
});

describe('a class', () => {
  it('remembers how its carpet was set, and refuses settings that could hurt', async () => {
    const browser = harness.browser();
    const { path } = await setUp(browser);
    const view = (await (await browser.get(path)).json()) as { carpet: object };
    const wish = { ...view.carpet, layout: 'five', exposureMs: null };
    expect((await browser.send('PUT', `${path}/carpet`, wish)).status).toBe(204);
    expect(await (await browser.get(path)).json()).toMatchObject({
      carpet: wish,
      children: [
        {
          nickname: 'Ivo',
          lastAskedAt: null,
          measures: { copies: {}, counts: 0 },
          times: null,
          workingNumber: null,
          halfLifeDays: null,
          routinesUsed: [],
        },
        {},
        {},
      ],
    });
    expect((await browser.send('PUT', `${path}/carpet`, { ...wish, exposureMs: 40 })).status).toBe(400);
  });
});
