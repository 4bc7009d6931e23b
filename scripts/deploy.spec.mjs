import { chmodSync, existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, it, jest } from '@jest/globals';
import { buildServer } from './build.mjs';
import { classroomCertificate } from './classroom.mjs';
import { nginx, pooler } from './front.mjs';
import { startPatroni } from './cluster.mjs';
import { adult, batch, schoolCommand, serve, setUpOf, stop } from './load.mjs';
import { ensureDatabase, freePort, startCluster } from './postgres.mjs';
import { ROOT } from './setup.mjs';
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
    const made = await asked('POST', '/api/set-up', setUpOf(['Odo', 'Ivo']));
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
    if (paired.statusCode !== 204) throw new Error(`not paired: ${JSON.stringify([opened, await json(paired)])}`);
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
    expect(Number(/^vane_standby_lag_seconds (.*)$/m.exec(metrics)[1])).toBeLessThan(5);

    standby.kill();
    const body = batch(child, 'sitting');
    await acknowledged(keeper, body);
    expect(await logged(keeper)).toContain(idOf(body));
  });
});

/** Devices that hand in answers until they are told to stop; what was acknowledged. */
function devicesOf(child, sends) {
  const all = [];
  let going = true;
  const devices = sends.map(async (through) => {
    while (going) {
      const body = batch(child, 'sitting');
      await acknowledged(through, body);
      all.push(idOf(body));
    }
  });
  return {
    all,
    more: async (count) => {
      const then = all.length;
      while (all.length < then + count) await wait(50);
    },
    stop: async () => {
      going = false;
      await Promise.all(devices);
    },
  };
}

describe('a database that takes over by itself @long', () => {
  it('when the primary’s whole machine is gone, and when its PostgreSQL alone is: nothing that was acknowledged is missing', async () => {
    mkdirSync(join(folder, 'takeover'));
    const cluster = later(await startPatroni(join(folder, 'cluster')));
    expect(cluster.told("select rolsuper from pg_roles where rolname = 'vane'")).toBe('f');
    const pool = later(await pooler(join(folder, 'takeover'), await freePort(), cluster));
    const { base } = await started(pool.url, {
      VANE_LISTEN_URL: pool.listenUrl,
      VANE_STANDBY_URL: cluster.readUrl('vane'),
    });
    const own = await adult(base, ['Odo', 'Ivo']);
    const odo = (await (await own.send('GET', own.path)).json()).children[0].id;
    const devices = devicesOf(odo, Array(8).fill(own));
    for (const [fault, mend] of [
      [cluster.killMachine, cluster.startMachine],
      [cluster.killPostgres, () => undefined],
    ]) {
      await devices.more(20);
      const lost = await cluster.primary();
      await fault(lost);
      await devices.more(40);
      expect((await cluster.primary()).name).not.toBe(lost.name);
      mend(lost);
      await cluster.inStep();
    }
    await devices.stop();
    const kept = cluster.told('select id from response', 'vane').split('\n');
    expect(devices.all.length).toBeGreaterThan(120);
    expect(devices.all.filter((id) => !kept.includes(id))).toEqual([]);
    expect(new Set(kept).size).toBe(kept.length);
  });
});

describe('a second Vane @long', () => {
  it('takes a school over while eight devices write: one line leads them there, and sign-ins, links and screens are good', async () => {
    const [host, to] = ['saltmarsh.vane.example', await freePort()];
    const more = { VANE_HTTPS: '1', VANE_URL: 'https://vane.example', VANE_HOSTS: host };
    const other = later(await startCluster(join(folder, 'other')));
    ensureDatabase(other, 'south');
    ensureDatabase(primary, 'north');
    const [north, south] = [await started(primary.url('north'), more), await started(other.url('south'), more)];
    mkdirSync(join(folder, 'cells'));
    const files = await classroomCertificate(['127.0.0.1']);
    const second = { ports: [south.port], hosts: [] };
    const front = later(await nginx(join(folder, 'cells'), to, [north.port], files, second));

    /** As a browser that knows the school by its own name; the certificate is this machine's own. */
    const asked = (cookie) => (method, path, body) =>
      new Promise((answered, failed) => {
        const headers = { host, cookie, ...(body === undefined ? {} : { 'content-type': 'application/json' }) };
        const sent = request(`https://127.0.0.1:${to}${path}`, { method, rejectUnauthorized: false, headers });
        sent.on('error', failed).on('response', async (answer) => {
          let text = '';
          for await (const chunk of answer) text += chunk;
          answered({
            status: answer.statusCode,
            cookie: answer.headers['set-cookie']?.[0].split(';')[0],
            json: async () => JSON.parse(text),
            text: async () => text,
          });
        });
        sent.end(body === undefined ? undefined : JSON.stringify(body));
      });
    const made = await asked('')('POST', '/api/set-up', setUpOf(['Odo', 'Ivo']));
    const own = { send: asked(made.cookie), path: `/api/classes/${(await made.json()).classes[0].id}` };
    const odo = (await (await own.send('GET', own.path)).json()).children[0].id;
    const invite = { name: 'Mate', email: 'mate@quay.example', role: 'teacher', classes: [] };
    const { link } = await (await own.send('POST', '/api/school/invites', invite)).json();
    expect(link).toMatch(`https://${host}/join/`);
    const { code } = await (await own.send('POST', `${own.path}/screens`, {})).json();
    const stage = asked((await own.send('POST', '/api/board/pair', { code })).cookie);

    const devices = devicesOf(odo, Array(8).fill(own));
    await devices.more(40);
    const [from, into] = [schoolCommand(primary.url('north')), schoolCommand(other.url('south'))];
    const id = told(primary, 'select id from school', 'north');
    const file = join(folder, 'saltmarsh.vane-school');
    expect(await from('export', id, file)).toMatch(/^Saltmarsh Infants: \d+ rows are in /);
    expect((await own.send('GET', '/api/me')).status).toBe(503);
    expect(await into('import', file)).toMatch(/^Saltmarsh Infants is here: \d+ rows/);
    front.lead([host]);
    await devices.more(40);
    await devices.stop();
    const kept = told(other, 'select id from response', 'south').split('\n');
    expect(devices.all.filter((one) => !kept.includes(one))).toEqual([]);
    expect((await own.send('GET', '/api/me')).status).toBe(200);
    expect((await own.send('GET', `/api/join/${link.split('/').at(-1)}`)).status).toBe(200);
    expect((await stage('PUT', '/api/board/stage', { seq: 1, state: {} })).status).toBe(204);
    expect(await from('list')).toMatch(
      /Saltmarsh Infants: 1 adult, 1 class, 2 children; CLOSED since \d{4}-\d\d-\d\dT\d\d:\d\dZ/,
    );
    expect(await from('delete', id, '--name', 'Saltmarsh Infants')).toMatch(/^Saltmarsh Infants is deleted: \d+ rows/);
    expect(await from('list')).toMatch(/^No school yet/);
  });

  it('has the whole school or nothing of it, whenever one of the two is killed', async () => {
    const north = join(folder, 'torn.vane-school');
    for (const name of ['torn_from', 'torn_to']) ensureDatabase(primary, name);
    const base = (await started(primary.url('torn_from'))).base;
    const own = await adult(base, ['Odo', 'Ivo']);
    const odo = (await (await own.send('GET', own.path)).json()).children[0].id;
    const rows = Array.from({ length: 400 }, () => batch(odo, 'sitting').responses[0]);
    const { sittings } = batch(odo, 'sitting');
    for (let sent = 0; sent < 40; sent++)
      await own.send('POST', `${own.path}/record`, {
        sittings,
        responses: rows.map((row) => ({ ...row, response_id: `${row.response_id}-${sent}` })),
      });
    const id = told(primary, 'select id from school', 'torn_from');
    const school = join(ROOT, 'server/dist/school.js');
    /** Runs a command and kills it after so long. @returns whether it had ended by itself */
    const torn = async (database, ms, args) => {
      const env = { ...process.env, DATABASE_URL: primary.url(database) };
      const child = spawn(process.execPath, [school, ...args], { stdio: 'ignore', env });
      const ended = once(child, 'exit');
      const kill = setTimeout(() => child.kill('SIGKILL'), ms);
      const [code] = await ended;
      clearTimeout(kill);
      return code === 0;
    };
    const [all, there] = ['torn_from', 'torn_to'].map(
      (name) => () => Number(told(primary, 'select count(*) from response', name)),
    );
    await schoolCommand(primary.url('torn_to'))('list');
    expect(all()).toBe(16_000);
    for (let ms = 400; !(await torn('torn_from', ms, ['export', id, north])); ms *= 1.3)
      expect(existsSync(north)).toBe(false);
    for (let ms = 400; !(await torn('torn_to', ms, ['import', north])); ms *= 1.3) expect(there()).toBe(0);
    expect([all(), there()]).toEqual([16_000, 16_000]);
    for (let ms = 400; !(await torn('torn_from', ms, ['delete', id, '--name', 'Saltmarsh Infants'])); ms *= 1.3)
      expect([0, 16_000]).toContain(all());
    expect([all(), there()]).toEqual([0, 16_000]);
  });
});

it('a nightly backup is work too: made once, in the folder that is named, and old ones go @long', async () => {
  ensureDatabase(primary, 'nightly');
  const backups = join(folder, 'backups');
  mkdirSync(backups);
  for (let day = 10; day < 26; day++) writeFileSync(join(backups, `vane-2026-01-${day}.backup`), '');
  // Made while the clock was wrong.
  writeFileSync(join(backups, 'vane-2099-01-01.backup'), '');
  await started(primary.url('nightly'), { VANE_BACKUPS: backups, VANE_PG_BIN: primary.bin });
  const due = () => told(primary, "insert into vane_jobs.job (name, data) values ('backup', '{}')", 'nightly');
  due();
  const made = () => readdirSync(backups).filter((name) => !/^vane-(2026-01|2099)/.test(name));
  // The worker looks for it every ten seconds.
  for (let tries = 0; tries < 400 && (made().length === 0 || readdirSync(backups).length > 14); tries++)
    await wait(200);
  expect(made()).toEqual([expect.stringMatching(/^vane-\d{4}-\d\d-\d\d\.backup$/)]);
  expect(readdirSync(backups)).toHaveLength(14);
  expect(readdirSync(backups)).not.toContain('vane-2099-01-01.backup');
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
