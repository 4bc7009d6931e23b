import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Download, Page } from '@playwright/test';
import { classOf, expect, newResponses, recordOf, test, usualCarpet, refused } from '../vane';

let folder: string;
test.beforeAll(() => (folder = mkdtempSync(join(tmpdir(), 'vane-prints-'))));
test.afterAll(() => rmSync(folder, { recursive: true }));

/** What a PDF says, as Debian's pdftotext reads it. */
async function textOf(download: Download): Promise<string> {
  const file = join(folder, download.suggestedFilename());
  await download.saveAs(file);
  return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
}

async function saved(page: Page, button: string): Promise<Download> {
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: button }).click(),
  ]);
  return download;
}

/** Ink on the first page of the preview: whether it was drawn at all. */
const inkOf = (page: Page): Promise<number> =>
  page
    .locator('vane-preview canvas')
    .first()
    .evaluate((canvas: HTMLCanvasElement) => {
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
      let dark = 0;
      for (let i = 0; i < data.length; i += 4)
        dark += Number(data[i + 3]! > 0 && data[i]! + data[i + 1]! + data[i + 2]! < 400);
      return dark;
    });

test('cards are seen before they are printed, and saved as PDF and as SVG', async ({ signedIn: page, expectSaid }) => {
  expectSaid(refused(422));
  await usualCarpet(page);
  await page.goto('/prints');
  await expect(page.getByText('4 pages.')).toBeVisible();
  expect(await inkOf(page)).toBeGreaterThan(1000);
  await page.getByRole('button', { name: 'Number sentence cards' }).click();
  await page.getByRole('group', { name: 'Totals' }).getByRole('button', { name: '5', exact: true }).click();
  await page.getByRole('group', { name: 'Totals' }).getByRole('button', { name: '3', exact: true }).click();
  await page.getByRole('checkbox', { name: /^backs/ }).uncheck();
  await expect(page.getByText('3 pages.')).toBeVisible();
  const text = await textOf(await saved(page, 'Save as PDF'));
  expect(text).toMatch(/2 \+ 1 = __\s+3/);
  const zip = await saved(page, 'Cards as SVG');
  expect(zip.suggestedFilename()).toBe('sentence-cards.zip');
  await expect(page.getByText('The cards are saved')).toBeVisible();
  await page.getByRole('group', { name: 'Totals' }).getByRole('button', { name: '3', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('There is nothing to print');
});

test('from a child: its home sheet and its hand-over, and nobody else’s', async ({ signedIn: page }) => {
  const { children } = await classOf(page);
  const [one, other] = children;
  await page.goto(`/children/${one!.id}`);
  await page.getByRole('button', { name: 'What can I tell parents?' }).click();
  await page.getByRole('link', { name: 'Home sheet' }).click();
  await expect(page.getByRole('combobox', { name: 'Child' })).toContainText(one!.nickname);
  await expect(page.getByText('One page.')).toBeVisible();
  const home = await textOf(await saved(page, 'Save as PDF'));
  expect(home).toContain(`${one!.nickname} plays with`);
  expect(home).not.toContain(other!.nickname);
  await page.goto(`/children/${one!.id}`);
  await page.getByRole('link', { name: 'Hand-over' }).click();
  await expect(page.getByText(/pages?\.$/)).toBeVisible();
  expect(await textOf(await saved(page, 'Save as PDF'))).toContain('What it cannot say');
});

test('from the class: a sheet for a helper, made, printed and keyed in by keys alone', async ({ signedIn: page }) => {
  await page.goto('/class');
  await page.getByRole('link', { name: 'Print a sheet for a helper' }).first().click();
  await expect(page.getByRole('row').first()).toBeVisible();
  await page.getByRole('button', { name: 'Make the sheet' }).click();
  await expect(page.getByText('One page.')).toBeVisible();
  const text = await textOf(await saved(page, 'Save as PDF'));
  const code = /group sheet (\w{6})/.exec(text)?.[1] ?? '';
  await page.getByRole('link', { name: `Enter ${code}` }).click();
  const first = page.locator('td input').first();
  const [nickname, question] = ((await first.getAttribute('aria-label')) ?? '').split(/, (.*)/);
  expect(text).toContain(nickname);
  const before = await recordOf(page, nickname!);
  await first.focus();
  await page.keyboard.type('11');
  await expect(page.getByText('One entry is not a number')).toBeVisible();
  await page.keyboard.press('Backspace');
  await page.keyboard.type('c');
  await page.keyboard.press('Enter');
  await page.keyboard.type('2');
  await page.getByRole('button', { name: 'Save two answers' }).click();
  await expect(page).toHaveURL(/\/log/);
  const rows = await newResponses(page, nickname!, before, 2);
  expect(rows.map((r) => [r.given, r.observed, r.response_ms, r.answer_mode]).sort()).toEqual([
    ['1', 'counted', null, 'spoken'],
    ['2', '', null, 'spoken'],
  ]);
  expect(question).not.toBe('');
  await page.goto('/prints?what=group-sheet');
  await expect(page.getByRole('listitem').filter({ hasText: code })).toContainText('entered on');
});

test('charts go out as SVG and PNG, and the plan as a calendar @long', async ({ signedIn: page }) => {
  const { child } = await recordOf(page, 'Oriel');
  await page.goto(`/children/${child.id}?see=add`);
  await page.getByText(/^All (one answer|\d+ answers)$/).click();
  const svg = await saved(page, 'Save as SVG: evidence');
  const file = join(folder, svg.suggestedFilename());
  await svg.saveAs(file);
  const text = readFileSync(file, 'utf8');
  expect(text).toMatch(/^<svg[^>]+xmlns="http:\/\/www\.w3\.org\/2000\/svg"/);
  for (const name of ['right', 'wrong', 'left out']) expect(text).toContain(`>${name}</text>`);
  expect(text).not.toMatch(/foreignObject|<script|https?:\/\/(?!www\.w3\.org)/);
  const png = await saved(page, 'Save as PNG: evidence');
  await png.saveAs(join(folder, 'evidence.png'));
  expect(readFileSync(join(folder, 'evidence.png')).subarray(1, 4).toString()).toBe('PNG');
  await page.goto('/today');
  const sessions = page.getByRole('list', { name: 'Planned sessions' }).locator(':scope > li');
  await expect(sessions.first()).toBeVisible();
  // What fits into the minutes.
  const fitting = sessions.filter({ hasNotText: 'below the water line' });
  const titles = await fitting.getByRole('heading', { level: 2 }).allInnerTexts();
  expect(titles.length).toBeGreaterThan(0);
  const calendar = await saved(page, 'Add to calendar');
  await calendar.saveAs(join(folder, 'plan.ics'));
  const events = readFileSync(join(folder, 'plan.ics'), 'utf8').replaceAll('\r\n ', '').split('BEGIN:VEVENT').slice(1);
  const summaries = events.map((event) => (/SUMMARY:(.*)/.exec(event)?.[1] ?? '').replaceAll('\\', ''));
  expect(summaries.map((summary, i) => summary.startsWith(`${titles[i]}: `))).toEqual(titles.map(() => true));
});
