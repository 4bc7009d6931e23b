import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { chromiumProgram, ROOT } from './setup.mjs';

/* global window, document, MutationObserver, ApexCharts */
/** What `npm run bench` measures in a browser: exposures, memory, and the one chart it draws. */
async function open(base) {
  const { chromium } = await import('@playwright/test');
  const browser = await chromium.launch({ executablePath: chromiumProgram(), args: ['--no-sandbox'] });
  return { browser, page: await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: base }) };
}

export async function signedIn(base) {
  const opened = await open(base);
  await opened.page.request.post('/api/sign-in', {
    data: { email: 'keeper@saltmarsh.example', password: 'lanterns-on-the-jetty' },
  });
  await opened.page.request.post('/api/me/care-read', { data: {} });
  return opened;
}

/** In the page: from the press that marks an answer to the moment the button that begins the next show says so. */
function watchMarks() {
  let markedAt = null;
  window.nextMs = [];
  window.addEventListener('keydown', (event) => event.key === '3' && (markedAt = event.timeStamp), true);
  new MutationObserver(() => {
    if (markedAt === null || !/Next|Finish/.test(document.querySelector('button.main')?.textContent ?? '')) return;
    window.nextMs.push(performance.now() - markedAt);
    markedAt = null;
  }).observe(document, { subtree: true, childList: true, characterData: true });
}

/** By then a page has fetched what it fetches ahead, ms. */
const SETTLED_MS = 2000;

/** Views by the name of the link that leads to them, with what shows that they can be used. */
const VIEWS = [
  { path: '/today', link: 'Today', sign: '.does button' },
  { path: '/children', link: 'Children', sign: 'li a' },
  { path: '/class', link: 'Class', sign: 'vane-class-picture .child' },
  { path: '/log', link: 'Log', sign: 'cdk-row' },
  { path: '/prints', link: 'Prints', sign: 'vane-preview canvas, vane-preview img' },
];

/**
 * Opens every view of a class, each three times in a page of its own: from the address, which starts the application too, and from the press of a link in it, to something
 * that can be pressed. Milliseconds, the middle of three.
 */
export async function views({ base, cookie, child }) {
  const { browser } = await open(base);
  const [name, value] = cookie.split('=');
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: base });
  await context.addCookies([{ name, value, url: base }]);
  await context.request.post('/api/me/care-read', { data: {} });
  // The record is a year old here as it is in a school: its past weeks have been judged.
  const me = await (await context.request.get('/api/me')).json();
  const weeks = `/api/classes/${me.classes[0].id}/over-time`;
  while ((await (await context.request.get(weeks)).json()).pending > 0) await wait(1000);
  const middle = async (once) => {
    const took = [];
    for (let i = 0; i < 3; i++) {
      const page = await context.newPage();
      took.push(await once(page));
      await page.close();
    }
    return took.sort((a, b) => a - b)[1];
  };
  const until = async (page, sign, act) => {
    const began = performance.now();
    await act();
    await page.locator(sign).first().waitFor();
    return performance.now() - began;
  };
  const all = [
    ...VIEWS,
    { path: `/children/${child.id}`, link: child.nickname, from: '/children', sign: 'vane-evidence' },
  ];
  const found = [];
  for (const { path, link, from = '/account', sign } of all) {
    const fromAddress = await middle((page) => until(page, sign, () => page.goto(path, { waitUntil: 'commit' })));
    const fromLink = await middle(async (page) => {
      await page.goto(from);
      const there = page.getByRole('link', { name: link, exact: true });
      await there.waitFor();
      await page.waitForTimeout(SETTLED_MS);
      return until(page, sign, () => there.click());
    });
    found.push({ view: path.replace(child.id, '…'), fromAddress, fromLink });
  }
  await browser.close();
  return found;
}

/** Runs real shows in Chromium at several lengths and compares the recorded exposure with the asked one. */
export async function shows(base) {
  const { browser, page } = await signedIn(base);
  const me = await (await page.request.get('/api/me')).json();
  const log = async () => (await page.request.get(`/api/classes/${me.classes[0].id}/log`)).json();
  const before = (await log()).total;
  await page.addInitScript(watchMarks);
  const lengths = ['0.2 s', '0.5 s', '0.75 s', '1 s'];
  const next = [];
  for (const length of lengths) {
    await page.goto('/carpet');
    await page.getByRole('button', { name: /^Settings .*usual/ }).click();
    await page.getByRole('combobox', { name: 'Show for' }).click();
    await page.getByRole('option', { name: length, exact: true }).click();
    await page.getByRole('radio', { name: '20', exact: true }).click();
    await page.getByRole('radio', { name: 'none', exact: true }).click();
    await page.getByRole('button', { name: /^Begin with/ }).click();
    for (let i = 0; i < 20; i++) {
      await page.keyboard.press('Space');
      await page.locator('[data-phase=answer]').waitFor({ state: 'attached' });
      await page.keyboard.press('3');
      await page.locator('[data-phase=feedback]').waitFor({ state: 'attached' });
    }
    await page.keyboard.press('Space');
    await page.getByRole('heading', { name: /^Thank you/ }).waitFor();
    next.push(...(await page.evaluate(() => window.nextMs)));
  }
  const wanted = before + 20 * lengths.length;
  while ((await log()).total < wanted) await page.waitForTimeout(200);
  const rows = (await log()).rows.slice(0, 20 * lengths.length);
  await browser.close();
  const within = rows.filter((r) => Math.abs(r.exposure_ms - r.quality.asked_ms) <= r.quality.frame_ms).length;
  return {
    shows: rows.length,
    within: within / rows.length,
    flagged: rows.filter((r) => r.flags.includes('exposure-off')).length,
    dropped: rows.filter((r) => r.quality.dropped_frames > 0).length,
    frameMs: rows[0].quality.frame_ms,
    nextMs: next.sort((a, b) => a - b)[Math.floor(next.length * 0.95)],
  };
}

const SITTINGS = 50;
const SHOWS = 20;
const EVERY = 10;

/** Sitting after sitting in one page: what the page holds after each rubbish collection, and what the server does. Memory in megabytes. */
export async function longSitting(base, serverPid) {
  const { browser, page } = await signedIn(base);
  const devtools = await page.context().newCDPSession(page);
  await devtools.send('Performance.enable');
  const points = [];
  const look = async (shows) => {
    await devtools.send('HeapProfiler.collectGarbage');
    const { metrics } = await devtools.send('Performance.getMetrics');
    const of = (name) => metrics.find((m) => m.name === name).value;
    const resident = Number(/VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${serverPid}/status`, 'utf8'))[1]);
    points.push({
      shows,
      heapMb: of('JSHeapUsedSize') / 1e6,
      nodes: of('Nodes'),
      listeners: of('JSEventListeners'),
      serverMb: resident / 1024,
    });
  };
  await page.goto('/carpet');
  await page.getByRole('button', { name: /^Settings .*usual/ }).click();
  for (const [list, option] of [
    ['Show for', 'until answered'],
    ['Answers', 'the child taps'],
  ]) {
    await page.getByRole('combobox', { name: list, exact: true }).click();
    await page.getByRole('option', { name: option, exact: true }).click();
  }
  await page.getByRole('radio', { name: String(SHOWS), exact: true }).click();
  await page.getByRole('radio', { name: 'none', exact: true }).click();
  await look(0);
  await page.getByRole('button', { name: /^Begin with/ }).click();
  for (let sitting = 1; sitting <= SITTINGS; sitting++) {
    await page.locator('[data-phase=ready]').waitFor({ state: 'attached' });
    for (let i = 0; i < SHOWS; i++) {
      await page.keyboard.press('Space');
      await page.locator('[data-phase=show]').waitFor({ state: 'attached' });
      await page.keyboard.press('3');
      await page.locator('[data-phase=feedback]').waitFor({ state: 'attached' });
    }
    await page.keyboard.press('Space');
    const again = page.getByRole('button', { name: 'Once more' });
    await again.waitFor();
    if (sitting % EVERY === 0) await look(sitting * SHOWS);
    await again.click();
  }
  await browser.close();
  return points;
}

const LINES = {
  classMs: 'learning the class',
  allMs: 'judging every child',
  childMs: 'judging one child',
  planMs: 'planning the day',
};

/**
 * Draws points by powers of ten into a picture.
 * @param series each with a name and its [x, y]
 * @param axes of each the title and the powers of ten from which to which
 */
async function drawByPowers(series, { x, y }, file) {
  const { browser, page } = await open('about:blank');
  await page.setViewportSize({ width: 900, height: 460 });
  await page.setContent('<body style="margin:0;background:#faf6ee"><div id="chart" style="padding:12px"></div></body>');
  await page.addScriptTag({ path: join(ROOT, 'node_modules/apexcharts/dist/apexcharts.js') });
  await page.evaluate(
    async ([given, across, up]) => {
      const marks = { strokeColors: '#22303c', size: 6 };
      const axis = ({ title, from, to }) => ({
        title: { text: title },
        min: from,
        max: to,
        tickAmount: to - from,
        labels: { formatter: (value) => Math.round(10 ** Number(value)).toLocaleString('en') },
      });
      await new ApexCharts(document.querySelector('#chart'), {
        chart: {
          type: 'scatter',
          height: 420,
          animations: { enabled: false },
          toolbar: { show: false },
          background: '#faf6ee',
        },
        series: given.map((one) => ({ ...one, data: one.data.map(([a, b]) => [Math.log10(a), Math.log10(b)]) })),
        colors: ['#1d6a72', '#22303c', '#8a560f', '#6a4268'],
        markers: { ...marks, shape: ['circle', 'square', 'triangle', 'diamond'] },
        xaxis: axis(across),
        yaxis: axis(up),
        legend: { position: 'top' },
      }).render();
    },
    [series, x, y],
  );
  await page.locator('#chart').screenshot({ path: file });
  await browser.close();
}

/** What judging costs as classes and records grow, as a picture. */
export const drawGrowth = (sizes, file) =>
  drawByPowers(
    Object.entries(LINES).map(([key, name]) => ({
      name,
      data: sizes.map((g) => [g.responses, Math.max(0.1, g[key])]),
    })),
    { x: { title: 'responses', from: 2, to: 6 }, y: { title: 'milliseconds', from: 0, to: 5 } },
    file,
  );

/** How long the slowest answer in a hundred takes as there are more of them, as a picture. */
export const drawCapacity = (found, file) =>
  drawByPowers(
    found.flatMap(({ count, steps }) =>
      [
        ['p99', 'an answer'],
        ['classP99', 'Class'],
      ].map(([key, name]) => ({
        name: `${name}, ${count === 1 ? 'one server' : `${count} servers`}`,
        data: steps.map((one) => [one.wanted, Math.min(1e5, one[key])]),
      })),
    ),
    {
      x: { title: 'answers asked for a second', from: 1, to: 4 },
      y: { title: 'milliseconds, 99 in a hundred', from: 0, to: 5 },
    },
    file,
  );
