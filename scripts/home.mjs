import { existsSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';
import { ROOT, Trouble } from './setup.mjs';

/** Where Vane keeps its data, and which process runs on it. */
export const home = () => resolve(process.env.VANE_HOME ?? join(ROOT, '.vane'));

/** Vane's own port: V-A-N-E on a telephone's keys. */
export const OWN_PORT = 8263;

const note = () => join(home(), 'running.json');

function isVane(pid) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('vane.mjs');
  } catch {
    return false;
  }
}

function noted(file) {
  const text = readFileSync(file, 'utf8');
  try {
    const { pid, url } = JSON.parse(text);
    if (Number.isInteger(pid)) return { pid, url: typeof url === 'string' ? url : null };
  } catch {
    // Said below, with what to do about it.
  }
  throw new Trouble(
    `${file} cannot be read: it should say which process runs Vane. If none does, delete this file and start again.`,
  );
}

/** What runs on this home: `{pid, url}`, `url` null while it is starting; or null. A note left by a crash says nothing. */
export function running() {
  if (!existsSync(note())) return null;
  const found = noted(note());
  return isVane(found.pid) ? found : null;
}

/**
 * Takes this home for this process, before anything else is done in it. Of two that start at once one is given it, the other what holds it.
 * @returns {{pid: number, url: string | null} | null} who holds it; null: it is ours
 */
export function claim() {
  mkdirSync(home(), { recursive: true });
  for (;;) {
    try {
      writeFileSync(note(), JSON.stringify({ pid: process.pid, url: null }), { flag: 'wx' });
      return null;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
    }
    const holder = running();
    if (holder !== null) return holder;
    // Left by a crash. Whoever is first to move it away goes on; it is looked at once more, as another may have come in between.
    const aside = `${note()}.left-${process.pid}`;
    try {
      renameSync(note(), aside);
    } catch (error) {
      if (error.code !== 'ENOENT') throw error;
      continue;
    }
    const taken = noted(aside);
    if (isVane(taken.pid)) renameSync(aside, note());
    else rmSync(aside);
  }
}

export const noteRunning = (url) => writeFileSync(note(), JSON.stringify({ pid: process.pid, url }));

export const forgetRunning = () => rmSync(note(), { force: true });

function isFree(port) {
  return new Promise((answer) => {
    const probe = createServer();
    probe.once('error', () => answer(false));
    probe.listen(port, '127.0.0.1', () => probe.close(() => answer(true)));
  });
}

/** The port to serve on: VANE_PORT exactly, else ours or the next free one. */
export async function choosePort() {
  const asked = process.env.VANE_PORT;
  if (asked !== undefined) {
    const port = Number(asked);
    if (!Number.isInteger(port) || port < 1 || port > 65535)
      throw new Trouble(`VANE_PORT is "${asked}", which is no port: use a number from 1 to 65535.`);
    if (!(await isFree(port)))
      throw new Trouble(
        `Port ${port} (VANE_PORT) is in use by another program. Choose another, or leave VANE_PORT unset.`,
      );
    return port;
  }
  for (let port = OWN_PORT; port < OWN_PORT + 50; port++) if (await isFree(port)) return port;
  throw new Trouble(`No port from ${OWN_PORT} to ${OWN_PORT + 49} is free. Set VANE_PORT.`);
}
