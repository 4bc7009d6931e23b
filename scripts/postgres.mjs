import { spawnSync } from 'node:child_process';
import { accessSync, chownSync, constants, existsSync, mkdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { createServer } from 'node:net';
import { createHash } from 'node:crypto';
import { dirname, join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { postgresPrograms, Trouble } from './setup.mjs';

/** Life of one PostgreSQL cluster of Vane's own: made, started on loopback, reused, recovered after a crash, stopped. */

/** As root, PostgreSQL must run as another user: Debian's postgres. As anyone else, as oneself. */
function servant() {
  if (process.getuid?.() !== 0) return null;
  const id = (flag) => Number(spawnSync('id', [flag, 'postgres'], { encoding: 'utf8' }).stdout);
  const [uid, gid] = [id('-u'), id('-g')];
  if (!Number.isInteger(uid) || uid === 0)
    throw new Trouble('There is no user "postgres": is Debian\'s postgresql package installed?');
  return { uid, gid };
}

function run(program, args, user) {
  return spawnSync(join(postgresPrograms() ?? '', program), args, {
    cwd: '/',
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'pipe'],
    ...(user ?? {}),
  });
}

/** True when the servant may walk through every folder down to this one. */
function reachable(folder, user) {
  if (user === null) return true;
  return spawnSync('test', ['-x', folder], { uid: user.uid, gid: user.gid, cwd: '/' }).status === 0;
}

/**
 * The folder for a cluster: inside `home`, or, where root's database user cannot walk down to it (a private folder), a place of its own that is named.
 */
export function clusterFolder(home, say = console.log) {
  const user = servant();
  mkdirSync(home, { recursive: true });
  if (reachable(home, user)) return join(home, 'postgres');
  const other = join('/var/lib/vane', createHash('sha256').update(home).digest('hex').slice(0, 12));
  mkdirSync(other, { recursive: true, mode: 0o755 });
  say(`${home} is closed to the database's user; the database is kept in ${other}.`);
  return join(other, 'postgres');
}

export function freePort() {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => resolve(port));
    });
  });
}

/** Process and port of a cluster's lock file; null when there is none. */
function lockOf(data) {
  const file = join(data, 'postmaster.pid');
  if (!existsSync(file)) return null;
  const lines = readFileSync(file, 'utf8').split('\n');
  return { file, pid: Number(lines[0]), port: Number(lines[3]) };
}

/** True when the locking process lives and is this cluster's: after a crash its number may belong to something else. */
function lives({ pid }, data) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(data);
  } catch {
    return false;
  }
}

function initialise(data, user) {
  mkdirSync(data, { recursive: true, mode: 0o700 });
  if (user) chownSync(data, user.uid, user.gid);
  const made = run(
    'initdb',
    ['-D', data, '-U', 'vane', '-A', 'trust', '-E', 'UTF8', '--locale=C.UTF-8', '--no-sync'],
    user,
  );
  if (made.status === 0) return;
  rmSync(data, { recursive: true, force: true });
  throw new Trouble(`The database could not be made in ${data}:\n${made.stderr}`);
}

/**
 * Starts the cluster in `data`, making it first when it is new and reusing it when it runs already.
 * @param durable false for tests: nothing is flushed to disk
 * @returns {Promise<{port: number, url: (database: string) => string, running: () => boolean, start: () => void, stop: () => void, kill: () => void}>}
 */
export async function startCluster(data, { durable = true } = {}) {
  const user = servant();
  if (existsSync(data) && !existsSync(join(data, 'PG_VERSION'))) rmSync(data, { recursive: true, force: true });
  if (!existsSync(data)) initialise(data, user);
  if (user && statSync(data).uid !== user.uid)
    throw new Trouble(
      `${data} does not belong to the user "postgres": it was made by another user. Set VANE_HOME to another folder.`,
    );
  const alive = () => {
    const lock = lockOf(data);
    return lock !== null && lives(lock, data);
  };
  let port = 0;
  const start = () => {
    const lock = lockOf(data);
    if (lock && lives(lock, data)) {
      port = lock.port;
      return;
    }
    if (lock) rmSync(lock.file);
    const flags = durable ? '' : ' -c fsync=off -c synchronous_commit=off -c full_page_writes=off';
    const options = `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''${flags}`;
    const began = run('pg_ctl', ['-D', data, '-w', '-s', '-l', join(data, 'server.log'), '-o', options, 'start'], user);
    if (began.status !== 0)
      throw new Trouble(`The database in ${data} did not start:\n${began.stderr}${tail(join(data, 'server.log'))}`);
  };
  port = await freePort();
  start();
  const stop = () => {
    if (alive()) run('pg_ctl', ['-D', data, '-w', '-s', '-m', 'fast', 'stop'], user);
  };
  try {
    await recovered(port, data);
  } catch (error) {
    stop();
    throw error;
  }
  return {
    get port() {
      return port;
    },
    url: (database) => `postgresql://vane@127.0.0.1:${port}/${database}`,
    running: alive,
    start,
    /** Dead at once, as by a power cut: for trying what happens then. */
    kill: () => process.kill(lockOf(data).pid, 'SIGKILL'),
    stop,
  };
}

/** Waits while the database is brought back to a point in time: until then it can be read and not written. */
async function recovered(port, data) {
  const state = "select case when pg_is_in_recovery() then pg_get_wal_replay_pause_state() else 'done' end";
  for (let tries = 0; tries < 600; tries++) {
    const asked = run(
      'psql',
      ['-h', '127.0.0.1', '-p', String(port), '-U', 'vane', '-d', 'postgres', '-Atc', state],
      null,
    );
    if (asked.status !== 0) throw new Trouble(`The database in ${data} does not answer:\n${asked.stderr}`);
    if (asked.stdout.trim() === 'done') return;
    if (asked.stdout.trim() === 'paused')
      throw new Trouble(
        `The database in ${data} has reached its point in time and waits there: set recovery_target_action = 'promote' in its postgresql.conf.`,
      );
    if (tries === 0) console.log('The database is being brought back …');
    await wait(1000);
  }
  throw new Trouble(
    `The database in ${data} is still being brought back after ten minutes:\n${tail(join(data, 'server.log'))}`,
  );
}

/** Makes a database unless it is there. */
export function ensureDatabase(cluster, name) {
  const made = run('createdb', ['-h', '127.0.0.1', '-p', String(cluster.port), '-U', 'vane', name], null);
  if (made.status !== 0 && !made.stderr.includes('already exists'))
    throw new Trouble(`The database "${name}" could not be made:\n${made.stderr}`);
}

function tail(file) {
  try {
    accessSync(file, constants.R_OK);
    return readFileSync(file, 'utf8').split('\n').slice(-8).join('\n');
  } catch {
    return `(no log in ${dirname(file)})`;
  }
}
