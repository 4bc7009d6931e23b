import { spawn } from 'node:child_process';
import { mkdirSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { home } from './home.mjs';
import { postgresPrograms, ROOT } from './setup.mjs';

/** While Vane runs, it keeps a backup of every day, made at night or, where it sleeps at night, in the first quarter of an hour of the day. */
const KEEP = 14;
const NIGHT_HOUR = 2;
const LOOK_EVERY_MS = 10 * 60_000;

/** The backup that is due: of the day that began at two in the night. */
export function nameFor(now) {
  const day = new Date(now);
  day.setHours(day.getHours() - NIGHT_HOUR);
  const two = (n) => String(n).padStart(2, '0');
  return `vane-${day.getFullYear()}-${two(day.getMonth() + 1)}-${two(day.getDate())}.backup`;
}

/** Old backups to take away: all but the newest. */
export const surplus = (names, keep = KEEP) =>
  names
    .filter((name) => /^vane-\d{4}-\d\d-\d\d\.backup$/.test(name))
    .sort()
    .slice(0, -keep);

/** Looks now and then whether a backup is due. Returns how to stop looking. */
export function backUpNightly(url, say = console.log) {
  const folder = join(home(), 'backups');
  let busy = false;
  const look = () => {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    const name = nameFor(Date.now());
    if (busy || readdirSync(folder).includes(name)) return;
    busy = true;
    const env = { ...process.env, DATABASE_URL: url, VANE_PG_BIN: postgresPrograms() ?? '' };
    const made = spawn(process.execPath, [join(ROOT, 'server/dist/backup.js'), join(folder, name)], {
      stdio: ['ignore', 'ignore', 'pipe'],
      env,
    });
    made.stderr.on('data', (text) => say(String(text).trim()));
    made.once('exit', (code) => {
      busy = false;
      if (code === 0) for (const old of surplus(readdirSync(folder))) rmSync(join(folder, old));
    });
  };
  const timer = setInterval(look, LOOK_EVERY_MS);
  timer.unref();
  return () => clearInterval(timer);
}
