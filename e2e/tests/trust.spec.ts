import { DEMO, expect, freshServer, pickOption, refused, test } from '../vane';

test('an adult is invited, joins, minds what is to be minded, and sees the class given and nothing of the school', async ({
  signedIn: page,
  browser,
  baseURL,
}) => {
  await page.goto('/school');
  const invite = page.getByRole('form', { name: 'Invite somebody' });
  await invite.getByLabel('Name').fill('Quay hand');
  await invite.getByLabel('E-mail').fill('hand@saltmarsh.example');
  await pickOption(page, 'Classes', 'Curlew');
  await invite.getByRole('button', { name: 'Invite' }).click();
  await expect(page.getByText('hand@saltmarsh.example, until')).toBeVisible();
  await page.locator('summary', { hasText: 'Simulated mail folder' }).click();
  const letter = page.getByRole('article').filter({ hasText: 'hand@saltmarsh.example' });
  const link = /http\S+\/join\/\S+/.exec(await letter.innerText())![0];

  const other = await browser.newContext({ baseURL: baseURL ?? '' });
  const theirs = await other.newPage();
  await theirs.goto(new URL(link).pathname);
  await expect(theirs.getByRole('heading', { name: 'Join Vane at Saltmarsh Infants' })).toBeVisible();
  await theirs.getByLabel('Choose a password').fill('ropes-and-rigging');
  await theirs.getByRole('button', { name: 'Join' }).click();
  await expect(theirs.getByRole('heading', { name: 'Before you use this with children' })).toBeVisible();
  await theirs.goto('/log');
  await expect(theirs.getByRole('heading', { name: 'Before you use this with children' })).toBeVisible();
  await theirs.getByRole('button', { name: 'I have read this' }).click();
  await expect(theirs.getByRole('list', { name: 'Planned sessions' })).toBeVisible();
  await theirs.getByRole('button', { name: 'Settings' }).click();
  await expect(theirs.getByRole('link', { name: /^Classes and adults/ })).toBeHidden();
  expect((await theirs.request.get('/api/school')).status()).toBe(403);

  await page.reload();
  await page.getByRole('button', { name: 'Change Quay hand' }).click();
  await page.getByRole('menuitem', { name: 'Remove …' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Change Quay hand' })).toBeHidden();
  await theirs.goto('/today');
  await expect(theirs).toHaveURL(/sign-in/);
  await page.locator('summary', { hasText: 'Activity' }).click();
  await expect(page.getByRole('row', { name: /removed an adult Quay hand/ })).toBeVisible();
  await other.close();
});

test('a forgotten password is replaced by a letter’s link, and a device is locked and unlocked with a pin', async ({
  browser,
  expectSaid,
}) => {
  expectSaid(refused(401));
  // A school of its own: the demo's adult keeps their password.
  const { server, drop } = await freshServer('demo');
  const baseURL = server.url;
  const own = await browser.newContext({ baseURL });
  const page = await own.newPage();
  expect((await page.request.post('/api/sign-in', { data: DEMO })).status()).toBe(200);
  await page.goto('/account');
  await page.getByLabel('PIN', { exact: true }).fill('4711');
  await page.getByRole('button', { name: 'Set PIN' }).click();
  await expect(page.getByText('Your PIN is set.')).toBeVisible();
  await page.getByRole('button', { name: 'Lock now' }).click();
  await expect(page.getByRole('heading', { name: 'Locked' })).toBeVisible();
  await page.goto('/children');
  await expect(page.getByRole('heading', { name: 'Locked' })).toBeVisible();
  await page.getByLabel('PIN').fill('1234');
  await page.getByRole('button', { name: 'Unlock' }).click();
  await expect(page.getByRole('alert')).toContainText('This is not your PIN');
  await page.getByLabel('PIN').fill('4711');
  await page.getByRole('button', { name: 'Unlock' }).click();
  await expect(page.getByRole('link', { name: 'Oriel' })).toBeVisible();

  const other = await browser.newContext({ baseURL });
  const theirs = await other.newPage();
  await theirs.goto('/sign-in');
  const forgotten = theirs.getByRole('button', { name: 'I have forgotten my password' });
  await forgotten.click();
  await expect(theirs.getByLabel('E-mail')).toHaveAccessibleDescription('Please enter your e-mail address.');
  await theirs.getByLabel('E-mail').fill('keeper@saltmarsh.example');
  await theirs.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(theirs.getByLabel('Password')).toHaveAccessibleDescription('Please enter your password.');
  await forgotten.click();
  await expect(theirs.getByText('If this address is known here')).toBeVisible();
  // It lies in the mail folder for whoever looks after Vane, and nowhere on a page.
  await expect.poll(() => server.letters('secret').length).toBe(1);
  expect(JSON.stringify(await (await page.request.get('/api/school/mail')).json())).not.toContain('reset');
  await theirs.goto(/\/reset\/\S+/.exec(server.letters('secret')[0]!)![0]);
  await theirs.getByRole('textbox', { name: 'New password' }).fill('a-new-tide-every-day');
  await theirs.getByRole('button', { name: 'Set password' }).click();
  await theirs.getByRole('link', { name: 'Sign in' }).click();
  await theirs.getByLabel('E-mail').fill('keeper@saltmarsh.example');
  await theirs.getByLabel('Password').fill('a-new-tide-every-day');
  await theirs.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(theirs.getByRole('heading', { name: 'Today', exact: true })).toBeVisible();
  expect((await page.request.get('/api/me')).status()).toBe(401);
  await other.close();
  await own.close();
  await drop();
});
