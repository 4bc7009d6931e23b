import { expect, request, type APIRequestContext } from '@playwright/test';
import type { ClassReadings, Me } from '@vane/contract';
import pg from 'pg';
import { administer, databaseUrl, DEMO, inDatabase, TEMPLATE, VaneServer } from '../server';
import { test } from '../vane';

/** Several servers on one database, as a county has them: some answer, some judge. */
let database: string;
const running: VaneServer[] = [];
test.beforeEach(async () => {
  database = `servers_${process.pid}`;
  await administer(`create database ${database} template ${TEMPLATE}`);
});
test.afterEach(async () => {
  await Promise.all(running.splice(0).map((server) => server.stop()));
  await administer(`drop database ${database} with (force)`);
});
async function start(role: 'web' | 'worker' | 'all'): Promise<VaneServer> {
  const server = await VaneServer.on(database, { role });
  running.push(server);
  return server;
}

interface Adult {
  readonly page: APIRequestContext;
  readonly path: string;
}
async function signedInAt(server: VaneServer): Promise<Adult> {
  const page = await request.newContext({ baseURL: server.url });
  await page.post('/api/sign-in', { data: DEMO });
  const { classes } = (await (await page.get('/api/me')).json()) as Me;
  return { page, path: `/api/classes/${classes[0]!.id}` };
}

/** Marks an answer, as a device does. */
async function mark({ page, path }: Adult, id: string, child: string): Promise<unknown> {
  const now = new Date().toISOString();
  const sitting = { id, routine: 'sums', started_at: now, answer_mode: 'tap', settings: null };
  const response = {
    response_id: id,
    child,
    sitting: id,
    shown_at: now,
    kind: 'add',
    fact: '2+3',
    answer_mode: 'tap',
    exposure_ms: 750,
    response_ms: 900,
    given: '5',
    outcome: 'correct',
    observed: '',
    aid: 'none',
    void: '',
    flags: [],
    quality: null,
  };
  return (await page.post(`${path}/record`, { data: { sittings: [sitting], responses: [response] } })).json();
}

/** Waits for the moment in which somebody is at work on a class. */
async function somebodyJudges(): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl(database) });
  await client.connect();
  try {
    for (let tries = 0; tries < 2000; tries++) {
      const { rows } = await client.query("select 1 from vane_jobs.job where name = 'judge' and state = 'active'");
      if (rows.length > 0) return;
      await new Promise((later) => setTimeout(later, 5));
    }
    throw new Error('nobody judges');
  } finally {
    await client.end();
  }
}

test('two servers answer and two judge: one is killed in the middle of a class, and the other judges it @long', async () => {
  const [one, two] = [await start('web'), await start('web')];
  const [at, other] = [await signedInAt(one), await signedInAt(two)];
  const readings = async (): Promise<ClassReadings> =>
    (await (await other.page.get(`${other.path}/readings`)).json()) as ClassReadings;
  const before = (await readings()).readings.length;
  expect(before).toBeGreaterThan(500);
  // As after an update that judges otherwise: everything is behind, and nobody is there yet to do it.
  await inDatabase(database, "update judgement set fingerprint = ''");
  expect(await readings()).toMatchObject({ judging: 'under-way' });
  expect((await readings()).readings).toHaveLength(before);

  const first = await start('worker');
  await somebodyJudges();
  await first.kill();
  expect(await readings()).toMatchObject({ judging: 'under-way' });
  await start('worker');
  await expect.poll(async () => (await readings()).judging, { timeout: 30_000 }).toBe('done');
  expect((await readings()).readings).toHaveLength(before);

  // What is marked at one server is judged and read at the other.
  const { children } = (await (await at.page.get(at.path)).json()) as { children: { id: string }[] };
  expect(await mark(at, 'at-one', children[0]!.id)).toMatchObject({ accepted: ['at-one'] });
  await expect
    .poll(async () => {
      const { judging, asked } = await readings();
      return judging === 'done' && asked.some(({ fact, child }) => fact === '2+3' && child === children[0]!.id);
    })
    .toBe(true);
  await at.page.dispose();
  await other.page.dispose();
});

test('an older Vane goes on beside a newer one on the same database @long', async () => {
  const older = await start('all');
  const { page, path } = await signedInAt(older);
  // What the next version may do to the tables while this one serves: add columns that have a default, tables and indexes.
  for (const change of [
    "alter table response add column of_tomorrow text not null default 'as before'",
    "alter table sitting add column of_tomorrow text not null default 'as before'",
    "alter table reading add column of_tomorrow text not null default 'as before'",
    "alter table child add column of_tomorrow text not null default 'as before'",
    'create table of_tomorrow (school_id uuid primary key references school)',
    "insert into vane_migration (name, executed_at) values ('Migration9999OfTomorrow', now())",
  ])
    await inDatabase(database, change);
  const { children } = (await (await page.get(path)).json()) as { children: { id: string }[] };
  expect(await mark({ page, path }, 'before', children[0]!.id)).toMatchObject({ accepted: ['before'] });
  expect((await page.post(`${path}/children`, { data: { nicknames: ['Bosun'] } })).status()).toBe(204);
  const judged = async (): Promise<string> =>
    ((await (await page.get(`${path}/readings`)).json()) as ClassReadings).judging;
  await expect.poll(judged).toBe('done');
  // One that has to start again does.
  const again = await start('all');
  const there = await signedInAt(again);
  expect(await mark(there, 'after', children[0]!.id)).toMatchObject({ accepted: ['after'] });
  await page.dispose();
  await there.page.dispose();
});

test('a page shows what is there while nobody judges, says so, and follows when somebody does; the lead sees what waits @long', async ({
  browser,
}) => {
  const web = await start('web');
  await inDatabase(database, "update judgement set fingerprint = ''");
  const context = await browser.newContext({ baseURL: web.url });
  const page = await context.newPage();
  await page.request.post('/api/sign-in', { data: DEMO });
  await page.goto('/class');
  const note = page.getByText('Vane is still judging the newest answers.');
  await expect(note).toBeVisible();
  await expect(page.getByRole('group', { name: /^The class: across/ }).getByRole('button')).toHaveCount(24);

  await page.goto('/school');
  await page.locator('summary', { hasText: 'Judging under way' }).click();
  await expect(page.getByRole('row', { name: /^Curlew newest answers waiting since/ })).toBeVisible();
  await start('worker');
  await expect(async () => {
    await page.getByRole('button', { name: 'Look again' }).click();
    await expect(page.getByText('Nothing waits: all answers are judged.')).toBeVisible({ timeout: 500 });
  }).toPass();

  await page.goto('/class');
  await expect(page.getByRole('group', { name: /^The class: across/ }).getByRole('button')).toHaveCount(24);
  await expect(note).toBeHidden();
  await context.close();
});
