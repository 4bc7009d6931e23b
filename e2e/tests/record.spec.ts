import { readFile, writeFile } from 'node:fs/promises';
import type { LogPage, Me } from '@vane/contract';
import { classOf, expect, test, freshServer, refused } from '../vane';
import { SET_UP_CODE } from '../server';

const HEADER =
  'response_id,child,sitting,shown_at,kind,fact,answer_mode,exposure_ms,response_ms,given,outcome,observed,aid,void';

test('the record goes out as CSV and comes back whole; bad rows are named and the rest is read', async ({
  signedIn: page,
  expectSaid,
}, info) => {
  expectSaid(refused(422));
  await page.goto('/log');
  await page.getByRole('link', { name: 'Import and export' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Responses (CSV)' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Curlew-responses.csv');
  const saved = info.outputPath('out.csv');
  await download.saveAs(saved);
  const lines = (await readFile(saved, 'utf8')).trimEnd().split(/\r?\n/);
  expect(lines[0]?.startsWith(HEADER)).toBe(true);
  expect(lines.length).toBeGreaterThan(5000);

  const wanted = lines
    .slice(1)
    .filter((line) => line.includes(',Tamsin,'))
    .slice(0, 40);
  const bad = [...wanted];
  bad[3] = (bad[3] ?? '').replace(/,(tap|spoken),/, ',shouted,');
  const file = info.outputPath('in.csv');
  await writeFile(file, [lines[0], ...bad].join('\n'));

  // Into an empty class of another Vane, which has a Tamsin too.
  const { server, drop } = await freshServer('empty');
  const other = await page.context().browser()!.newPage({ baseURL: server.url });
  await other.request.post('/api/set-up', {
    data: {
      code: SET_UP_CODE,
      school: 'Saltmarsh Infants',
      className: 'Sandpiper',
      name: 'Mate',
      email: 'mate@saltmarsh.example',
      password: 'buoys-on-the-water',
      children: ['Tamsin'],
    },
  });
  await other.request.post('/api/me/care-read', { data: {} });
  await other.goto('/log');
  await expect(other.getByText('Nothing has been recorded yet.')).toBeVisible();
  await other.getByRole('link', { name: 'Import and export' }).click();
  const look = other.getByRole('region', { name: 'What this file would do' });
  const told = (n: { fresh: number; same: number; otherwise: number; refused: number }): Promise<void> =>
    expect(look.getByRole('cell').filter({ hasText: /^\d+$/ })).toHaveText(
      [n.fresh, n.same, n.otherwise, n.refused].map(String),
    );
  const total = async (): Promise<number> =>
    ((await (await other.request.get(`/api/classes/${classId}/log`)).json()) as LogPage).total;
  const classId = (await classOf(other)).id;
  await other.getByTestId('responses').setInputFiles(file);
  await told({ fresh: 39, same: 0, otherwise: 0, refused: 1 });
  await expect(other.getByText(/line 5, refused: .*answer_mode/)).toBeVisible();
  expect(await total()).toBe(0);
  await other.getByRole('button', { name: 'Cancel' }).click();
  await expect(look).toBeHidden();
  expect(await total()).toBe(0);
  await other.getByTestId('responses').setInputFiles(file);
  await other.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(other.getByText('Imported: 39 new.')).toBeVisible();
  expect(await total()).toBe(39);

  // Again, put right, and with one answer changed: nothing twice, and nothing overwritten.
  await writeFile(
    file,
    [lines[0], ...wanted.slice(0, -1), (wanted.at(-1) ?? '').replace(/,(correct|wrong),/, ',none,')].join('\n'),
  );
  await other.getByTestId('responses').setInputFiles(file);
  await told({ fresh: 1, same: 38, otherwise: 1, refused: 0 });
  await other.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(other.getByText('Imported: 1 new.')).toBeVisible();
  const back = await (
    await other.request.get((await other.getByRole('link', { name: 'Responses (CSV)' }).getAttribute('href')) ?? '')
  ).text();
  const body = (text: readonly string[]): string[] => [...text].sort();
  expect(body(back.trimEnd().split(/\r?\n/).slice(1))).toEqual(body(wanted));

  // The last one is taken back, then the first.
  await other.getByRole('button', { name: 'Undo import', exact: true }).click();
  await expect(other.getByText('Import undone: 1 of responses.')).toBeVisible();
  expect(await total()).toBe(39);
  await other.getByRole('button', { name: /^Undo import: 39 new from responses/ }).click();
  await expect(other.getByText('Import undone: 39 of responses.')).toBeVisible();
  expect(await total()).toBe(0);

  // A file that is none.
  await writeFile(file, 'name,score\nTamsin,7\n');
  await other.getByTestId('responses').setInputFiles(file);
  await expect(other.getByRole('alert')).toContainText('Nothing was imported');
  await other.close();
  await drop();
});

test('the log is narrowed, scrolled, and put right; the original stays and the readings follow', async ({
  signedIn: page,
}) => {
  await page.goto('/log');
  const lines = page
    .getByRole('table', { name: 'Responses' })
    .getByRole('row')
    .filter({ has: page.getByRole('cell') });
  await expect(lines.first()).toBeVisible();
  const all = Number(/^(\d+) answers/.exec((await page.getByText(/answers, newest first/).textContent()) ?? '')?.[1]);
  expect(all).toBeGreaterThan(5000);
  // Only what is in view is in the page, and the far end comes when it is scrolled to.
  expect(await lines.count()).toBeLessThan(60);
  await page.locator('cdk-virtual-scroll-viewport').evaluate((viewport) => viewport.scrollTo(0, viewport.scrollHeight));
  await expect(lines.last()).not.toHaveText('…');
  await expect(lines.last().getByRole('cell').nth(1)).toHaveText(/\w+/);

  await page.getByRole('combobox', { name: 'Child' }).click();
  await page.getByRole('option', { name: 'Wilfa' }).click();
  await page.getByLabel('Fact').fill('show:');
  await page.getByLabel('Fact').press('Enter');
  await page.getByRole('combobox', { name: 'Only' }).click();
  await page.getByRole('option', { name: 'wrong answers' }).click();
  await expect(page.getByText(/answers match/)).toBeVisible();
  const line = lines.first();
  await expect(line).toContainText('Wilfa');
  await expect(line).toContainText('(wrong)');
  const before = await line.innerText();

  await line.getByRole('button', { name: /^Correct/ }).click();
  await page.getByRole('menuitem', { name: 'Written wrongly (such as a reversed 3)' }).click();
  await expect(page.getByText(before.split('\n')[0] ?? '')).toHaveCount(0);
  await page.getByRole('combobox', { name: 'Only' }).click();
  await page.getByRole('option', { name: 'corrected' }).click();
  await expect(lines).toHaveCount(1);
  await expect(lines.first()).toContainText('writing slip');
  await expect(lines.first()).toContainText('corrected by');
  await lines
    .first()
    .getByRole('button', { name: /^Correct/ })
    .click();
  await page.getByRole('menuitem', { name: 'As first recorded' }).click();
  await expect(lines.first()).toContainText('(wrong)');

  await lines
    .first()
    .getByRole('button', { name: /^Correct/ })
    .click();
  await page.getByRole('menuitem', { name: 'Void the whole session …' }).click();
  await expect(page.getByRole('dialog')).toContainText('count for nothing');
  await page.getByRole('button', { name: 'Void the session' }).click();
  await expect(lines.first()).toContainText('session spoiled');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(lines.first()).not.toContainText('session spoiled');
  await page.getByLabel('Fact').fill('show:99');
  await page.getByLabel('Fact').press('Enter');
  await expect(page.getByText('No answers match.')).toBeVisible();
});

test('a class goes out whole and comes back the same in another school; a roster brings classes; answers go to the record store @long', async ({
  signedIn: page,
}, info) => {
  await page.goto('/files');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'The class (JSON)' }).click(),
  ]);
  const saved = info.outputPath('curlew.vane.json');
  await download.saveAs(saved);
  await page.getByRole('button', { name: 'Send' }).click();
  await expect(page.getByText(/statements sent to the store \(simulated/)).toBeVisible();

  const { server, drop } = await freshServer('empty');
  const other = await page.context().browser()!.newPage({ baseURL: server.url });
  const owner = {
    code: SET_UP_CODE,
    school: 'Reedbed Infants',
    className: 'Teal',
    name: 'Mate',
    email: 'mate@reedbed.example',
    password: 'buoys-on-the-water',
    children: ['Tamsin'],
  };
  await other.request.post('/api/set-up', { data: owner });
  await other.request.post('/api/me/care-read', { data: {} });
  await other.goto('/files');
  await other.getByTestId('archive').setInputFiles(saved);
  await expect(other.getByText(/^New: class Curlew, /)).toBeVisible();
  await other.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(other.getByText(/^Imported: \d+ new/)).toBeVisible();
  const me = (await (await other.request.get('/api/me')).json()) as Me;
  const made = me.classes.find((one) => one.name === 'Curlew');
  const again = await (await other.request.get(`/api/classes/${made?.id}/archive.json`)).text();
  expect(again).toBe(await readFile(saved, 'utf8'));

  await other.getByRole('button', { name: 'From the roster service' }).click();
  await expect(other.getByText(/^New: class Dunlin|class Sandpiper/)).toBeVisible();
  await other.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(other.getByText(/^Imported: \d+ new/)).toBeVisible();
  await other.getByRole('button', { name: 'Undo import', exact: true }).click();
  await expect(other.getByText(/Import undone: \d+ of a roster/)).toBeVisible();
  expect(((await (await other.request.get('/api/me')).json()) as Me).classes.map((one) => one.name)).toEqual([
    'Curlew',
    'Teal',
  ]);
  await other.close();
  await drop();
});
