import { signedIn } from './screens.mjs';

/* global window, document, addEventListener, MutationObserver */
/** What `npm run bench -- clocks` measures: how truly a press on one device and a show on another lie, when the clock of the other is wrong. */
const WRONG_MS = 3700;
const ROUNDS = 6;
const SHOWS = 10;

/** In the adult's page: when the clock was stopped, as the browser itself has it; both pages run on one machine, and share its true time. */
function watchPresses() {
  window.presses = [];
  addEventListener('keydown', (e) => e.key === ' ' && window.presses.push(performance.timeOrigin + e.timeStamp), true);
}

/** In the board's page: a clock that is wrong, and when a show really began. */
function watchShows(wrong) {
  const [origin, now] = [performance.timeOrigin, Date.now];
  Object.defineProperty(performance, 'timeOrigin', { value: origin + wrong });
  Date.now = () => now() + wrong;
  window.onsets = [];
  new MutationObserver(([first]) => {
    if (first.target.dataset.phase === 'show') window.onsets.push(origin + Number(document.timeline.currentTime));
  }).observe(document, { subtree: true, attributeFilter: ['data-phase'] });
}

async function round(page, base) {
  await page.goto('/carpet');
  await page.evaluate(watchPresses);
  await page.getByRole('button', { name: /^Settings .*usual/ }).click();
  await page.getByRole('combobox', { name: 'Answers', exact: true }).click();
  await page.getByRole('option', { name: 'says it, you enter it', exact: true }).click();
  for (const name of [String(SHOWS), 'none', 'a board']) await page.getByRole('radio', { name, exact: true }).click();
  await page.getByRole('button', { name: /^Begin with/ }).click();
  const code = await page.getByTestId('code').innerText();
  const context = await page
    .context()
    .browser()
    .newContext({ baseURL: base, viewport: { width: 1280, height: 800 } });
  const board = await context.newPage();
  await board.addInitScript(watchShows, WRONG_MS);
  await board.goto('/board');
  await board.getByRole('textbox', { name: 'Code' }).fill(code);
  await board.getByRole('button', { name: 'Go' }).click();
  const times = [];
  for (let i = 0; i < SHOWS; i++) {
    if (i > 0) await page.keyboard.press('Space');
    await board.locator('[data-phase=answer]').waitFor({ state: 'attached' });
    await page.keyboard.press('Space');
    await page.getByRole('button', { name: /^Enter the number/ }).waitFor();
    const [shown, pressed] = [await board.evaluate(() => window.onsets), await page.evaluate(() => window.presses)];
    times.push(pressed.at(-1) - shown.at(-1));
    await page.keyboard.press('3');
    await page.getByRole('button', { name: /^(Next|Finish)/ }).waitFor();
  }
  await page.keyboard.press('Space');
  await page.getByRole('heading', { name: /^Thank you/ }).waitFor();
  await context.close();
  return times;
}

/** By how much the times recorded are off, milliseconds, and what the record says of itself: every answer of some sittings, each with a board of its own. */
export async function clocks(base) {
  const { browser, page } = await signedIn(base);
  const me = await (await page.request.get('/api/me')).json();
  const log = async () => (await page.request.get(`/api/classes/${me.classes[0].id}/log`)).json();
  const off = [];
  for (let i = 0; i < ROUNDS; i++) {
    const before = (await log()).total;
    const times = await round(page, base);
    let rows = [];
    while (rows.length < SHOWS) {
      await page.waitForTimeout(200);
      const now = await log();
      rows = now.rows.slice(0, now.total - before).reverse();
    }
    rows.forEach((row, n) =>
      off.push({ n, ms: Math.abs(row.response_ms - times[n]), said: row.quality.clock_ms, first: n === 0 }),
    );
  }
  await browser.close();
  const of = (some, share) => some.map(({ ms }) => ms).sort((a, b) => a - b)[Math.ceil(some.length * share) - 1];
  return {
    wrongMs: WRONG_MS,
    sittings: ROUNDS,
    answers: off.length,
    firstMs: of(
      off.filter(({ first }) => first),
      1,
    ),
    p50: of(off, 0.5),
    p99: of(off, 0.99),
    // What the record says of itself is true to half a millisecond, the size of a clock's tick.
    outside: off.filter(({ ms, said }) => ms > said + 0.5).length,
  };
}
