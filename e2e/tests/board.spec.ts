import {
  expect,
  newResponses,
  NO_ANSWER,
  number,
  refused,
  onStage,
  openSettings,
  pickOption,
  pickRoutine,
  recordOf,
  shown,
  stage,
  test,
  usualCarpet,
} from '../vane';
import type { Browser, Page } from '@playwright/test';

async function choose(page: Page, child: string, screens: string): Promise<void> {
  await usualCarpet(page);
  await page.goto('/carpet');
  await pickOption(page, 'Child', child);
  await pickRoutine(page, 'Flash and say');
  await openSettings(page);
  await pickOption(page, 'Layout', 'frame by fives');
  await page.getByRole('radio', { name: '5', exact: true }).click();
  await page.getByRole('radio', { name: 'none', exact: true }).click();
  await page.getByRole('radio', { name: screens }).click();
}

/** Another device, paired by the code on the adult's screen. */
async function pair(page: Page, browser: Browser, baseURL: string | undefined): Promise<Page> {
  const code = await page.getByTestId('code').innerText();
  const context = await browser.newContext({ baseURL: baseURL ?? '', viewport: { width: 1280, height: 800 } });
  const board = await context.newPage();
  await board.goto('/board');
  await board.getByRole('textbox', { name: 'Code' }).fill(code.toLowerCase());
  await board.getByRole('button', { name: 'Go' }).click();
  await expect(page.getByText(/The other screen is connected/)).toBeVisible();
  return board;
}

test('the stage is shown and measured on a board, marked from the adult’s screen; reopened or cut off, nothing is lost', async ({
  signedIn: page,
  browser,
  baseURL,
  expectSaid,
}) => {
  expectSaid(NO_ANSWER, refused(401));
  const before = await recordOf(page, 'Bram');
  await choose(page, 'Bram', 'a board');
  await pickOption(page, 'Answers', 'says it, you enter it');
  await page.getByRole('button', { name: 'Begin with Bram' }).click();
  const board = await pair(page, browser, baseURL);

  // Joined, it shows after the ready. The child speaks; the adult stops the clock and enters the number, here.
  await shown(board);
  expect((await stage(board).textContent())?.trim()).toBe('');
  await expect(board.getByRole('button')).toHaveCount(0);
  const first = await onStage(board);
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: /^Enter the number/ })).toBeVisible();
  await page.keyboard.press(first === 10 ? 't' : String(first));
  await expect(page.getByRole('button', { name: /^Next/ })).toBeVisible();

  // The board is opened anew in the middle of a show: the question is put again.
  await page.keyboard.press('Space');
  await shown(board);
  await board.reload();
  await expect(page.getByRole('button', { name: /^Show/ })).toBeVisible();
  await page.keyboard.press('Space');
  await shown(board);

  // The board's link breaks while the child answers: the answer is there when it comes back.
  const second = await onStage(board);
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: /^Enter the number/ })).toBeVisible();
  const cutOff = board.waitForEvent('requestfailed');
  await board.context().setOffline(true);
  await page.keyboard.press(second === 10 ? 't' : String(second));
  // It has noticed, and asks in vain.
  await cutOff;
  await board.context().setOffline(false);
  await expect(page.getByRole('button', { name: /^Next/ })).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'End', exact: true }).click();
  const rows = await newResponses(page, 'Bram', before, 2);
  expect(rows.map((r) => [r.given, r.outcome])).toEqual([
    [String(first), 'correct'],
    [String(second), 'correct'],
  ]);
  expect(rows[0]?.response_ms).toBeGreaterThan(0);
  expect(rows[0]?.quality?.clock_ms).toBeLessThan(200);
  expect(rows[0]?.exposure_ms).toBeLessThan(900);
  await page.getByRole('button', { name: 'Change the settings' }).click();
  await expect(board.getByRole('textbox', { name: 'Code' })).toBeVisible();
  expect((await board.request.get('/api/me')).status()).toBe(401);
});

test('a child sits alone with a tablet: it shows each question itself, and the next comes by itself', async ({
  signedIn: page,
  browser,
  baseURL,
  expectSaid,
}) => {
  expectSaid(refused(401));
  const before = await recordOf(page, 'Nuru');
  await choose(page, 'Nuru', 'the child on a tablet');
  await pickOption(page, 'Answers', 'the child taps');
  await page.getByRole('button', { name: 'Begin with Nuru' }).click();
  const tablet = await pair(page, browser, baseURL);
  await tablet.getByRole('button', { name: 'Ready' }).click();
  const seen: string[] = [];
  for (let i = 0; i < 5; i++) {
    await shown(tablet);
    const n = await onStage(tablet);
    seen.push(String(n));
    await number(tablet, n).click();
    await expect(stage(tablet)).toHaveAttribute('data-phase', 'feedback');
    if (i < 4) await expect(stage(tablet)).not.toHaveAttribute('data-phase', 'feedback');
  }
  await expect(page.getByRole('heading', { name: 'Thank you, Nuru.' })).toBeVisible();
  const rows = await newResponses(page, 'Nuru', before, 5);
  expect(rows.map((r) => [r.given, r.outcome])).toEqual(seen.map((n) => [n, 'correct']));
  expect(rows.every((r) => r.response_ms !== null && r.quality?.clock_ms === undefined)).toBe(true);
});
