import { sound } from '../sound';
import { SET_UP_CODE } from '../server';
import {
  openSettings,
  nextShow,
  beginSitting,
  expect,
  freshServer,
  number,
  onStage,
  recordOf,
  stage,
  test,
  refused,
  DEMO,
  everyRow,
  settled,
  endSession,
} from '../vane';

test('Today, Class and Carpet are sound for assistive technology', async ({ signedIn: page }) => {
  for (const [path, heading] of [
    ['/today', 'Today'],
    ['/class', 'Who needs the same thing?'],
    ['/carpet', 'On the carpet'],
  ] as const) {
    await page.goto(path);
    await expect(page.getByRole('heading', { name: heading, exact: true })).toBeVisible();
    await settled(page);
    await sound(page, path);
  }
  await beginSitting(page, { child: 'Oriel', warmUp: false, shows: 5 });
  await nextShow(page);
  await sound(page, 'asking');
});

for (const scheme of ['light', 'dark'] as const) {
  // A size changes no colour.
  test(`every view is sound for assistive technology, ${scheme}${scheme === 'light' ? ' @both' : ''} @long`, async ({
    signedIn: page,
  }) => {
    test.setTimeout(300_000);
    await page.emulateMedia({ colorScheme: scheme, reducedMotion: 'reduce' });
    const look = (view: string): Promise<void> => sound(page, view, { colours: scheme === 'dark' });
    const { child } = await recordOf(page, 'Oriel');
    const ready = {
      '/today': 'Today',
      '/children': 'Children',
      '/class': 'Who needs the same thing?',
      '/log': 'Log',
      '/school': 'Saltmarsh Infants',
      '/account': 'Your sign-in',
      '/before-use': 'Before you use this with children',
      '/files': 'Import and export',
      '/prints': 'Prints',
      '/prints?what=group-sheet': 'Group sheet',
      [`/children/${child.id}`]: 'Oriel',
    };
    for (const [path, heading] of Object.entries(ready)) {
      await page.goto(path);
      await expect(page.getByRole('heading', { name: heading, exact: true })).toBeVisible();
      await settled(page);
      await look(path);
    }
    await page.getByRole('button', { name: 'Settings' }).click();
    await expect(page.getByRole('button', { name: 'Sign out' })).toBeVisible();
    await look('settings');
    await page.goto('/carpet');
    await expect(page.getByRole('heading', { name: 'On the carpet' })).toBeVisible();
    await look('choice');
    await beginSitting(page, { child: 'Oriel', warmUp: false, shows: 5 });
    await page.keyboard.press('Escape');
    await look('ready');
    await page.keyboard.press('Escape');
    await nextShow(page);
    await look('asking');
    await number(page, await onStage(page)).click();
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
    await look('answered');
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog')).toBeVisible();
    await look('keys');
    await page.keyboard.press('Escape');
    await endSession(page);
    await expect(page.getByRole('heading', { name: 'Thank you, Oriel.' })).toBeVisible();
    await look('done');
    await page.context().clearCookies();
    await page.goto('/sign-in');
    await expect(page.getByRole('button', { name: 'Use the demo sign-in' })).toBeVisible();
    await look('sign-in');
  });
}

test('every menu, every dialog and every rarely seen view is sound @long', async ({ signedIn: page, expectSaid }) => {
  expectSaid(refused(401), refused(410));
  test.setTimeout(300_000);
  await page.emulateMedia({ reducedMotion: 'reduce' });
  /** Opens something by pressing buttons and menu items one after the other, looks at it, and puts it away. */
  const open = async (path: string, ...press: (string | RegExp)[]): Promise<void> => {
    await page.goto(path);
    for (const name of press) {
      const button = page
        .getByRole('button', { name, exact: true })
        .or(page.getByRole('menuitem', { name, exact: true }));
      await button.first().click();
    }
    await expect(
      page
        .locator('.cdk-overlay-container')
        .getByRole(/…$|^Add/.test(String(press.at(-1))) ? 'dialog' : 'menu')
        .last(),
    ).toBeVisible();
    await sound(page, [path, ...press].join(' › '), { over: true });
  };
  await open('/today', 'Dilys');
  await open('/children', 'Add children');
  await open('/children', 'Change Oriel');
  await open('/children', 'Change Oriel', 'Rename …');
  await open('/children', 'Change Oriel', 'Delete …');
  await open('/school', 'Add a class');
  await open('/school', 'Change Curlew');
  await open('/school', 'Change Curlew', 'End of the year …');
  await open('/school', 'Change Harbour keeper');
  await open('/log', /^Correct: /);
  await open('/log', /^Correct: /, 'Void');
  await open('/log', /^Correct: /, 'Note on this session …');

  await page.goto('/school');
  for (const part of ['Simulated mail folder', 'Activity']) await page.getByText(part, { exact: true }).click();
  await sound(page, 'school, opened');
  await page.goto('/carpet');
  await openSettings(page);
  await sound(page, 'settings of a routine');
  await page.getByRole('combobox', { name: 'Answers', exact: true }).click();
  await expect(page.getByRole('listbox')).toBeVisible();
  await sound(page, 'list of answers', { over: true });
  const { child } = await recordOf(page, 'Oriel');
  await page.goto(`/children/${child.id}?see=add`);
  await page.getByRole('button', { name: 'Override Vane’s view …' }).click();
  await page.getByText(/^All \d+ answers$/).click();
  await sound(page, 'overruling');
  for (const view of ['seeing', 'subtract', 'missing']) {
    await page.goto(`/children/${child.id}?see=${view}`);
    await expect(page.getByRole('group', { name: 'Sail map' })).toBeVisible();
    await sound(page, view);
  }
  await page.goto('/rehearse');
  await sound(page, 'rehearse');
  await page.getByRole('button', { name: 'Run the class' }).click();
  await expect(page.getByRole('region', { name: 'Readings compared with the truth' })).toBeVisible({ timeout: 60_000 });
  await sound(page, 'rehearsed');
  await page.getByRole('button', { name: 'Practise entering answers' }).click();
  await expect(stage(page)).toHaveAttribute('data-phase', 'ready');
  await sound(page, 'marking');
  await page.goto('/prints/key-in/NOSUCH');
  await expect(page.getByText('This class has no sheet with this code.')).toBeVisible();
  await sound(page, 'a sheet that is not there');
  await page.context().clearCookies();
  for (const path of ['/board', '/board/ABC234', '/join/not-a-link', '/reset/not-a-link']) {
    await page.goto(path);
    await settled(page);
    await sound(page, path);
  }
});

test('on a phone, lying or held, and zoomed to twice the size, the picture and all numbers are in view, and pages do not scroll sideways @long', async ({
  signedIn: page,
}) => {
  // Twenty-four places at three sizes, and a session at each.
  test.setTimeout(300_000);
  const { child } = await recordOf(page, 'Oriel');
  for (const [width, height] of [
    [390, 844],
    [844, 390],
    [640, 400],
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const path of [
      '/today',
      '/children',
      `/children/${child.id}?see=add`,
      '/class',
      '/log',
      '/files',
      '/school',
      '/rehearse',
    ]) {
      await page.goto(path);
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
      await settled(page);
      expect([
        path,
        width,
        await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth),
      ]).toEqual([path, width, 0]);
    }
    await beginSitting(page, { child: 'Oriel', warmUp: false, shows: 5 });
    await nextShow(page);
    expect((await stage(page).boundingBox())!.height).toBeGreaterThan(200);
    for (const n of [0, 1, 5, 6, 10]) await expect(number(page, n)).toBeInViewport({ ratio: 0.99 });
    await number(page, await onStage(page)).click();
    await expect(stage(page)).toHaveAttribute('data-phase', 'feedback');
  }
});

test('with forced colours nothing darkens what is chosen @long', async ({ signedIn: page }) => {
  await page.emulateMedia({ forcedColors: 'active' });
  await page.goto('/today');
  const chosen = page.getByRole('radiogroup', { name: 'Minutes' }).locator('.mat-button-toggle-checked');
  await expect(chosen).toBeVisible();
  await expect(chosen.locator('.mat-button-toggle-focus-overlay')).toBeHidden();
});

test('an empty Vane leads through one form to a class @both', async ({ page, expectSaid }) => {
  expectSaid(refused(401));
  const { server, drop } = await freshServer('empty');
  await page.goto(server.url);
  await expect(page.getByRole('heading', { name: 'Set up Vane' })).toBeVisible();
  await page.getByRole('button', { name: 'Set up' }).click();
  await expect(page.getByText('Please enter the school’s name.')).toBeVisible();
  await page.getByLabel('Code').fill('another-one');
  await sound(page, 'set-up');
  await page.getByRole('textbox', { name: 'School' }).fill('Saltmarsh Infants');
  await page.getByLabel('Class', { exact: true }).fill('Sandpiper');
  await page.getByLabel('Your name').fill('Harbour mate');
  await page.getByLabel('E-mail').fill('mate@saltmarsh.example');
  await page.getByLabel('Password').fill('buoys-on-the-water');
  await page.getByLabel(/^Children/).fill('Linnet\n\nYusra\n');
  await page.getByRole('button', { name: 'Set up' }).click();
  await expect(page.getByRole('alert')).toContainText('not the code that the window shows');
  await page.getByLabel('Code').fill(SET_UP_CODE.toLowerCase());
  await page.getByRole('button', { name: 'Set up' }).click();
  await expect(page.getByRole('heading', { name: 'Before you use this with children' })).toBeVisible();
  await sound(page, 'before use');
  await page.getByRole('button', { name: 'I have read this' }).click();
  await expect(page.getByRole('heading', { name: 'A first look' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Yusra', exact: true })).toBeVisible();
  await page.getByText('Why these?').click();
  await expect(page.getByText(/small amounts on the five frame begin the record/).first()).toBeVisible();
  await page.getByRole('link', { name: 'Children' }).click();
  await page.getByRole('link', { name: 'Linnet' }).click();
  await expect(page.getByRole('region', { name: 'Evidence' })).toContainText('has not answered this without help yet');
  await sound(page, 'child without answers');
  // The first morning: set up, read, begin and show are four presses, and the first picture is within three.
  await page.getByRole('link', { name: 'Today' }).click();
  await page.getByRole('button', { name: /^Begin · 2 children/ }).click();
  await nextShow(page);
  expect(await onStage(page)).toBeLessThanOrEqual(3);
  await endSession(page);
  await drop();
});

test('whoever tried the demo starts a school of their own from it, and the demo is gone @long', async ({
  page,
  expectSaid,
}) => {
  expectSaid(refused(401));
  const { server, drop } = await freshServer('demo');
  await page.goto(`${server.url}/sign-in`);
  await page.getByRole('button', { name: 'Use the demo sign-in' }).click();
  await expect(page.getByRole('list', { name: 'Planned sessions' })).toBeVisible();
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('link', { name: 'Start your own school' }).click();
  await expect(page.getByRole('heading', { name: 'Start your own school' })).toBeVisible();
  await sound(page, 'start your own school');
  await page.getByRole('textbox', { name: 'School' }).fill('Quayside Infants');
  await page.getByLabel('Class', { exact: true }).fill('Dunlin');
  await page.getByLabel('Your name').fill('Quay lead');
  await page.getByLabel('E-mail').fill('lead@quayside.example');
  await page.getByLabel('Password').fill('buoys-on-the-water');
  await page.getByLabel('Code').fill(SET_UP_CODE);
  await page.getByLabel(/^Children/).fill('Wren\nSkua');
  await page.getByRole('button', { name: 'Delete the demo and start' }).click();
  await page.getByRole('button', { name: 'I have read this' }).click();
  await expect(page.getByRole('button', { name: 'Skua', exact: true })).toBeVisible();
  expect(await everyRow(server.database)).not.toContain('Cleo');
  const demo = await page.request.post(`${server.url}/api/sign-in`, { data: DEMO });
  expect(demo.status()).toBe(401);
  await page.context().clearCookies();
  await page.goto(`${server.url}/sign-in`);
  await expect(page.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();
  await expect(page.getByText('harbour demo')).toBeHidden();
  await page.goto(`${server.url}/set-up`);
  await expect(page).toHaveURL(/sign-in/);
  await page.close();
  await drop();
});

test('nothing is fetched from anywhere but Vane @long', async ({ signedIn: page, vane }) => {
  const strange: string[] = [];
  page.on('request', (request) => {
    const url = new URL(request.url());
    if (url.origin !== vane.url && url.protocol !== 'data:' && url.protocol !== 'blob:') strange.push(request.url());
  });
  const { child } = await recordOf(page, 'Gethin');
  for (const path of ['/today', '/carpet', '/children', `/children/${child.id}`, '/class', '/log', '/prints']) {
    await page.goto(path);
    // What is fetched for later, too.
    await page.waitForLoadState('networkidle');
  }
  expect(strange).toEqual([]);
});
