import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdir, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { formatISO, subHours } from 'date-fns';

/** A backup of every day is kept, made at night or, where Vane sleeps at night, in the first quarter of an hour of the day. */
const KEEP = 14;
const NIGHT_HOUR = 2;

/** The backup that is due: of the day that began at two in the night. */
const nameFor = (now: Date): string =>
  `vane-${formatISO(subHours(now, NIGHT_HOUR), { representation: 'date' })}.backup`;

/** Old backups to take away: all but the newest, up to this one. One of a later day was made while the clock was wrong, and goes first. */
const surplus = (names: readonly string[], newest: string): string[] =>
  names
    .filter((name) => /^vane-\d{4}-\d\d-\d\d\.backup$/.test(name))
    .sort((a, b) => Number(b > newest) - Number(a > newest) || (a < b ? -1 : 1))
    .slice(0, -KEEP);

/** Makes the backup of the day, unless it is in the folder. @throws Error that it could not be made; its program has said why on standard error */
export async function backUpNightly(folder: string, url: string, now: Date): Promise<void> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const name = nameFor(now);
  if ((await readdir(folder)).includes(name)) return;
  // A program of its own: it holds nothing up, and a killed server leaves no half of a backup.
  const made = spawn(process.execPath, [join(import.meta.dirname, 'backup.js'), join(folder, name)], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DATABASE_URL: url },
  });
  const [code] = (await once(made, 'exit')) as [number | null];
  if (code !== 0) throw new Error('no backup was made');
  for (const old of surplus(await readdir(folder), name)) await rm(join(folder, old));
}
