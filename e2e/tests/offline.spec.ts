import {
  beginSitting,
  classOf,
  DEMO,
  expect,
  freshServer,
  newResponses,
  NO_ANSWER,
  number,
  onStage,
  recordOf,
  shown,
  stage,
  test,
  refused,
} from '../vane';
import { inDatabase, SET_UP_CODE } from '../server';

/** With the worker that keeps Vane for use without a network, which the other tests leave out. */
test('without a network Vane starts, a sitting runs whole, and what was marked is sent once when the network is back; signing out takes the copies away @long', async ({
  browser,
  expectSaid,
}) => {
  expectSaid(NO_ANSWER);
  const { server, drop } = await freshServer('demo');
  const context = await browser.newContext({
    baseURL: server.url,
    serviceWorkers: 'allow',
    viewport: { width: 1280, height: 800 },
  });
  const page = await context.newPage();
  expect((await page.request.post('/api/sign-in', { data: DEMO })).status()).toBe(200);
  await page.goto('/today');
  await page.evaluate(async () => {
    await navigator.serviceWorker.ready;
    while (navigator.serviceWorker.controller === null) await new Promise((done) => setTimeout(done, 50));
  });
  const before = await recordOf(page, 'Odo');
  for (const path of ['/today', '/carpet', '/class', '/children', `/children/${before.child.id}`]) {
    await page.goto(path);
    await page.waitForLoadState('networkidle');
  }
  await server.kill();

  await page.goto('/today');
  await expect(page.getByRole('list', { name: 'Planned sessions' })).toBeVisible();
  await page.goto(`/children/${before.child.id}`);
  await expect(page.getByRole('heading', { name: 'Odo' })).toBeVisible();
  await beginSitting(page, { child: 'Odo', answers: 'the child taps', warmUp: false, shows: 5, reachable: false });
  const given: string[] = [];
  for (let i = 0; i < 5; i++) {
    await shown(page);
    given.push(String(await onStage(page)));
    await number(page, await onStage(page)).click();
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
    await page.keyboard.press('Space');
  }
  await expect(page.getByRole('heading', { name: 'Thank you, Odo.' })).toBeVisible();
  // The reading is made here, of what the server has not seen yet.
  await page.getByRole('button', { name: 'See what changed' }).click();
  const fact = given[0] ?? '';
  await page.getByRole('button', { name: new RegExp(`^${fact} on a frame by fives:`) }).click();
  await page.getByText(/^All (one answer|\d+ answers)$/).click();
  const rows = page.getByRole('region', { name: 'Evidence' }).locator('tbody tr');
  const known = before.responses.filter((r) => r.fact === `show:${fact}:frame-fives`).length;
  await expect(rows).toHaveCount(known + 1);
  // Reloaded without a network: what waits is still there, and said.
  await page.goto('/class');
  await expect(page.getByText(/5 answers saved here/)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'How you and this device measure' })).toBeVisible();
  await server.start();
  await page.goto('/today');
  expect((await newResponses(page, 'Odo', before, 5)).map((r) => r.given)).toEqual(given);

  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page).toHaveURL(/sign-in/);
  const copies = () => page.evaluate(() => caches.has('vane-record'));
  await expect.poll(copies).toBe(false);
  // Nor is anything kept that comes now: it may have been on its way.
  await page.request.post('/api/sign-in', { data: DEMO });
  const late = `/api/classes/${(await classOf(page)).id}/readings`;
  // What was to be kept of the first would be there when the last of several has come, one after the other.
  for (let i = 0; i < 5; i++)
    expect(await page.evaluate((path) => fetch(path).then((answer) => answer.text()), late)).toContain('pAutomatic');
  expect(await copies()).toBe(false);
  await page.request.post('/api/sign-out');
  await server.kill();
  await page.goto('/today');
  await expect(page).toHaveURL(/sign-in/);
  await context.close();
  await drop();
});

test('the first day is enough: set up and read once, Vane starts without a network', async ({
  browser,
  expectSaid,
}) => {
  expectSaid(NO_ANSWER);
  const { server, drop } = await freshServer('empty');
  const context = await browser.newContext({ baseURL: server.url, serviceWorkers: 'allow' });
  const page = await context.newPage();
  await page.request.post('/api/set-up', {
    data: {
      code: SET_UP_CODE,
      school: 'Saltmarsh Infants',
      className: 'Dunlin',
      name: 'Harbour mate',
      ...DEMO,
      children: ['Linnet', 'Yusra'],
    },
  });
  await page.request.post('/api/sign-out');
  await page.goto('/sign-in');
  await page.getByLabel('E-mail').fill(DEMO.email);
  await page.getByLabel('Password').fill(DEMO.password);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await page.getByRole('button', { name: 'I have read this' }).click();
  const plan = page.getByRole('list', { name: 'Planned sessions' });
  await expect(plan).toBeVisible();
  const kept = () =>
    page.evaluate(async () =>
      (await (await caches.open('vane-record')).keys()).map(({ url }) => new URL(url).pathname),
    );
  await expect
    .poll(kept, { timeout: 30_000 })
    .toEqual(
      expect.arrayContaining([
        '/api/me',
        expect.stringMatching(/^\/api\/classes\/[^/]+$/),
        expect.stringMatching(/readings$/),
      ]),
    );
  await server.kill();
  await page.goto('/today');
  await expect(plan).toBeVisible();
  await context.close();
  await drop();
});

test('a class that was taken from an adult leaves the device once it hears of it', async ({ browser, expectSaid }) => {
  expectSaid(NO_ANSWER, refused(404));
  const { server, drop } = await freshServer('demo');
  const context = await browser.newContext({ baseURL: server.url, serviceWorkers: 'allow' });
  const page = await context.newPage();
  await page.request.post('/api/sign-in', { data: DEMO });
  await page.goto('/today');
  const kept = () =>
    page.evaluate(async () =>
      (await (await caches.open('vane-record')).keys())
        .filter(({ url }) => url.includes('/api/classes/'))
        .map(({ url }) => url),
    );
  await expect.poll(async () => (await kept()).length).toBeGreaterThan(1);
  const own = (await kept())[0]!.split('/').slice(0, 6).join('/');
  await inDatabase(
    server.database,
    `insert into adult (school_id, id, email, name, role, password_hash, created_at)
       select school_id, gen_random_uuid(), 'other@quay.example', 'Other', 'lead', '', now() from adult limit 1;
     update adult set role = 'teacher' where name <> 'Other'; delete from class_adult`,
  );
  await page.evaluate((url) => fetch(`${url}/readings`).then((answer) => answer.status), own);
  await expect.poll(async () => (await kept()).filter((url) => url.startsWith(own))).toEqual([]);
  await context.close();
  await drop();
});

test('a device whose sign-in was ended elsewhere keeps no copies once it hears of it', async ({
  browser,
  expectSaid,
}) => {
  expectSaid(NO_ANSWER, refused(401));
  const { server, drop } = await freshServer('demo');
  const context = await browser.newContext({ baseURL: server.url, serviceWorkers: 'allow' });
  const page = await context.newPage();
  await page.request.post('/api/sign-in', { data: DEMO });
  await page.goto('/today');
  const kept = () => page.evaluate(() => caches.has('vane-record'));
  await expect.poll(kept).toBe(true);
  const elsewhere = await browser.newContext({ baseURL: server.url });
  await elsewhere.request.post('/api/sign-in', { data: DEMO });
  await elsewhere.request.post('/api/me/sign-out-everywhere', { data: {} });
  // Opened anew at the door itself: nobody asks for a class there.
  await page.goto('/sign-in');
  await expect(page.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
  await expect.poll(kept).toBe(false);
  // A wrong password is no ended sign-in: another adult's copies stay.
  await page.request.post('/api/sign-in', { data: DEMO });
  await page.goto('/today');
  await expect.poll(kept).toBe(true);
  const wrong = { ...DEMO, password: 'wrong' };
  expect(
    await page.evaluate(
      (data) =>
        fetch('/api/sign-in', {
          method: 'POST',
          body: JSON.stringify(data),
          headers: { 'content-type': 'application/json' },
        }).then((a) => a.status),
      wrong,
    ),
  ).toBe(401);
  expect(await kept()).toBe(true);
  await context.close();
  await elsewhere.close();
  await drop();
});

test('on a slow network Vane says that it is on its way, and the plan does not wait for the other places @long', async ({
  signedIn: page,
}) => {
  let scripts = 0;
  page.on('request', (request) => (scripts += Number(request.url().endsWith('.js'))));
  await page.route('**/*.js', async (route) => {
    await new Promise((later) => setTimeout(later, 1_200));
    await route.continue();
  });
  await page.goto('/today', { waitUntil: 'commit' });
  await expect(page.getByText('Loading Vane …')).toBeVisible();
  await expect(page.getByText('Loading …')).toBeVisible({ timeout: 15_000 });
  await expect(page.getByRole('list', { name: 'Planned sessions' })).toBeVisible({ timeout: 15_000 });
  await expect(page.locator('.coming')).toHaveCount(0);
  const needed = scripts;
  await expect.poll(() => scripts, { timeout: 15_000 }).toBeGreaterThan(needed + 10);
  await page.unrouteAll({ behavior: 'ignoreErrors' });
});

test('settings that do not arrive say so, and the place stays usable @long', async ({ signedIn: page, expectSaid }) => {
  expectSaid(NO_ANSWER);
  await page.route('**/chunk-*.js', async (route) => {
    const response = await route.fetch();
    await ((await response.text()).includes('same as device') ? route.abort() : route.fulfill({ response }));
  });
  await page.goto('/today');
  await page.getByRole('button', { name: 'Settings' }).click();
  const trouble = page.getByRole('alert').filter({ hasText: 'The settings could not be loaded' });
  await expect(trouble).toBeVisible();
  await trouble.getByRole('button', { name: 'Close' }).click();
  await expect(trouble).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Begin/ }).first()).toBeEnabled();
  await page.unrouteAll({ behavior: 'ignoreErrors' });
});
