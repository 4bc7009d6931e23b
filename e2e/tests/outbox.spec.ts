import type { Page } from '@playwright/test';
import type { LogPage } from '@vane/contract';
import {
  openSettings,
  nextShow,
  begin,
  beginSitting,
  classOf,
  DEMO,
  expect,
  NO_ANSWER,
  refused,
  freshServer,
  newResponses,
  number,
  onStage,
  pickOption,
  recordOf,
  stage,
  test,
  endSession,
} from '../vane';

/** How many answers the device's own store holds. */
const keptOn = (page: Page): Promise<number> =>
  page.evaluate(
    () =>
      new Promise<number>((count) => {
        const opening = indexedDB.open('vane');
        opening.onsuccess = () => {
          const counting = opening.result.transaction('responses').objectStore('responses').count();
          counting.onsuccess = () => {
            opening.result.close();
            count(counting.result);
          };
        };
      }),
  );

test('the server dies in mid-sitting: marking goes on, and afterwards every response is there once', async ({
  signedIn: page,
  vane,
  expectSaid,
}) => {
  expectSaid(NO_ANSWER);
  const before = await recordOf(page, 'Marlo');
  await beginSitting(page, { child: 'Marlo', warmUp: false, shows: 5 });
  for (let trial = 0; trial < 5; trial++) {
    if (trial === 2) await vane.kill();
    await nextShow(page);
    await number(page, await onStage(page)).click();
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  }
  await page.keyboard.press('Space');
  await expect(page.getByRole('heading', { name: 'Thank you, Marlo.' })).toBeVisible();
  await expect(page.getByText(/saved here/).first()).toBeVisible();

  await vane.start();
  const rows = await newResponses(page, 'Marlo', before, 5);
  expect(new Set(rows.map((r) => r.response_id)).size).toBe(5);
  expect(new Set(rows.map((r) => r.sitting)).size).toBe(1);
  await expect(page.getByText(/saved here/)).toHaveCount(0);
});

test('the tab is closed in mid-sitting with the server dead: the next tab delivers what was marked @long', async ({
  signedIn: page,
  vane,
  context,
  expectSaid,
}) => {
  expectSaid(NO_ANSWER);
  const before = await recordOf(page, 'Kesi');
  await beginSitting(page, { child: 'Kesi', warmUp: false, shows: 5 });
  await vane.kill();
  for (let trial = 0; trial < 3; trial++) {
    await nextShow(page);
    await number(page, await onStage(page)).click();
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  }
  await expect.poll(() => keptOn(page)).toBe(3);
  await page.close();
  await vane.start();
  const next = await context.newPage();
  await next.goto('/today');
  expect(await newResponses(next, 'Kesi', before, 3)).toHaveLength(3);
});

test('a batch sent twice is kept once, and a lost answer is asked for again @long', async ({
  signedIn: page,
  expectSaid,
}) => {
  expectSaid(NO_ANSWER);
  const before = await recordOf(page, 'Bram');
  let lost = 0;
  await page.route('**/record', async (route) => {
    // The server takes the batch, but its answer never arrives.
    if (lost++ > 0) return route.continue();
    await route.fetch();
    return route.abort('connectionreset');
  });
  await beginSitting(page, { child: 'Bram', warmUp: false, shows: 5 });
  await nextShow(page);
  await number(page, await onStage(page)).click();
  await endSession(page);
  await expect.poll(() => lost, { timeout: 20_000 }).toBeGreaterThan(1);
  await newResponses(page, 'Bram', before, 1);
});

test('the sign-in ends in mid-sitting: marking goes on, and what waits is sent once somebody signs in again @long', async ({
  page,
  expectSaid,
}) => {
  expectSaid(refused(401));
  const began = new Date().toISOString();
  const { server, drop } = await freshServer('demo');
  const signIn = () => page.getByRole('button', { name: 'Use the demo sign-in' }).click();
  const other = await page.context().browser()!.newContext({ baseURL: server.url });
  await other.request.post('/api/sign-in', { data: DEMO });
  await other.request.post('/api/me/care-read', { data: {} });
  await page.goto(`${server.url}/sign-in`);
  await signIn();
  await expect(page.getByRole('heading', { name: 'Today', exact: true })).toBeVisible();
  await page.goto(`${server.url}/carpet`);
  await pickOption(page, 'Child', 'Odo');
  await openSettings(page);
  await page.getByRole('radio', { name: 'none', exact: true }).click();
  await begin(page, 'Odo');
  for (let trial = 0; trial < 3; trial++) {
    if (trial === 1) await other.request.post('/api/me/sign-out-everywhere', { data: {} });
    await nextShow(page);
    await number(page, await onStage(page)).click();
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  }
  await endSession(page);
  await expect(page.getByText(/please sign in again/i).first()).toBeVisible();
  await page.goto(`${server.url}/sign-in`);
  await signIn();
  await other.request.post('/api/sign-in', { data: DEMO });
  const { id, children } = await classOf({ request: other.request } as Page);
  const odo = children.find((c) => c.nickname === 'Odo')?.id;
  const sitting = async (): Promise<number> => {
    const log = (await (await other.request.get(`/api/classes/${id}/log?child=${odo}`)).json()) as LogPage;
    return log.rows.filter((r) => r.routine === 'flash-and-say' && r.shown_at >= began).length;
  };
  await expect.poll(sitting, { timeout: 20_000 }).toBe(3);
  await other.close();
  await page.close();
  await drop();
});

test('without an answering server the first page says so, and works once it answers @long', async ({
  page,
  expectSaid,
}) => {
  expectSaid(NO_ANSWER);
  const { server, drop } = await freshServer('demo');
  await page.goto(`${server.url}/sign-in`);
  await page.getByRole('button', { name: 'Use the demo sign-in' }).click();
  await expect(page.getByRole('button', { name: 'Odo', exact: true })).toBeVisible();
  await server.kill();
  await page.getByRole('link', { name: 'Log' }).click();
  await expect(page.getByRole('alert')).toContainText('does not answer');
  await server.start();
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('table', { name: 'Responses' })).toBeVisible();
  await page.close();
  await drop();
});
