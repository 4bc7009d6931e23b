import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { gunzipSync, gzipSync } from 'node:zlib';
import { connected, digestOf } from '../backup/dump';
import { administer } from '../testing/databases';
import { SET_UP, setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { JobsHere } from '../testing/jobsHere';
import { rowFor, SITTING } from '../testing/rows';
import { judgeHere } from '../threads/judgeThreads';
import { workOf } from '../work';
import { deleteSchool, exportSchool, importSchool, setClosed } from './carry';
import { tablesOf } from './schoolFile';
import { openSchool, schoolsHere } from './schools';

let here: Harness;
let there: Harness;
let folder: string;
let file: string;
beforeEach(async () => {
  [here, there] = [await startHarness(), await startHarness()];
  folder = mkdtempSync(join(tmpdir(), 'vane-carry-'));
  file = join(folder, 'saltmarsh.vane-school');
});
afterEach(async () => {
  rmSync(folder, { recursive: true, force: true });
  await Promise.all([here.close(), there.close()]);
});

const now = (): Date => here.clock;
const schoolId = async (at = here): Promise<string> => (await schoolsHere(at.orm.em.fork()))[0]?.id ?? '';
const out = async (close = true) => exportSchool(here.database, await schoolId(), file, now(), close);
const into = () => importSchool(there.database, file, now());
/** Row counts and checksums of all tables that hold something of a school. */
async function contents({ database: { url } }: Harness): Promise<Record<string, unknown>> {
  const all = Object.entries(await connected(url, digestOf));
  const own = all.filter(
    ([name, { rows }]) => rows > 0 && !/^(rate_limit|vane_migration|compatible|set_up_code|erased|trimmed)$/.test(name),
  );
  return Object.fromEntries(own);
}
const answersOf = (odo: string, from: number, count: number) =>
  Array.from({ length: count }, (_, i) => rowFor(odo, { response_id: `r${from + i}` }));
const cookieOf = (answer: Response): string =>
  answer.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ');

/** A school with something in most of its tables, and its lead's browser. */
async function filled(): Promise<{ own: Browser; path: string; classId: string; odo: string }> {
  const own = here.browser();
  const { path, classId, children } = await setUp(own);
  const odo = children.get('Odo') ?? '';
  await own.send('POST', `${path}/record`, { sittings: [SITTING], responses: answersOf(odo, 0, 40) });
  await own.send('POST', `${path}/corrections`, { responses: ['r1'], change: { what: 'answer', given: '6' } });
  // A line's end that only some programs take for one, and what PostgreSQL's text has to mark.
  await own.send('POST', `${path}/notes`, { child: odo, text: 'by the quay\u2028and back \\.' });
  await own.send('POST', `${path}/screens`, {});
  await own.send('POST', '/api/school/invites', { name: 'Mate', email: 'm@quay.example', role: 'lead', classes: [] });
  await own.get(`${path}/readings`);
  return { own, path, classId, odo };
}

describe('a school that is carried to another Vane', () => {
  it('is there as it was here; whoever was signed in, invited or paired goes on there by the same tokens', async () => {
    const { own, path, classId, odo } = await filled();
    const cookie = cookieOf(await own.send('POST', '/api/sign-in', { email: SET_UP.email, password: SET_UP.password }));
    const { code } = (await (await own.send('POST', `${path}/screens`, {})).json()) as { code: string };
    const stage = cookieOf(await here.browser().send('POST', '/api/board/pair', { code }));
    await own.send('POST', '/api/school/invites', { name: 'Boy', email: 'b@quay.example', role: 'lead', classes: [] });
    const join = (await here.posted(2)).at(-1)?.text.match(/\/join\/(\S+)/)?.[1] ?? '';
    // Not judged yet.
    await own.send('POST', `${path}/record`, { sittings: [SITTING], responses: answersOf(odo, 50, 1) });
    const before = await contents(here);
    expect(Object.keys(before).length).toBeGreaterThan(12);

    const { rows } = await out();
    expect(statSync(file).mode & 0o777).toBe(0o600);
    expect(JSON.parse(gunzipSync(readFileSync(file)).toString().split('\n')[0] ?? '')).toMatchObject({
      name: SET_UP.school,
      note: expect.stringContaining('password hashes') as unknown,
    });
    expect(await into()).toEqual({ id: await schoolId(), name: SET_UP.school, rows });

    // One entry of the school's activity was written on each side; everything else is the same.
    const after = await contents(there);
    expect(Object.keys(after)).toEqual(Object.keys(before));
    for (const name of Object.keys(before))
      if (name !== 'audit') expect([name, after[name]]).toEqual([name, before[name]]);
    const visitor = there.browser();
    expect((await visitor.get('/api/me', { cookie })).status).toBe(200);
    expect((await visitor.get(`/api/join/${join}`)).status).toBe(200);
    const shown = await visitor.send('PUT', '/api/board/stage', { seq: 1, state: {} }, { cookie: stage });
    expect(shown.status).toBe(204);
    const more = { sittings: [SITTING], responses: answersOf(odo, 39, 2) };
    expect(await (await visitor.send('POST', `${path}/record`, more, { cookie })).json()).toMatchObject({
      accepted: ['r40'],
      already: ['r39'],
    });
    expect(await (await visitor.get(`${path}/readings`, { cookie })).json()).toMatchObject({ judging: 'done' });
    const acts = await (await visitor.get('/api/school/audit', { cookie })).text();
    for (const act of ['to be carried elsewhere', 'from elsewhere']) expect(acts).toContain(act);

    // Here it is closed until somebody says otherwise.
    const { judge } = workOf({ database: here.database, judge: judgeHere, now, backups: null, post: null });
    await judge?.({ schoolId: await schoolId(), classId }, { last: true, jobs: new JobsHere({}) });
    for (const answer of [await own.get('/api/me'), await own.send('POST', `${path}/record`, more)]) {
      expect(answer.status).toBe(503);
      expect(await answer.json()).toMatchObject({ code: 'school-moving' });
    }
    const entering = (password: string) =>
      here.browser().send('POST', '/api/sign-in', { email: SET_UP.email, password });
    expect((await entering(SET_UP.password)).status).toBe(503);
    // Whoever does not know the password learns nothing of it.
    expect((await entering('a guess, no more')).status).toBe(401);
    // Clearing up goes on for all the others.
    here.clock = new Date(here.clock.getTime() + 15 * 3_600_000);
    await workOf({ database: here.database, judge: judgeHere, now, backups: null, post: null }).trim?.(
      {},
      { last: true, jobs: new JobsHere({}) },
    );
    expect((await contents(here))['sign_in']).toBeUndefined();
    await expect(deleteSchool(here.database, await schoolId(), 'Saltmarsh')).rejects.toThrow('is called');
    await deleteSchool(here.database, await schoolId(), SET_UP.school);
    expect(await contents(here)).toEqual({});
    expect(await here.orm.em.fork().execute('select what from erased')).toEqual([{ what: 'school' }]);
  });

  it('loses nothing that was acknowledged until it closed', async () => {
    const { own, path, odo } = await filled();
    const acknowledged = new Set<string>();
    let refused = 0;
    const device = async (from: number): Promise<void> => {
      for (let next = from; refused < 20;) {
        const responses = answersOf(odo, next, 3);
        const answer = await own.send('POST', `${path}/record`, { sittings: [SITTING], responses });
        if (answer.ok) {
          for (const id of ((await answer.json()) as { accepted: string[] }).accepted) acknowledged.add(id);
          next += 3;
        } else refused++;
        // As a device does: later again.
        await wait(2);
      }
    };
    const devices = [1000, 20_000, 30_000, 40_000].map(device);
    while (acknowledged.size <= 50) await wait(20);
    await out();
    await Promise.all(devices);
    await into();
    const ids = new Set(
      (await there.orm.em.fork().execute<{ id: string }[]>('select id from response')).map(({ id }) => id),
    );
    expect(acknowledged.size).toBeGreaterThan(50);
    expect([...acknowledged].filter((id) => !ids.has(id))).toEqual([]);
  });

  it('takes along what was being written when it closed; what comes later is refused', async () => {
    await filled();
    const insert = (response: string): string =>
      `insert into response select (json_populate_record(r, '{"id": "${response}"}')).* from response r where id = 'r2'`;
    const { url } = here.database;
    await connected(url, (early) =>
      connected(url, async (late) => {
        await early.query(`begin; ${insert('early')}`);
        const gone = out();
        // It is closed, and waits.
        await wait(300);
        await expect(late.query(insert('late'))).rejects.toThrow('is closed');
        await expect(late.query("delete from note where text like 'by%'")).rejects.toThrow('is closed');
        await expect(late.query("update school set name = 'Other'")).rejects.toThrow('is closed');
        await early.query('commit');
        await gone;
      }),
    );
    await into();
    const found = await there.orm.em.fork().execute(`select id from response where id in ('early', 'late')`);
    expect(found).toEqual([{ id: 'early' }]);
  });

  it('is copied while it is used, when that is wished: its own backup', async () => {
    const { own } = await filled();
    await out(false);
    expect((await own.get('/api/me')).status).toBe(200);
    await into();
    expect((await contents(there))['response']).toEqual((await contents(here))['response']);
  });

  it('stays open here when its file cannot be written, and is opened again by hand', async () => {
    const { own } = await filled();
    file = join(folder, 'nowhere', 'file');
    await expect(out()).rejects.toThrow('ENOENT');
    expect((await own.get('/api/me')).status).toBe(200);
    file = join(folder, 'file');
    await out();
    expect((await own.get('/api/me')).status).toBe(503);
    await setClosed(here.database, await schoolId(), null);
    expect((await own.get('/api/me')).status).toBe(200);
  });

  it('is refused whole where it cannot be: here already, an address that is taken, damaged, newer, or no school at all', async () => {
    const { own } = await filled();
    await out();
    const good = gunzipSync(readFileSync(file)).toString();
    const written = async (text: string | Buffer): Promise<unknown> => {
      writeFileSync(file, typeof text === 'string' ? gzipSync(text) : text);
      return into().catch((error: unknown) => (error as Error).message);
    };
    expect(await importSchool(here.database, file, now()).catch((error: unknown) => (error as Error).message)).toMatch(
      'already here',
    );
    expect((await own.get('/api/me')).status).toBe(503);
    const cases: readonly [string | Buffer, RegExp][] = [
      [gzipSync(good).subarray(0, 1500), /damaged or was not written to its end \(line \d+\)/],
      [good.split('\n').slice(0, 30).join('\n'), /not written to its end \(line \d+\)/],
      [good.replace('by the quay', 'by the pier'), /note: 1 rows were read, and others/],
      [good.replace(/"rows":40/, '"rows":41'), /response: 40 rows were read/],
      [good.replace('"Migration0001FirstLight"', '"Migration9999Later"'), /newer Vane \(Migration9999Later\)/],
      ['response_id,child\n', /not the file of a school/],
      [Buffer.from('no archive at all'), /damaged/],
    ];
    for (const [text, said] of cases) {
      expect(await written(text)).toMatch(said);
      expect(await contents(there)).toEqual({});
    }
    await openSchool(there.orm.em.fork(), now(), {
      name: 'Estuary Infants',
      timeZone: 'Europe/London',
      lead: { name: 'Lock keeper', email: 'lock@estuary.example' },
    });
    const at = await schoolId(there);
    await there.orm.em
      .fork()
      .execute(
        "insert into adult (school_id, id, email, name, role, password_hash, created_at) values (?, ?, 'KEEPER@saltmarsh.example', 'Other', 'lead', '', now())",
        [at, at],
      );
    expect(await written(good)).toMatch('under the same address');
    expect(await schoolsHere(there.orm.em.fork())).toHaveLength(1);
  });

  it('of an earlier Vane goes through a database of its own, which is gone afterwards', async () => {
    await filled();
    const { rows } = await out();
    const text = gunzipSync(readFileSync(file)).toString();
    writeFileSync(file, gzipSync(text.replace(',"Migration0019OneDatabase"', '')));
    expect(await into()).toMatchObject({ rows });
    await administer(async (client) => {
      const left = await client.query("select datname from pg_database where datname like '%_import_%'");
      expect(left.rows).toEqual([]);
    });
  });

  it('keeps its second screens: one that is followed is not told that it is over, and asks again', async () => {
    const { own, path } = await filled();
    const { id } = (await (await own.send('POST', `${path}/screens`, {})).json()) as { id: string };
    const followed = await own.get(`${path}/screens/${id}/events`);
    await out();
    expect(await followed.text()).not.toContain('ended');
  });
});

it('every table that has a school’s rows is carried, and refuses a closed school', async () => {
  const carried = await connected(here.database.url, tablesOf);
  const listed = (sql: string) => here.orm.em.fork().execute<{ name: string }[]>(sql);
  const columns = await listed(
    `select relname as name from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'school_id'
     where relnamespace = 'public'::regnamespace and relkind in ('r', 'p') and not relispartition`,
  );
  // What was erased is remembered where the backups are that could bring it back.
  const wanted = ['school', ...columns.map(({ name }) => name)].filter((name) => name !== 'erased').sort();
  expect(carried.map(({ name }) => name).sort()).toEqual(wanted);
  const guarded = await listed(
    `select distinct coalesce(pg_partition_root(tgrelid)::regclass, tgrelid::regclass)::text as name from pg_trigger where tgname = 'refuse_when_closed'`,
  );
  expect(guarded.map(({ name }) => name).sort()).toEqual(wanted);
});
