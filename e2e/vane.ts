import { test as base, expect, type BrowserContext, type Locator, type Page } from '@playwright/test';
import {
  DEFAULT_CARPET,
  type ChildRecord,
  type ClassView,
  type LogPage,
  type Me,
  type RecordRow,
} from '@vane/contract';
import { routineOf } from '@vane/core';
import { administer, DEMO, everyRow, TEMPLATE, VaneServer } from './server';

/** Vane with the demo, one server and one database for all tests of a worker; and the words a teacher would use for what is done on its screens. */
let made = 0;

/** A server on a database made from the demo, or on an empty one. */
export async function freshServer(from: 'demo' | 'empty'): Promise<{ server: VaneServer; drop: () => Promise<void> }> {
  const name = `e2e_${process.pid}_${made++}`;
  await administer(`create database ${name}${from === 'demo' ? ` template ${TEMPLATE}` : ''}`);
  const server = await VaneServer.on(name);
  return {
    server,
    drop: async () => {
      await server.stop();
      await administer(`drop database ${name} with (force)`);
    },
  };
}

/** What a browser writes in every test, whatever Vane does. */
const NOTED = [
  // That nobody is signed in is an answer with a status, and every such status is noted.
  /^Failed to load resource: the server responded with a status of 401 \(Unauthorized\) \S+\/api\/me$/,
  /^Service Worker registration blocked by Playwright/,
];
/** What a browser notes where a test takes the server or the network away, or is refused something. */
export const NO_ANSWER = /net::ERR_/;
export const refused = (status: number): RegExp => new RegExp(`the server responded with a status of ${status} `);

/** What pages and servers have written during a test, and what of it the test expects. */
interface Heard {
  readonly lines: string[];
  readonly expected: RegExp[];
}

/** Hears the console of every page of a context, of its workers too, and errors that nobody caught. */
function hear(context: BrowserContext, { lines }: Heard): void {
  context.on('console', (message) => {
    if (message.type() !== 'error' && message.type() !== 'warning') return;
    const text = `${message.text()} ${message.location().url}`;
    if (!NOTED.some((one) => one.test(text))) lines.push(text);
  });
  context.on('weberror', (error) => lines.push(`uncaught: ${error.error().stack ?? String(error.error())}`));
}

interface Fixtures {
  signedIn: Page;
  heard: Heard;
  /** Says that this is to be expected on the console, of a page or of the server. */
  expectSaid: (...what: RegExp[]) => void;
  /** Fails the test whose pages or servers write an error or a warning that it did not expect. */
  quiet: undefined;
}

export const test = base.extend<Fixtures, { vane: VaneServer }>({
  heard: async ({}, use) => use({ lines: [], expected: [] }),
  expectSaid: async ({ heard }, use) => use((...what) => void heard.expected.push(...what)),
  quiet: [
    async ({ browser, heard }, use) => {
      VaneServer.said.length = 0;
      const usual = browser.newContext.bind(browser);
      browser.newContext = async (options) => {
        const context = await usual(options);
        hear(context, heard);
        return context;
      };
      await use(undefined);
      browser.newContext = usual;
      const lines = [...new Set([...heard.lines, ...VaneServer.said])];
      expect(
        lines.filter((text) => !heard.expected.some((one) => one.test(text))),
        'what was written to the console',
      ).toEqual([]);
    },
    { auto: true },
  ],
  vane: [
    async ({}, use) => {
      const { server, drop } = await freshServer('demo');
      await use(server);
      await drop();
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ vane }, use) => use(vane.url),
  /** A page signed in to the demo, not yet anywhere. */
  signedIn: async ({ page }, use) => {
    expect((await page.request.post('/api/sign-in', { data: DEMO })).status()).toBe(200);
    await use(page);
  },
});
export { DEMO, everyRow, expect };

export async function classOf(page: Page): Promise<ClassView> {
  const me = (await (await page.request.get('/api/me')).json()) as Me;
  return (await (await page.request.get(`/api/classes/${me.classes[0]?.id ?? ''}`)).json()) as ClassView;
}

/** A child's record as it is now, or as it stood at the end of a day. */
export async function recordOf(page: Page, nickname: string, until?: string): Promise<ChildRecord> {
  const view = await classOf(page);
  const child = view.children.find((c) => c.nickname === nickname);
  return (await (
    await page.request.get(`/api/classes/${view.id}/children/${child?.id ?? ''}${until ? `?until=${until}` : ''}`)
  ).json()) as ChildRecord;
}

/** What the server has of this child that was not there before, oldest first; waits until there are that many. */
export async function newResponses(
  page: Page,
  nickname: string,
  before: ChildRecord,
  count: number,
  exactly = true,
): Promise<RecordRow[]> {
  const known = new Set(before.responses.map((r) => r.response_id));
  const { id } = await classOf(page);
  const fresh = async (): Promise<RecordRow[]> => {
    const log = (await (await page.request.get(`/api/classes/${id}/log`)).json()) as LogPage;
    return log.rows.filter((r) => r.nickname === nickname && !known.has(r.response_id));
  };
  const counted = expect.poll(async () => (await fresh()).length, { timeout: 20_000 });
  await (exactly ? counted.toBe(count) : counted.toBeGreaterThanOrEqual(count));
  return (await fresh()).sort((a, b) => (a.shown_at + a.response_id < b.shown_at + b.response_id ? -1 : 1));
}

interface SittingChoice {
  readonly child: string;
  readonly answers?: 'the child taps' | 'says it, you enter it' | 'presses an answer pad' | 'speaks to the voice key';
  readonly seenFor?: string;
  readonly picture?: 'five frame' | 'frame by fives' | 'frame by pairs';
  readonly warmUp?: boolean;
  readonly shows?: 5 | 10;
  /** Every show waits for a press: so that a test can be ready too. */
  readonly byHand?: boolean;
  /** False while the server is dead on purpose. */
  readonly reachable?: boolean;
}

/** Waits until the page has all that it asked for: what it says of itself, not until the network has been quiet for a while. */
export const settled = (page: Page): Promise<void> => page.locator('html[data-settled]').waitFor({ state: 'attached' });

/** The carpet as a new class has it, whatever an earlier test has chosen. */
export async function usualCarpet(page: Page): Promise<void> {
  const { id } = await classOf(page);
  expect((await page.request.put(`/api/classes/${id}/carpet`, { data: DEFAULT_CARPET })).status()).toBe(204);
}

/** Chooses from one of the page's lists, unless it is chosen already; the list is closed afterwards, though it may take several. */
export async function pickOption(page: Page, list: string, option: string): Promise<void> {
  const box = page.getByRole('combobox', { name: list, exact: true });
  if ((await box.textContent())?.trim() === option) return;
  await box.click();
  const several = (await page.getByRole('listbox').getAttribute('aria-multiselectable')) === 'true';
  await page.getByRole('option', { name: option, exact: true }).click();
  if (several) await page.keyboard.press('Escape');
  await expect(box).toHaveAttribute('aria-expanded', 'false');
}

/** Takes a routine from the shelf. */
export async function pickRoutine(page: Page, title: string): Promise<void> {
  await page.locator('vane-shelf').getByRole('button', { name: title, exact: true }).last().click();
  await expect(page.getByRole('region', { name: title, exact: true }).last()).toBeVisible();
}

/** Unfolds the settings of Carpet. */
export async function openSettings(page: Page): Promise<void> {
  const header = page.getByRole('button', { name: /^Settings .*usual/ });
  if ((await header.getAttribute('aria-expanded')) !== 'true') await header.click();
  await expect(page.getByRole('combobox', { name: 'Ready for' })).toBeVisible();
}

/** Opens Carpet for a child and a routine, as a new class has it, without a warm-up; settings are unfolded. */
export async function chooseRoutine(page: Page, child: string, routine: string): Promise<void> {
  const { children } = await classOf(page);
  await usualCarpet(page);
  await page.goto(`/carpet?child=${children.find((c) => c.nickname === child)?.id ?? ''}&routine=${routine}`);
  await openSettings(page);
  // Where nothing is timed there is nothing to warm up for.
  if (!routineOf(routine).untimed) await page.getByRole('radio', { name: 'none', exact: true }).click();
}

/** Chooses on Carpet and begins. */
export async function beginSitting(page: Page, wish: SittingChoice): Promise<void> {
  if (wish.reachable !== false) await usualCarpet(page);
  await page.goto('/carpet');
  await pickOption(page, 'Child', wish.child);
  await pickRoutine(page, 'Flash and say');
  await openSettings(page);
  if (wish.seenFor) await pickOption(page, 'Show for', wish.seenFor);
  const choose = (name: string): Promise<void> => page.getByRole('radio', { name, exact: true }).click();
  await pickOption(page, 'Answers', wish.answers ?? 'the child taps');
  await pickOption(page, 'Layout', wish.picture ?? 'frame by fives');
  if (wish.byHand) await pickOption(page, 'Ready for', 'by hand');
  await choose(String(wish.shows ?? 5));
  if (wish.warmUp === false) await choose('none');
  await begin(page, wish.child);
}

/** Begins what has been chosen, and waits until the stage listens. */
export async function begin(page: Page, who: string | RegExp = /^Begin with/): Promise<void> {
  await page.getByRole('button', { name: typeof who === 'string' ? `Begin with ${who}` : who }).click();
  await expect(page.getByRole('button', { name: 'More …' })).toBeVisible();
}

/** What is rarely wanted on the carpet is behind one button. */
export async function more(page: Page, what: string): Promise<void> {
  await page.getByRole('button', { name: 'More …' }).click();
  await page.getByRole('menuitem', { name: what, exact: true }).click();
}
export const endSession = (page: Page): Promise<void> => more(page, 'End');

export const stage = (page: Page): Locator => page.getByTestId('stage');
export const number = (page: Page, n: number): Locator =>
  page.getByRole('group', { name: 'Numbers' }).getByRole('button', { name: String(n), exact: true });

/** Waits until the child can answer: the show is on, or has been. */
export async function shown(page: Page): Promise<void> {
  await expect(stage(page)).toHaveAttribute('data-phase', /show|mask|answer/);
}

/** Goes on where an answer stands, and waits for the show: after the ready it comes by itself, or by one more press. */
export async function nextShow(page: Page): Promise<void> {
  const main = page.locator('button.main');
  const phase = await stage(page).getAttribute('data-phase');
  if (phase === 'feedback' || phase === 'laid') {
    await page.keyboard.press('Space');
    await expect(main).not.toHaveText(/^\s*Next/);
  }
  if (/^\s*Show/.test((await main.textContent()) ?? '')) await page.keyboard.press('Space');
  await shown(page);
}

/** How many dots, or which numeral, the stage holds: what a child with good eyes would know. */
export async function onStage(page: Page): Promise<number> {
  const numeral = await stage(page).locator('.picture text').allTextContents();
  return numeral.length > 0 ? Number(numeral[0]) : stage(page).locator('.picture circle').count();
}

/** Opens a session of the plan, where it is not. */
export async function openSession(row: Locator): Promise<void> {
  const details = row.getByRole('button', { name: /^Details: / });
  if ((await details.getAttribute('aria-expanded')) === 'false') await details.click();
}
