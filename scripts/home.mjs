import { existsSync, linkSync, mkdirSync, readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { ROOT, Trouble } from './setup.mjs';

/** Where Vane keeps its data, and which process runs on it. */
export const home = () => resolve(process.env.VANE_HOME ?? join(ROOT, '.vane'));

/** Ids of what was deleted for good, kept beside the database. */
export const erasedFile = () => join(home(), 'erased.csv');

/** Vane's own port: V-A-N-E on a telephone's keys. */
export const OWN_PORT = 8263;

const note = () => join(home(), 'running.json');

/** When a process began, in the kernel's ticks (field 22 of proc(5)'s stat): with its number it names one process for good; null = there is none. */
function beganAt(pid) {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19]);
  } catch {
    return null;
  }
}

const myself = (more = {}) => JSON.stringify({ pid: process.pid, began: beganAt(process.pid), ...more });

/** Whether the process of a note lives. A note of an older Vane does not say when it began: any process with its number is taken for it. */
function lives({ pid, began }) {
  const now = beganAt(pid);
  return now !== null && (began === null || began === now);
}

function noted(file) {
  const text = readFileSync(file, 'utf8');
  try {
    const { pid, url, began } = JSON.parse(text);
    if (Number.isInteger(pid))
      return { pid, url: typeof url === 'string' ? url : null, began: Number.isInteger(began) ? began : null };
  } catch {
    // Said below, with what to do about it.
  }
  throw new Trouble(
    `${file} cannot be read: it should say which process runs Vane. If none does, delete this file and start again.`,
  );
}

const holderOf = (file) => {
  if (!existsSync(file)) return null;
  const found = noted(file);
  return lives(found) ? { pid: found.pid, url: found.url } : null;
};

/** Writes a file whole or not at all. @returns false where one is there already */
function written(file, text) {
  const whole = `${file}.of-${process.pid}`;
  try {
    writeFileSync(whole, text);
    linkSync(whole, file);
    return true;
  } catch (error) {
    if (error.code === 'EEXIST') return false;
    throw error;
  } finally {
    rmSync(whole, { force: true });
  }
}

/** Takes a note for this process. @returns whose it is, or null: it is ours */
function take(file) {
  for (;;) {
    if (written(file, myself({ url: null }))) return null;
    const holder = holderOf(file);
    if (holder !== null) return holder;
    // Left by a crash. Whoever is first to move it away goes on; it is looked at once more, as another may have come in between.
    const aside = `${file}.left-${process.pid}`;
    try {
      renameSync(file, aside);
    } catch (error) {
      if (error.code !== 'ENOENT') throw error;
      continue;
    }
    if (lives(noted(aside))) renameSync(aside, file);
    else rmSync(aside);
  }
}

/** What runs on this home: `{pid, url}`, `url` null while it is starting; or null. A note left by a crash says nothing. */
export const running = () => holderOf(note());

/**
 * Takes this home for this process, before anything else is done in it. Of two that start at once one is given it, the other what holds it.
 * @returns {{pid: number, url: string | null} | null} who holds it; null: it is ours
 */
export function claim() {
  mkdirSync(home(), { recursive: true });
  return take(note());
}

/** Writes a file whole, in the place of one that may be there. */
function replaced(file, text) {
  const whole = `${file}.of-${process.pid}`;
  try {
    writeFileSync(whole, text);
    renameSync(whole, file);
  } finally {
    rmSync(whole, { force: true });
  }
}

export const noteRunning = (url) => replaced(note(), myself({ url }));

export const forgetRunning = () => rmSync(note(), { force: true });

/** Runs a piece of work while no other process on this home is at such a piece. */
async function alone(work) {
  mkdirSync(home(), { recursive: true });
  const file = join(home(), 'opening.json');
  while (take(file) !== null) await wait(50);
  try {
    return await work();
  } finally {
    rmSync(file, { force: true });
  }
}

const USING = 'using-';
const using = () => join(home(), `${USING}${process.pid}.json`);

/** Opens the database for this process; whoever is the last to use it closes it again by `closed`. */
export const opened = (open) =>
  alone(async () => {
    const cluster = await open();
    replaced(using(), myself());
    return cluster;
  });

/** This process needs the database no more: it is stopped, unless another one uses it. */
export const closed = (stop) =>
  alone(() => {
    rmSync(using(), { force: true });
    const notes = readdirSync(home()).filter((name) => name.startsWith(USING) && name.endsWith('.json'));
    const others = notes.filter((name) => {
      if (lives(noted(join(home(), name)))) return true;
      rmSync(join(home(), name), { force: true });
      return false;
    });
    if (others.length === 0) stop();
  });

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
