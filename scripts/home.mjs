import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
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

/** What runs on this home: `{pid, url}`, or null. A note left by a crash is taken away. */
export function running() {
  if (!existsSync(note())) return null;
  const noted = JSON.parse(readFileSync(note(), 'utf8'));
  if (isVane(noted.pid)) return noted;
  rmSync(note());
  return null;
}

export function noteRunning(url) {
  mkdirSync(home(), { recursive: true });
  writeFileSync(note(), JSON.stringify({ pid: process.pid, url }));
}

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
