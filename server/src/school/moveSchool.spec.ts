import { setTimeout as wait } from 'node:timers/promises';
import { connected, digestOf } from '../backup/dump';
import type { Shard } from '../db/shards';
import { SET_UP, setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';
import { JobsHere } from '../testing/jobsHere';
import { judgeHere } from '../threads/judgeThreads';
import { workOf } from '../work';
import { moveSchool, tablesOf, type Moved } from './moveSchool';
import { openSchool, schoolsHere } from './openSchool';

let harness: Harness;
/** Moves are made by a process of their own, which knows the shards anew. */
let mover: Awaited<ReturnType<Harness['another']>>;
let first: Shard;
let second: Shard;
beforeEach(async () => {
  harness = await startHarness({}, 2);
  mover = await harness.another();
  [first, second] = harness.shards.all as unknown as [Shard, Shard];
});
afterEach(async () => {
  await mover.close();
  await harness.close();
});

const now = (): Date => harness.clock;
const schoolId = async (): Promise<string> => (await schoolsHere(harness.shards))[0]?.id ?? '';
const moveIt = (id: string, { name }: Shard): Promise<Moved> =>
  moveSchool(mover.shards, id, mover.shards.named(name), now);
const move = async (to: Shard): Promise<Moved> => moveIt(await schoolId(), to);
/** Rows of every table of a shard that has any of a school's. */
const rowsIn = async ({ url }: Shard): Promise<Record<string, number>> => {
  const all = Object.entries(await connected(url, digestOf)).map(([name, { rows }]) => [name, rows] as const);
  const ofSchools = all.filter(([name, rows]) => rows > 0 && !/^(directory|rate_limit|vane_migration)$/.test(name));
  return Object.fromEntries(ofSchools);
};
const answersOf = (odo: string, from: number, count: number) =>
  Array.from({ length: count }, (_, i) => rowFor(odo, { response_id: `r${from + i}` }));

/** A school with something in most of its tables, and its lead's browser. */
async function filled(): Promise<{ own: Browser; path: string; classId: string; odo: string }> {
  const own = harness.browser();
  const { path, classId, children } = await setUp(own);
  const odo = children.get('Odo') ?? '';
  await own.send('POST', `${path}/record`, { sittings: [SITTING], responses: answersOf(odo, 0, 40) });
  await own.send('POST', `${path}/corrections`, { responses: ['r1'], change: { what: 'answer', given: '6' } });
  await own.send('POST', `${path}/notes`, { child: odo, text: 'by the quay' });
  await own.send('POST', `${path}/screens`, {});
  await own.send('POST', '/api/school/invites', { name: 'Mate', email: 'm@quay.example', role: 'lead', classes: [] });
  await own.get(`${path}/readings`);
  return { own, path, classId, odo };
}

describe('a school that is moved', () => {
  it('is all in the other shard and nowhere else; whoever was signed in goes on, and may come back the same way', async () => {
    const { own, path, classId, odo } = await filled();
    const before = await rowsIn(first);
    expect(Object.keys(before).length).toBeGreaterThan(12);
    // A worker that has been at it before.
    const worker = await harness.another();
    const key = { schoolId: await schoolId(), classId };
    await worker.shards.em(key.schoolId);
    const { rows } = await move(second);
    expect([await rowsIn(first), await rowsIn(second)]).toEqual([{}, before]);
    expect(rows).toBe(Object.values(before).reduce((sum, n) => sum + n, 0));
    expect((await own.get('/api/me')).status).toBe(200);
    expect(await (await own.get(path)).json()).toMatchObject({ name: SET_UP.className });
    const more = { sittings: [SITTING], responses: answersOf(odo, 40, 2) };
    expect(await (await own.send('POST', `${path}/record`, more)).json()).toMatchObject({ accepted: ['r40', 'r41'] });
    // It is judged where it is.
    const { judge } = workOf({ shards: worker.shards, judge: judgeHere, now, backups: null, post: null });
    await judge?.(key, { last: true, jobs: new JobsHere({}) });
    await worker.close();
    const judged = await second.orm.em.fork().execute<{ n: string }[]>(`select fingerprint as n from judgement`);
    expect(JSON.parse(judged[0]?.n ?? '')).toContain('42');
    expect(await (await own.get(`${path}/readings`)).json()).toMatchObject({ judging: 'done' });
    const again = harness.browser();
    expect((await again.send('POST', '/api/sign-in', { email: SET_UP.email, password: SET_UP.password })).status).toBe(
      200,
    );
    // There is a school, so nobody sets another up; and its people are not invited elsewhere.
    expect(await (await harness.browser().get('/api/door')).json()).toMatchObject({ needsSetUp: false });
    const lead = { name: 'Lock keeper', email: SET_UP.email };
    const wish = { name: 'Estuary', timeZone: 'Europe/London', lead };
    await expect(openSchool(harness.shards, now(), wish)).rejects.toThrow('already signs in');
    await move(first);
    expect(await rowsIn(second)).toEqual({});
    expect((await own.get(path)).status).toBe(200);
    expect((await again.get('/api/me')).status).toBe(200);
  });

  it('loses nothing that was acknowledged while it was moved, there and back', async () => {
    const { own, path, odo } = await filled();
    const acknowledged = new Set<string>();
    let refused = 0;
    let over = false;
    const device = async (from: number): Promise<void> => {
      for (let next = from; !over;) {
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
    for (const to of [second, first, second]) {
      await wait(150);
      await move(to);
    }
    over = true;
    await Promise.all(devices);
    const there = await second.orm.em.fork().execute<{ id: string }[]>('select id from response');
    const ids = new Set(there.map(({ id }) => id));
    expect(acknowledged.size).toBeGreaterThan(100);
    expect([...acknowledged].filter((id) => !ids.has(id))).toEqual([]);
    expect((await rowsIn(first))['response']).toBeUndefined();
    // Somebody was turned away, or this test shows nothing.
    expect(refused).toBeGreaterThan(0);
  });

  it('takes along what was being written when it began; what comes later fails, and is not left behind', async () => {
    await filled();
    const id = await schoolId();
    const insert = (response: string): string =>
      `insert into response select (json_populate_record(r, '{"id": "${response}"}')).* from response r where id = 'r2'`;
    await connected(first.url, (early) =>
      connected(first.url, (late) =>
        connected(second.url, async (held) => {
          await early.query(`begin; ${insert('early')}`);
          // Carried over as far as the notes, and no further.
          await held.query('begin; lock table note');
          const moved = moveIt(id, second);
          await wait(300);
          await early.query('commit');
          await wait(500);
          const refused = expect(late.query(insert('late'))).rejects.toThrow('foreign key');
          await wait(200);
          await held.query('commit');
          await moved;
          await refused;
        }),
      ),
    );
    const there = await second.orm.em.fork().execute(`select id from response where id in ('early', 'late')`);
    expect([there, (await rowsIn(first))['response']]).toEqual([[{ id: 'early' }], undefined]);
  });

  it('says so meanwhile, and takes nothing in', async () => {
    const { own, path, odo } = await filled();
    await first.orm.em.fork().execute('update school set moving_at = now()');
    const batch = { sittings: [SITTING], responses: answersOf(odo, 40, 1) };
    for (const answer of [await own.get('/api/me'), await own.send('POST', `${path}/record`, batch)]) {
      expect(answer.status).toBe(503);
      expect(await answer.json()).toMatchObject({ code: 'school-moving' });
    }
    const entering = await harness
      .browser()
      .send('POST', '/api/sign-in', { email: SET_UP.email, password: SET_UP.password });
    expect(entering.status).toBe(503);
    // Whoever does not know the password learns nothing of it.
    const guess = harness.browser().send('POST', '/api/sign-in', { email: SET_UP.email, password: 'a guess, no more' });
    expect((await guess).status).toBe(401);
  });

  it('that broke off is in one place, and the next move carries it on', async () => {
    const { own, path } = await filled();
    const before = await rowsIn(first);
    const id = await schoolId();
    // Copied, and not yet taken away: what it was made of is still the school.
    await connected(second.url, (client) =>
      client.query(`insert into school (id, name, created_at, moving_at) values ($1, 'a half', now(), now())`, [id]),
    );
    await first.orm.em.fork().execute('update school set moving_at = now()');
    await move(second);
    expect([await rowsIn(first), await rowsIn(second)]).toEqual([{}, before]);
    // One that was open has somebody's answers, and is nothing to be cleared up.
    await connected(first.url, (client) =>
      client.query(`insert into school (id, name, created_at) values ($1, 'of a backup', now())`, [id]),
    );
    await expect(moveIt(id, first)).rejects.toThrow('lies in two databases');
    await first.orm.em.fork().execute('delete from school');
    // Taken away, and the directory not told.
    await first.orm.em.fork().execute('delete from directory');
    await second.orm.em.fork().execute('update school set moving_at = now()');
    expect((await own.get(path)).status).toBe(401);
    expect(await moveIt(id, second)).toEqual({ rows: 0, closedMs: 0 });
    expect((await own.get(path)).status).toBe(200);
    await expect(moveIt('0197a000-0000-7000-8000-00000000000f', second)).rejects.toThrow('There is no school');
  });

  it('stays where it is when it cannot go, open as before', async () => {
    const { own, path } = await filled();
    await second.orm.em.fork().execute('alter table note add constraint no_quay check (text = $$$$)');
    try {
      await expect(move(second)).rejects.toThrow('no_quay');
    } finally {
      await second.orm.em.fork().execute('alter table note drop constraint no_quay');
    }
    expect((await own.get(path)).status).toBe(200);
    expect(await rowsIn(second)).toEqual({});
  });

  it('keeps its second screens: one that is followed asks again, and is paired still', async () => {
    const { own, path } = await filled();
    const { id, code } = (await (await own.send('POST', `${path}/screens`, {})).json()) as { id: string; code: string };
    const stage = harness.browser();
    expect((await stage.send('POST', '/api/board/pair', { code })).status).toBe(204);
    const followed = await own.get(`${path}/screens/${id}/events`);
    await move(second);
    const said = await followed.text();
    expect(said).not.toContain('ended');
    expect((await stage.send('PUT', '/api/board/stage', { seq: 1, state: {} })).status).toBe(204);
    // And a code from the new shard opens one.
    const other = (await (await own.send('POST', `${path}/screens`, {})).json()) as { code: string };
    expect((await harness.browser().send('POST', '/api/board/pair', { code: other.code })).status).toBe(204);
  });
});

it('every table that has a school’s rows is carried', async () => {
  const carried = await connected(first.url, tablesOf);
  const columns = await first.orm.em.fork().execute<{ name: string }[]>(
    `select relname as name from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'school_id'
     where relnamespace = 'public'::regnamespace and relkind in ('r', 'p') and not relispartition`,
  );
  const wanted = new Set(['school', ...columns.map(({ name }) => name)]);
  // The directory says where they are.
  wanted.delete('directory');
  expect(carried.map(({ name }) => name).sort()).toEqual([...wanted].sort());
});

describe('a shard that does not answer', () => {
  it('is that of its schools alone', async () => {
    const { own } = await filled();
    const lead = { name: 'Lock keeper', email: 'lock@estuary.example' };
    const wish = { name: 'Estuary Infants', timeZone: 'Europe/London', lead };
    const { token } = await openSchool(harness.shards, now(), wish, second);
    const theirs = harness.browser();
    expect(
      (await theirs.send('POST', '/api/join', { token, name: lead.name, password: 'gates-and-sluices-9' })).status,
    ).toBe(201);
    expect(await rowsIn(second)).toMatchObject({ school: 1, adult: 1 });
    await second.orm.close();
    expect((await own.get('/api/me')).status).toBe(200);
    expect((await theirs.get('/api/me')).status).toBeGreaterThanOrEqual(500);
    const entering = harness.browser().send('POST', '/api/sign-in', { email: SET_UP.email, password: SET_UP.password });
    expect((await entering).status).toBe(200);
  });
});
