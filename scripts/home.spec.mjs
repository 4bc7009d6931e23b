import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { claim, closed, forgetRunning, noteRunning, opened, running } from './home.mjs';

let folder;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'vane-home-'));
  process.env.VANE_HOME = folder;
});
afterEach(() => {
  delete process.env.VANE_HOME;
  rmSync(folder, { recursive: true, force: true });
});
const note = (text) => writeFileSync(join(folder, 'running.json'), text);

/** A process that lives for as long as it is let. */
const someProcess = () =>
  spawn(process.execPath, ['-e', 'setInterval(() => 0, 1000)', 'vane.mjs'], { stdio: 'ignore' });

describe('who runs on a home', () => {
  it.each(['', '{"pid":', '{}', '{"pid":"me"}', 'null'])(
    'a note that says %j is told by its name, with what to do',
    (text) => {
      note(text);
      expect(running).toThrow(/running\.json cannot be read.*delete this file/);
      expect(claim).toThrow(/running\.json cannot be read.*delete this file/);
    },
  );

  it('is whoever claims it first; what a crash left is in nobody’s way', () => {
    note(JSON.stringify({ pid: 2 ** 22 + 1, url: 'http://127.0.0.1:1' }));
    expect(running()).toBeNull();
    expect(claim()).toBeNull();
    expect(readdirSync(folder)).toEqual(['running.json']);
    forgetRunning();
    expect(running()).toBeNull();
  });

  it('is told to whoever comes second', () => {
    const first = someProcess();
    try {
      note(JSON.stringify({ pid: first.pid, url: null }));
      expect(claim()).toEqual({ pid: first.pid, url: null });
    } finally {
      first.kill();
    }
  });

  it('is not a process that has the number of one that is gone, whatever its name', () => {
    const other = someProcess();
    try {
      note(JSON.stringify({ pid: other.pid, began: 1, url: null }));
      expect(claim()).toBeNull();
      noteRunning('http://127.0.0.1:2');
      expect(running()).toEqual({ pid: process.pid, url: 'http://127.0.0.1:2' });
    } finally {
      other.kill();
    }
  });

  it('a full disk leaves no half note behind', () => {
    const full =
      'const { claim } = await import(process.argv[1]); try { claim(); } catch (error) { console.log(error.code); }';
    const limited = `ulimit -f 0; trap '' XFSZ; exec "$0" --input-type=module -e "$1" "$2"`;
    const ran = spawnSync('bash', ['-c', limited, process.execPath, full, join(import.meta.dirname, 'home.mjs')], {
      encoding: 'utf8',
      env: { ...process.env, VANE_HOME: folder },
    });
    expect(ran.stdout.trim()).toBe('EFBIG');
    expect(readdirSync(folder)).toEqual([]);
  });
});

describe('the database of a home', () => {
  it('is stopped by the last one who uses it', async () => {
    const other = someProcess();
    const stop = jest.fn();
    try {
      await opened(() => Promise.resolve('it'));
      writeFileSync(join(folder, 'using-1.json'), JSON.stringify({ pid: other.pid, began: null }));
      await closed(stop);
      expect(stop).not.toHaveBeenCalled();
    } finally {
      other.kill();
      await once(other, 'exit');
    }
    await opened(() => Promise.resolve('it'));
    await closed(stop);
    expect(stop).toHaveBeenCalledTimes(1);
    expect(readdirSync(folder)).toEqual([]);
  });

  it('is opened and closed by one at a time', async () => {
    const order = [];
    const slow = (name) => async () => {
      order.push(`${name} begins`);
      await wait(120);
      order.push(`${name} ends`);
    };
    // As two processes would: this one's note stands in its own way too.
    await Promise.all([opened(slow('a')), opened(slow('b'))]);
    expect(order).toEqual(['a begins', 'a ends', 'b begins', 'b ends']);
  });
});
