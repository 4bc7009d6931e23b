import { spawnSync } from 'node:child_process';
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

function apt(args) {
  const ran = spawnSync('apt-get', args, {
    stdio: ['ignore', 'pipe', 'pipe'],
    encoding: 'utf8',
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
  if (ran.status !== 0)
    throw new Trouble(`apt-get ${args.join(' ')} failed:\n${ran.stderr || ran.error?.message || ''}`);
}

/** Installs Debian packages, or says which to install. */
export function installPackages(names) {
  if (process.getuid?.() !== 0) {
    throw new Trouble(
      `These Debian packages are missing: ${names.join(', ')}. Please run, as root: apt-get update && apt-get install -y ${names.join(' ')}`,
    );
  }
  console.error(`Installing Debian packages: ${names.join(', ')} …`);
  apt(['update']);
  apt(['install', '-y', '--no-install-recommends', ...names]);
}

/** Installs PostgreSQL and, for the tests, Chromium, a PDF renderer, nginx and PgBouncer, where they are missing. With DATABASE_URL set, no PostgreSQL of our own is needed. */
export function ensureDebianPackages({ browser = false } = {}) {
  const missing = [];
  if (!process.env.DATABASE_URL && postgresPrograms() === null) missing.push('postgresql');
  if (browser && chromiumProgram() === null) missing.push('chromium-headless-shell');
  // What stands in front of several servers, as deploy/ has it.
  if (browser && !existsSync('/usr/sbin/nginx')) missing.push('nginx-light');
  if (browser && !existsSync('/usr/sbin/pgbouncer')) missing.push('pgbouncer');
  // The tests look at printed pages as a printer would.
  if (browser && !existsSync('/usr/bin/pdftoppm')) missing.push('poppler-utils');
  if (missing.length > 0) installPackages(missing);
}

/** Runs `npm ci` when node_modules is missing or older than the lock file. */
export function ensureNodeModules() {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  const stamp = join(ROOT, 'node_modules/.vane-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.error('Installing npm packages (one to two minutes the first time) …');
  const ran = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'pipe'],
    encoding: 'utf8',
  });
  if (ran.status !== 0) throw new Trouble(`npm ci failed:\n${ran.stderr}`);
  writeFileSync(stamp, lock);
}
