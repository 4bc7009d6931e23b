import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { afterEach, beforeEach, expect, it, jest } from '@jest/globals';
import { ROOT } from './setup.mjs';

jest.setTimeout(120_000);
let folder;
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'vane-runs-'));
  chmodSync(folder, 0o755);
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

const run = (words) => {
  const child = spawn(process.execPath, [join(ROOT, 'scripts/vane.mjs'), 'test', words], {
    env: { ...process.env, TMPDIR: folder },
  });
  let said = '';
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += String(text)));
  return { child, said: () => said };
};
/** Programs that have this run's folder in what they were started with. */
const left = () => spawnSync('pgrep', ['-f', folder], { encoding: 'utf8' }).stdout.trim();

it('a run of the tests that is broken off leaves no process and no folder behind, and ends as it was told to @long', async () => {
  const { child, said } = run('in a class that is');
  // Its database runs, and Jest has begun with what takes a while.
  while (!readdirSync(folder).some((one) => existsSync(join(folder, one, 'postgres/postmaster.pid')))) await wait(50);
  await wait(2000);
  expect(left()).not.toBe('');
  child.kill('SIGTERM');
  const [code] = await once(child, 'exit');
  expect(code).toBe(143);
  expect(said()).toContain('Broken off');
  expect(left()).toBe('');
  expect(readdirSync(folder)).toEqual([]);
});

it('a run of one test says that it begins, how it went and how long it took, and leaves nothing behind @long', async () => {
  const { child, said } = run('written as a date, and known by zones');
  const [code] = await once(child, 'exit');
  expect([code, said()]).toEqual([
    0,
    expect.stringMatching(/^Vane’s tests: those with “written as.*PASS core.*All in \d+ s\.\n1 passed, 0 failed\n$/s),
  ]);
  expect(readdirSync(folder)).toEqual([]);
});

it('what no test has is said, and is no success @long', async () => {
  const { child, said } = run(`no test has these ${'words'}`);
  const [code] = await once(child, 'exit');
  expect([code, said()]).toEqual([1, expect.stringContaining('No test’s file or name has')]);
});
