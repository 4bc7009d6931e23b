import { readFile, writeFile } from 'node:fs/promises';
import { expect, test, freshServer } from '../vane';

const HEADER = 'response_id,child,sitting,shown_at,kind,fact,answer_mode,exposure_ms,response_ms,given,outcome,observed,aid,void';

test('the record goes out as CSV and comes back whole; bad rows are named and the rest is read', async ({ signedIn: page }, info) => {
  await page.goto('/log');
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Save as CSV' }).click()]);
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
  await other.getByTestId('file').setInputFiles(file);
  await expect(other.getByRole('status').filter({ hasText: 'rows read' })).toContainText('40 rows read: 39 new, 0 already here, 1 not readable.');
  await expect(other.getByText(/^line 5: .*answer_mode/)).toBeVisible();
  await expect(other.getByText('39 responses, newest first')).toBeVisible();

  // Again, put right: nothing twice.
  await writeFile(file, [lines[0], ...wanted].join('\n'));
  await other.getByTestId('file').setInputFiles(file);
  await expect(other.getByRole('status').filter({ hasText: 'rows read' })).toContainText('40 rows read: 1 new, 39 already here, 0 not readable.');
  const back = await (await other.request.get((await other.getByRole('link', { name: 'Save as CSV' }).getAttribute('href')) ?? '')).text();
  const body = (text: readonly string[]): string[] => [...text].sort();
  expect(body(back.trimEnd().split(/\r?\n/).slice(1))).toEqual(body(wanted));

  // A file that is none.
  await writeFile(file, 'name,score\nTamsin,7\n');
  await other.getByTestId('file').setInputFiles(file);
  await expect(other.getByRole('alert')).toContainText('Nothing was changed');
  await other.close();
  await drop();
});

test('the log is narrowed, scrolled, and put right; the original stays and the readings follow', async ({ signedIn: page }) => {
  await page.goto('/log');
  const lines = page.getByRole('table', { name: 'Responses' }).locator('.line:not(.head)');
  await expect(lines.first()).toBeVisible();
  const all = Number(/^(\d+) responses/.exec((await page.getByText(/responses, newest first/).textContent()) ?? '')?.[1]);
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
  await expect(page.getByText(/responses of those chosen/)).toBeVisible();
  const line = lines.first();
  await expect(line).toContainText('Wilfa');
  await expect(line).toContainText('(wrong)');
  const before = await line.innerText();

  await line.getByRole('button', { name: /^Put right/ }).click();
  await page.getByRole('menuitem', { name: 'A slip of the pen' }).click();
  await expect(page.getByText(before.split('\n')[0] ?? '')).toHaveCount(0);
  await page.getByRole('combobox', { name: 'Only' }).click();
  await page.getByRole('option', { name: 'corrected' }).click();
  await expect(lines).toHaveCount(1);
  await expect(lines.first()).toContainText('writing slip');
  await expect(lines.first()).toContainText('corrected by');
  await lines
    .first()
    .getByRole('button', { name: /^Put right/ })
    .click();
  await page.getByRole('menuitem', { name: 'As first recorded' }).click();
  await expect(lines.first()).toContainText('(wrong)');

  await lines
    .first()
    .getByRole('button', { name: /^Put right/ })
    .click();
  await page.getByRole('menuitem', { name: 'Void the whole sitting' }).click();
  await expect(lines.first()).toContainText('sitting spoiled');
  await page.getByLabel('Fact').fill('show:99');
  await page.getByLabel('Fact').press('Enter');
  await expect(page.getByText('Nothing in the record is like that.')).toBeVisible();
});
