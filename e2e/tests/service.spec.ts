import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { sound } from '../sound';
import { expect, freshServer, refused, test } from '../vane';
import { databaseUrl, type VaneServer } from '../server';

/** What `./vane school …` says on a server's database. */
function school(server: VaneServer, ...args: string[]): string {
  const ran = spawnSync(process.execPath, [join(import.meta.dirname, '../../server/dist/school.js'), ...args], {
    encoding: 'utf8',
    env: { ...process.env, DATABASE_URL: databaseUrl(server.database), VANE_URL: server.url },
  });
  expect(ran.stderr).toBe('');
  return ran.stdout;
}

test('whoever runs Vane opens a school on a page, says what it may have, and its lead joins and sees that @long', async ({
  page,
  browser,
  expectSaid,
}) => {
  expectSaid(refused(401), refused(409));
  const { server, drop } = await freshServer('empty');
  await page.goto(`${server.url}/service`);
  await expect(page.getByRole('alert')).toContainText('./vane school page');
  await page.goto('about:blank');
  await page.goto(/http\S+/.exec(school(server, 'page'))![0]);
  await expect(page.getByText('No school yet.')).toBeVisible();
  // What opens it stands in no address, history or screenshot.
  await expect(page).toHaveURL(/\/service$/);
  const open = page.getByRole('form', { name: 'Open a school' });
  const wish = async (name: string, email: string): Promise<void> => {
    await open.getByLabel('School', { exact: true }).fill(name);
    await open.getByLabel('Name of its lead').fill('Lock keeper');
    await open.getByLabel('E-mail').fill(email);
    await open.getByRole('button', { name: 'Open the school' }).click();
  };
  await wish('Estuary Infants', 'lock@estuary.example');
  await expect(page.getByRole('listitem').filter({ hasText: 'Estuary Infants' })).toContainText('waits for its lead');
  const link = await page.getByText(/http\S+\/join\//).innerText();
  await wish('Estuary Infants', 'other@estuary.example');
  await expect(page.getByRole('alert')).toContainText('This name is already taken');
  await sound(page, 'service');

  const other = await browser.newContext();
  const theirs = await other.newPage();
  await theirs.goto(link);
  await theirs.getByLabel('Choose a password').fill('gates-and-sluices-9');
  await theirs.getByRole('button', { name: 'Join' }).click();
  await theirs.getByRole('button', { name: 'I have read this' }).click();

  await page.reload();
  const line = page.getByRole('listitem').filter({ hasText: 'Estuary Infants' });
  await expect(line).toContainText('one adult, no classes and no children');
  await line.getByRole('button', { name: 'Change Estuary Infants' }).click();
  await page.getByLabel('Most children').fill('1');
  await page.getByLabel('Replies to its letters go to').fill('office@estuary.example');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(line).toContainText('(at most 1)');
  await sound(page, 'service');
  await page.getByLabel('Name of a lead').fill('Gate keeper');
  await line.getByLabel('E-mail').fill('gate@estuary.example');
  await line.getByRole('button', { name: 'Invite' }).click();
  await expect(line.getByText(/http\S+\/join\//)).toBeVisible();

  await theirs.goto(`${server.url}/school`);
  await expect(theirs.getByText('gate@estuary.example, until')).toBeVisible();
  await theirs.getByText('Activity', { exact: true }).click();
  await expect(theirs.getByRole('row').filter({ hasText: 'whoever runs Vane' })).toHaveCount(3);
  await expect(theirs.getByRole('row').filter({ hasText: 'changed what the school may have' })).toBeVisible();
  const id = (
    (await (await theirs.request.post(`${server.url}/api/school/classes`, { data: { name: 'Tern' } })).json()) as {
      id: string;
    }
  ).id;
  const add = await theirs.request.post(`${server.url}/api/classes/${id}/children`, {
    data: { nicknames: ['Odo', 'Ivo'] },
  });
  expect(((await add.json()) as { code: string }).code).toBe('school-full');
  expect(school(server, 'list')).toMatch(/Estuary Infants: 1 adults, 1 classes, 0 children/);
  await other.close();
  await drop();
});
