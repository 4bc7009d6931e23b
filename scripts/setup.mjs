import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Installs what is missing on a fresh machine, and only that. Plain Node without packages: this runs before there are any. */
export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
/** Which Vane this is; `/api/health` tells the same. */
export const VERSION = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8')).version;

/** A failure with a message for a person: printed without a stack. */
export class Trouble extends Error {}

const POSTGRES = '/usr/lib/postgresql';

/** Folder of PostgreSQL's programs: of this major version, else the newest there is; null when there are none. */
export function postgresPrograms(version = null) {
  const there = existsSync(POSTGRES) ? readdirSync(POSTGRES).sort((a, b) => Number(b) - Number(a)) : [];
  const versions = version === null ? there : there.filter((one) => one === version);
  const found = versions
    .map((one) => join(POSTGRES, one, 'bin'))
    .find((bin) => existsSync(join(bin, 'initdb')) && existsSync(join(bin, 'postgres')));
  return found ?? null;
}

/** Debian's Chromium without its windows: a third lighter than the whole one, and the same where pages are concerned. */
const CHROMIUM = '/usr/bin/chromium-headless-shell';
export const chromiumProgram = () => (existsSync(CHROMIUM) ? CHROMIUM : null);

/** Runs a program that installs something. @throws Trouble with what it said */
async function install(program, args, { words = [program, ...args].join(' '), ...options } = {}) {
  const child = spawn(program, args, { cwd: ROOT, stdio: ['ignore', 'ignore', 'pipe'], ...options });
  let said = '';
  child.stderr.setEncoding('utf8').on('data', (text) => (said += text));
  const status = await new Promise((done) => {
    child.once('error', (error) => done(error.message));
    child.once('close', done);
  });
  if (status !== 0) throw new Trouble(`${words} failed:\n${said || status}`);
}

const apt = (...args) => install('apt-get', args, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });

/** Installs Debian packages, or says which to install. */
async function installPackages(names) {
  if (process.getuid?.() !== 0) {
    throw new Trouble(
      `These Debian packages are missing: ${names.join(', ')}. Please run, as root: apt-get update && apt-get install -y ${names.join(' ')}`,
    );
  }
  console.error(`Installing Debian packages: ${names.join(', ')} …`);
  await apt('update');
  await apt('install', '-y', '--no-install-recommends', ...names);
}

/** Installs PostgreSQL and, for the tests, Chromium, a PDF renderer, nginx and PgBouncer, where they are missing; for all of them, what takes over when a database's machine is lost. With DATABASE_URL set, no PostgreSQL of our own is needed. */
export async function ensureDebianPackages({ browser = false, cluster = false } = {}) {
  const missing = [];
  if (!process.env.DATABASE_URL && postgresPrograms() === null) missing.push('postgresql');
  if (browser && chromiumProgram() === null) missing.push('chromium-headless-shell');
  // What stands in front of several servers, as deploy/ has it.
  if (browser && !existsSync('/usr/sbin/nginx')) missing.push('nginx-light');
  if (browser && !existsSync('/usr/sbin/pgbouncer')) missing.push('pgbouncer');
  // The tests look at printed pages as a printer would.
  if (browser && !existsSync('/usr/bin/pdftoppm')) missing.push('poppler-utils');
  for (const [program, name] of [
    ['/usr/bin/patroni', 'patroni'],
    ['/usr/bin/etcd', 'etcd-server'],
    ['/usr/sbin/haproxy', 'haproxy'],
  ])
    if (cluster && !existsSync(program)) missing.push(name);
  if (missing.length > 0) await installPackages(missing);
}

/** Ends an `npm ci` that nobody waits for any more; what it left half-made is made anew the next time. Debian's packages are never left half-installed. */
const giveUp = new AbortController();
process.once('exit', () => giveUp.abort());

/** Runs `npm ci` when node_modules is missing or older than the lock file. */
export async function ensureNodeModules() {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  const stamp = join(ROOT, 'node_modules/.vane-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.error('Installing npm packages (one to two minutes the first time) …');
  await install('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    words: 'npm ci',
    signal: giveUp.signal,
  });
  writeFileSync(stamp, lock);
}

/** Debian's packages and npm's, at the same time. */
export async function ensureInstalled(wish = {}) {
  try {
    await Promise.all([ensureDebianPackages(wish), ensureNodeModules()]);
  } catch (error) {
    giveUp.abort();
    throw error;
  }
}
