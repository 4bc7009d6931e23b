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
  endSession,
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
async function pair(
  page: Page,
  browser: Browser,
  baseURL: string | undefined,
  prepare: (board: Page) => Promise<unknown> = () => Promise.resolve(),
): Promise<Page> {
  const code = await page.getByTestId('code').innerText();
  const context = await browser.newContext({ baseURL: baseURL ?? '', viewport: { width: 1280, height: 800 } });
  const board = await context.newPage();
  await prepare(board);
  await board.goto('/board');
  await board.getByRole('textbox', { name: 'Code' }).fill(code.toLowerCase());
  await board.getByRole('button', { name: 'Go' }).click();
  await expect(page.getByText(/The other screen is connected/)).toBeVisible();
  return board;
}

test('the stage is shown and measured on a board, marked from the adult’s screen; reopened or cut off, nothing is lost @long', async ({
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
  await expect(page.getByRole('button', { name: /^Show (?!it)/ })).toBeVisible();
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
  await endSession(page);
  const rows = await newResponses(page, 'Bram', before, 2);
  expect(rows.map((r) => [r.given, r.outcome])).toEqual([
    [String(first), 'correct'],
    [String(second), 'correct'],
  ]);
  // Seen as long as asked, or told that it was not, or until the answer came; timed over both devices, and later than an eye could be.
  const { exposure_ms, response_ms, quality, flags } = rows[0]!;
  const frame = quality!.frame_ms;
  expect(quality!.asked_ms).toBe(750);
  // The stage hears of an answer a little after it came, and covers the picture in any case when its time is over; a board that was late says so.
  if (response_ms! < 750) {
    expect(exposure_ms).toBeGreaterThan(response_ms! - 4 * frame);
    if (!flags.includes('exposure-off')) expect(exposure_ms).toBeLessThan(750 + 4 * frame);
  } else expect(flags.includes('exposure-off')).toBe(Math.abs(exposure_ms! - 750) > 1.05 * frame);
  expect(quality!.clock_ms).toBeLessThan(5);
  expect(response_ms).toBeGreaterThan(100);
  expect(response_ms).toBeLessThan(10_000);
  await page.getByRole('button', { name: 'Change the settings' }).click();
  await expect(board.getByRole('textbox', { name: 'Code' })).toBeVisible();
  expect((await board.request.get('/api/me')).status()).toBe(401);
});

test('a board that does not come is left out: the session goes on with this screen', async ({ signedIn: page }) => {
  const before = await recordOf(page, 'Bram');
  await choose(page, 'Bram', 'a board');
  await page.getByRole('button', { name: 'Begin with Bram' }).click();
  await expect(page.getByTestId('code')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Waiting for the other screen' })).toBeVisible();
  await page.getByRole('button', { name: 'Go on with this screen' }).click();
  await expect(page.getByTestId('code')).toBeHidden();
  await shown(page);
  const n = await onStage(page);
  await page.keyboard.press(n === 10 ? 't' : String(n));
  await expect(page.getByRole('button', { name: /^Next/ })).toBeVisible();
  await endSession(page);
  const [row] = await newResponses(page, 'Bram', before, 1);
  expect([row?.given, row?.outcome, row?.quality?.clock_ms]).toEqual([String(n), 'correct', undefined]);
});

test('a child sits alone with a tablet: it shows each question itself, and the next comes by itself @long', async ({
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

/** By how much the board's own clock is wrong, ms. */
const WRONG_MS = 3700;

test('a press on one device and a show on another, whose clock is wrong, lie true to two milliseconds from the first answer on', async ({
  signedIn: page,
  browser,
  baseURL,
  expectSaid,
}) => {
  expectSaid(refused(401));
  const before = await recordOf(page, 'Teodor');
  await choose(page, 'Teodor', 'a board');
  await pickOption(page, 'Answers', 'says it, you enter it');
  // Both pages run on this machine: what the browser itself takes for the true time is the same for both.
  await page.evaluate(() => {
    const stamps: number[] = [];
    Object.assign(window, { stamps });
    addEventListener('keydown', (e) => e.key === ' ' && stamps.push(performance.timeOrigin + e.timeStamp), true);
  });
  await page.getByRole('button', { name: 'Begin with Teodor' }).click();
  const board = await pair(page, browser, baseURL, (other) =>
    other.addInitScript((wrong) => {
      const [origin, now] = [performance.timeOrigin, Date.now];
      Object.defineProperty(performance, 'timeOrigin', { value: origin + wrong });
      Date.now = () => now() + wrong;
      const onsets: number[] = [];
      Object.assign(window, { onsets });
      // The frame that changed the stage is still the current one when this is told of it.
      new MutationObserver(([first]) => {
        const stage = first?.target as HTMLElement;
        if (stage.dataset['phase'] === 'show') onsets.push(origin + Number(document.timeline.currentTime));
      }).observe(document, { subtree: true, attributeFilter: ['data-phase'] });
    }, WRONG_MS),
  );
  const [shows, presses]: [number[], number[]] = [[], []];
  for (let i = 0; i < 5; i++) {
    if (i > 0) await page.keyboard.press('Space');
    await shown(board);
    const n = await onStage(board);
    await expect(stage(board)).toHaveAttribute('data-phase', 'answer');
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: /^Enter the number/ })).toBeVisible();
    shows.push((await board.evaluate(() => (window as unknown as { onsets: number[] }).onsets)).at(-1)!);
    presses.push((await page.evaluate(() => (window as unknown as { stamps: number[] }).stamps)).at(-1)!);
    await page.keyboard.press(n === 10 ? 't' : String(n));
    await expect(page.getByRole('button', { name: /^(Next|Finish)/ })).toBeVisible();
  }
  await page.keyboard.press('Space');
  await expect(page.getByRole('heading', { name: 'Thank you, Teodor.' })).toBeVisible();
  const rows = await newResponses(page, 'Teodor', before, 5);
  const off = rows.map(({ response_ms }, i) => Math.abs((response_ms ?? NaN) - (presses[i]! - shows[i]!)));
  expect(Math.max(...off)).toBeLessThanOrEqual(2);
  // What the record says of itself is true.
  rows.forEach(({ quality }, i) => expect(off[i]).toBeLessThanOrEqual((quality?.clock_ms ?? 0) + 0.5));
});
