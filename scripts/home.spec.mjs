import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { claim, forgetRunning, running } from './home.mjs';

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

/** A process that looks as Vane's does, for as long as it is let. */
function someVane() {
  return spawn(process.execPath, ['-e', 'setInterval(() => 0, 1000)', 'vane.mjs'], { stdio: 'ignore' });
}

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
    const first = someVane();
    try {
      note(JSON.stringify({ pid: first.pid, url: null }));
      expect(claim()).toEqual({ pid: first.pid, url: null });
    } finally {
      first.kill();
    }
  });
});
