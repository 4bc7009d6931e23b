import { beginSitting, expect, freshServer, newResponses, number, onStage, recordOf, shown, stage, test } from '../vane';

test('the server dies in mid-sitting: marking goes on, and afterwards every response is there once', async ({ signedIn: page, vane }) => {
  test.setTimeout(150_000);
  const before = await recordOf(page, 'Marlo');
  await beginSitting(page, { child: 'Marlo', warmUp: false, shows: 10 });
  for (let trial = 0; trial < 10; trial++) {
    if (trial === 3) await vane.kill();
    await page.keyboard.press('Space');
    await shown(page);
    await number(page, await onStage(page)).click();
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  }
  await page.keyboard.press('Space');
  await expect(page.getByRole('heading', { name: 'Thank you, Marlo.' })).toBeVisible();
  await expect(page.getByText(/kept here/).first()).toBeVisible();

  await vane.start();
  const rows = await newResponses(page, 'Marlo', before, 10);
  expect(new Set(rows.map((r) => r.response_id)).size).toBe(10);
  expect(new Set(rows.map((r) => r.sitting)).size).toBe(1);
  await expect(page.getByText(/kept here/)).toHaveCount(0);
});

test('the tab is closed in mid-sitting with the server dead: the next tab delivers what was marked', async ({ signedIn: page, vane, context }) => {
  test.setTimeout(150_000);
  const before = await recordOf(page, 'Kesi');
  await beginSitting(page, { child: 'Kesi', warmUp: false, shows: 5 });
  await vane.kill();
  for (let trial = 0; trial < 3; trial++) {
    await page.keyboard.press('Space');
    await shown(page);
    await number(page, await onStage(page)).click();
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  }
  await page.waitForTimeout(300);
  await page.close();
  await vane.start();
  const next = await context.newPage();
  await next.goto('/today');
  expect(await newResponses(next, 'Kesi', before, 3)).toHaveLength(3);
});

test('a batch sent twice is kept once, and a lost answer is asked for again', async ({ signedIn: page }) => {
  const before = await recordOf(page, 'Bram');
  let lost = 0;
  await page.route('**/record', async (route) => {
    // The server takes the batch, but its answer never arrives.
    if (lost++ > 0) return route.continue();
    await route.fetch();
    return route.abort('connectionreset');
  });
  await beginSitting(page, { child: 'Bram', warmUp: false, shows: 5 });
  await page.keyboard.press('Space');
  await shown(page);
  await number(page, await onStage(page)).click();
  await page.getByRole('button', { name: 'End here' }).click();
  await expect.poll(() => lost, { timeout: 20_000 }).toBeGreaterThan(1);
  await newResponses(page, 'Bram', before, 1);
});

test('without an answering server the first page says so, and works once it answers', async ({ page }) => {
  const { server, drop } = await freshServer('demo');
  await page.goto(`${server.url}/sign-in`);
  await page.getByRole('button', { name: 'Use the demo sign-in' }).click();
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Odo', exact: true })).toBeVisible();
  await server.kill();
  await page.getByRole('link', { name: 'Log' }).click();
  await expect(page.getByRole('alert')).toContainText('does not answer');
  await server.start();
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByRole('table', { name: 'Responses' })).toBeVisible();
  await drop();
});
