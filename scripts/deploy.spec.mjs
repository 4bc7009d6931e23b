import { chmodSync, existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it, jest } from '@jest/globals';
import { buildServer } from './build.mjs';
import { classroomCertificate } from './classroom.mjs';
import { nginx, pooler } from './front.mjs';
import { adult, asks, batch, schoolCommand, serve, stop } from './load.mjs';
import { ensureDatabase, freePort, startCluster } from './postgres.mjs';
import { baseBackup, startStandby, told } from './standby.mjs';

/** The files of `deploy/`, as a county uses them: each is tried here, on this machine's loopback. */
jest.setTimeout(180_000);
let folder;
let primary;
const toStop = [];
const later = (one) => (toStop.push(one), one);
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'vane-deploy-'));
  chmodSync(folder, 0o755);
  process.env.VANE_HOME = join(folder, 'home');
  mkdirSync(join(folder, 'archive'), { mode: 0o777 });
  chmodSync(join(folder, 'archive'), 0o777);
  await buildServer();
  primary = await startCluster(join(folder, 'primary'), {
    settings: ['archive_mode=on', `archive_command=cp %p ${folder}/archive/%f`, 'archive_timeout=0'],
  });
  ensureDatabase(primary, 'vane');
});
afterAll(async () => {
  for (const one of toStop.reverse()) await one.stop();
  primary?.stop();
  delete process.env.VANE_HOME;
  rmSync(folder, { recursive: true, force: true });
});

const started = async (url, more) => {
  const port = await freePort();
  const server = await serve(url, port, { WEB_ROOT: '', ...more });
  return later({ port, server, base: `http://127.0.0.1:${port}`, stop: () => stop(server) });
};

/** Hands in one answer again and again until it is acknowledged; tells how long that took, ms. */
async function acknowledged({ send, path }, body) {
  const began = performance.now();
  for (;;) {
    const result = await send('POST', `${path}/record`, body)
      .then((answer) => (answer.status === 200 ? answer.json() : answer.text()))
      .catch(() => '');
    if (result.accepted?.length + result.already?.length === 1) return performance.now() - began;
    await wait(100);
  }
}
const idOf = (body) => body.responses[0].response_id;
const logged = async ({ send, path }) =>
  (await (await send('GET', `${path}/log`)).json()).rows.map((row) => row.response_id);

let keeper;
let child;

describe('what stands in front of Vane’s servers @long', () => {
  it('HTTPS and a pooler: marks, judging and live screens go through both', async () => {
    const pool = later(await pooler(folder, await freePort(), primary));
    const through = { VANE_LISTEN_URL: pool.listenUrl, VANE_HTTPS: '1', VANE_URL: 'https://vane.example' };
    const [one, two] = [
      await started(pool.url, { ...through, VANE_ROLE: 'web' }),
      await started(pool.url, { ...through, VANE_ROLE: 'web' }),
    ];
    await started(pool.url, { ...through, VANE_ROLE: 'worker' });
    const port = await freePort();
    later(await nginx(folder, port, [one.port, two.port], await classroomCertificate(['127.0.0.1'])));
    const base = `https://127.0.0.1:${port}`;
    /** A request that follows nothing and trusts this certificate. */
    const asked = (method, path, body, headers = {}) =>
      new Promise((answered, failed) => {
        const sent = request(base + path, {
          method,
          rejectUnauthorized: false,
          headers: { ...headers, ...(body === undefined ? {} : { 'content-type': 'application/json' }) },
        });
        sent.on('response', answered).on('error', failed);
        sent.end(body === undefined ? undefined : JSON.stringify(body));
      });
    const json = async (answer) => {
      let text = '';
      for await (const chunk of answer) text += chunk;
      return JSON.parse(text);
    };
    const made = await asked('POST', '/api/set-up', {
      school: 'Saltmarsh Infants',
      className: 'Curlew',
      name: 'Harbour keeper',
      email: 'keeper@saltmarsh.example',
      password: 'lanterns-on-the-jetty',
      children: ['Odo', 'Ivo'],
    });
    const [set] = made.headers['set-cookie'];
    expect(set).toMatch(/^__Host-vane_sign_in=.*Secure/);
    const cookie = set.split(';')[0];
    const path = `/api/classes/${(await json(made)).classes[0].id}`;
    const { children } = await json(await asked('GET', path, undefined, { cookie }));
    const sent = batch(children[0].id, 'sitting');
    expect(await json(await asked('POST', `${path}/record`, sent, { cookie }))).toMatchObject({
      accepted: [idOf(sent)],
    });
    let readings = { judging: '' };
    for (let tries = 0; readings.judging !== 'done' && tries < 100; tries++) {
      await wait(100);
      readings = await json(await asked('GET', `${path}/readings`, undefined, { cookie }));
    }
    expect(readings.readings.length).toBe(1);

    // A screen is followed through all of it: what one side writes arrives at once, unbuffered.
    const opened = await json(await asked('POST', `${path}/screens`, {}, { cookie }));
    const paired = await asked('POST', '/api/board/pair', { code: opened.code });
    paired.resume();
    const board = paired.headers['set-cookie'][0].split(';')[0];
    const events = await asked('GET', '/api/board/events', undefined, { cookie: board });
    const heard = new Promise((told) =>
      events.on('data', (chunk) => String(chunk).includes('"shown":7') && told(performance.now())),
    );
    const began = performance.now();
    (await asked('PUT', `${path}/screens/${opened.id}`, { seq: 1, state: { shown: 7 } }, { cookie })).resume();
    expect((await heard) - began).toBeLessThan(5000);
    events.destroy();
  });
});

describe('a standby @long', () => {
  it('takes long reads, and nobody reads there what is older than their own last change; lost, it is not missed', async () => {
    const standby = await startStandby(primary, join(folder, 'standby'));
    ensureDatabase(primary, 'read');
    // The database is there as soon as the standby has heard of it.
    while (told(standby, "select count(*) from pg_database where datname = 'read'") !== '1') await wait(50);
    const metricsPort = await freePort();
    const { base } = await started(primary.url('read'), {
      VANE_STANDBY_URL: standby.url('read'),
      VANE_METRICS_PORT: String(metricsPort),
    });
    keeper = await adult(base, ['Odo', 'Ivo']);
    child = (await (await keeper.send('GET', keeper.path)).json()).children[0].id;
    const rows = () =>
      Number(
        told(
          standby,
          "select sum(idx_scan + seq_scan) from pg_stat_user_tables where relname like 'response%'",
          'read',
        ),
      );
    const before = rows();
    // What was read there is counted there, some seconds later; on a busy machine it may be behind, and the primary is read.
    for (let tries = 0; tries < 20 || (rows() <= before && tries < 200); tries++) {
      const body = batch(child, 'sitting');
      await acknowledged(keeper, body);
      expect(await logged(keeper)).toContain(idOf(body));
      if (tries >= 20) await wait(200);
    }
    expect(rows()).toBeGreaterThan(before);
    // One that is behind is not asked.
    told(standby, 'select pg_wal_replay_pause()');
    const unseen = batch(child, 'sitting');
    await acknowledged(keeper, unseen);
    expect(await logged(keeper)).toContain(idOf(unseen));
    told(standby, 'select pg_wal_replay_resume()');
    const metrics = await (await fetch(`http://127.0.0.1:${metricsPort}/metrics`)).text();
    expect(Number(/^vane_standby_lag_seconds\{shard="first"\} (.*)$/m.exec(metrics)[1])).toBeLessThan(5);

    standby.kill();
    const body = batch(child, 'sitting');
    await acknowledged(keeper, body);
    expect(await logged(keeper)).toContain(idOf(body));
  });

  it('takes the primary’s place when that is lost: nothing that was acknowledged is missing', async () => {
    const first = await startCluster(join(folder, 'first'));
    ensureDatabase(first, 'vane');
    const second = await startStandby(first, join(folder, 'second'), { synchronous: true });
    later(second);
    mkdirSync(join(folder, 'failover'));
    const pool = later(await pooler(join(folder, 'failover'), await freePort(), first));
    const { base } = await started(pool.url, { VANE_LISTEN_URL: pool.listenUrl });
    const own = await adult(base, ['Odo', 'Ivo']);
    const odo = (await (await own.send('GET', own.path)).json()).children[0].id;
    const all = [];
    let going = true;
    const devices = Array.from({ length: 8 }, async () => {
      while (going) {
        const body = batch(odo, 'sitting');
        await acknowledged(own, body);
        all.push(idOf(body));
      }
    });
    await wait(2000);
    const acknowledgedBefore = all.length;
    first.kill();
    second.promote();
    // It waits for no standby of its own any more.
    told(second, 'alter system reset synchronous_standby_names');
    told(second, 'select pg_reload_conf()');
    pool.turnTo(second);
    while (all.length < acknowledgedBefore + 40) await wait(100);
    going = false;
    await Promise.all(devices);
    expect(acknowledgedBefore).toBeGreaterThan(20);
    const kept = told(second, 'select id from response', 'vane').split('\n');
    expect(all.filter((id) => !kept.includes(id))).toEqual([]);
    expect(new Set(kept).size).toBe(kept.length);
  });
});

describe('a second PostgreSQL server @long', () => {
  it('takes a school over while eight devices write to it; down, it is missed by its schools alone', async () => {
    const other = later(await startCluster(join(folder, 'other')));
    for (const cluster of [primary, other]) ensureDatabase(cluster, 'county');
    const env = {
      DATABASE_URL: primary.url('county'),
      VANE_SHARDS: JSON.stringify([{ name: 'second', url: other.url('county') }]),
    };
    const servers = [
      await started(env.DATABASE_URL, { ...env, VANE_ROLE: 'web' }),
      await started(env.DATABASE_URL, { ...env, VANE_ROLE: 'web' }),
    ];
    await started(env.DATABASE_URL, { ...env, VANE_ROLE: 'worker' });
    const school = schoolCommand(primary.url('county'), other.url('county'));
    const own = await adult(servers[0].base, ['Odo', 'Ivo']);
    const odo = (await (await own.send('GET', own.path)).json()).children[0].id;
    const all = [];
    let going = true;
    const devices = Array.from({ length: 8 }, async (_, device) => {
      // Half of them talk to the server that did not see the school set up.
      const through = { ...own, send: asks(servers[device % 2].base, own.cookie) };
      while (going) {
        const body = batch(odo, 'sitting');
        await acknowledged(through, body);
        all.push(idOf(body));
      }
    });
    while (all.length < 40) await wait(50);
    const id = told(primary, 'select id from school', 'county');
    expect(await school('move', id, '--shard', 'second')).toMatch(/^Moved to the shard second: \d+ rows\./);
    const then = all.length;
    while (all.length < then + 40) await wait(50);
    going = false;
    await Promise.all(devices);
    const kept = told(other, 'select id from response', 'county').split('\n');
    expect(all.filter((one) => !kept.includes(one))).toEqual([]);
    expect(told(primary, 'select count(*) from response', 'county')).toBe('0');
    let readings = { judging: '' };
    for (let tries = 0; readings.judging !== 'done' && tries < 100; tries++) {
      await wait(100);
      readings = await (await own.send('GET', `${own.path}/readings`)).json();
    }
    expect(readings.readings[0].responses).toBe(kept.length);

    const added = await school('add', 'Estuary', '--lead', 'Lock keeper', '--email', 'lock@estuary.example');
    const token = /join\/(\S+)/.exec(added)[1];
    other.kill();
    // The school in the first: its people still come in.
    expect((await own.send('GET', `/api/join/${token}`)).status).toBe(200);
    expect((await own.send('GET', '/api/me')).status).toBe(503);
    other.start();
    while ((await own.send('GET', '/api/me')).status !== 200) await wait(100);
    expect(await school('list')).toMatch(/Estuary.*shard first\n.*shard second/s);
  });
});

it('a nightly backup is work too: made once, in the folder that is named, and old ones go @long', async () => {
  ensureDatabase(primary, 'nightly');
  const backups = join(folder, 'backups');
  mkdirSync(backups);
  for (let day = 10; day < 26; day++) writeFileSync(join(backups, `vane-2026-01-${day}.backup`), '');
  await started(primary.url('nightly'), { VANE_BACKUPS: backups, VANE_PG_BIN: primary.bin });
  const due = () => told(primary, "insert into vane_jobs.job (name, data) values ('backup', '{}')", 'nightly');
  due();
  const made = () => readdirSync(backups).filter((name) => !name.startsWith('vane-2026-01'));
  // The worker looks for it every ten seconds.
  for (let tries = 0; tries < 400 && (made().length === 0 || readdirSync(backups).length > 14); tries++)
    await wait(200);
  expect(made()).toEqual([expect.stringMatching(/^vane-\d{4}-\d\d-\d\d\.backup$/)]);
  expect(readdirSync(backups)).toHaveLength(14);
  expect(statSync(join(backups, made()[0])).size).toBeGreaterThan(10_000);
  expect(statSync(join(backups, made()[0])).mode & 0o077).toBe(0);
});

it('what was archived brings the database back to a moment @long', async () => {
  const data = join(folder, 'restored');
  ensureDatabase(primary, 'shelf');
  told(primary, 'create table kept (what text)', 'shelf');
  baseBackup(primary, data);
  told(primary, "insert into kept values ('before the mistake')", 'shelf');
  const moment = told(primary, 'select clock_timestamp()');
  await wait(50);
  told(primary, 'delete from kept', 'shelf');
  told(primary, 'select pg_switch_wal()');
  const walWas = told(primary, 'select pg_walfile_name(pg_switch_wal())');
  for (let tries = 0; tries < 200 && !existsSync(join(folder, 'archive', walWas)); tries++) await wait(50);
  // As docs/running.md says it.
  writeFileSync(join(data, 'recovery.signal'), '');
  writeFileSync(
    join(data, 'postgresql.auto.conf'),
    `restore_command = 'cp ${folder}/archive/%f %p'\nrecovery_target_time = '${moment}'\nrecovery_target_action = 'promote'\n`,
  );
  const restored = later(await startCluster(data));
  expect(told(restored, 'select what from kept', 'shelf')).toBe('before the mistake');
});
