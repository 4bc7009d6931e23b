import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from '@jest/globals';
import { ROOT } from './setup.mjs';

const vane = (...args) => spawnSync(process.execPath, [join(ROOT, 'scripts/vane.mjs'), ...args], { encoding: 'utf8' });

it('vane tells its version, that of package.json', () => {
  const { version } = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8'));
  expect(vane('--version')).toMatchObject({ status: 0, stdout: `${version}\n`, stderr: '' });
});

it('vane lists its commands, and an unknown one ends with them and code 2', () => {
  expect(vane('--help')).toMatchObject({ status: 0 });
  const unknown = vane('sail-away');
  expect([unknown.status, unknown.stdout]).toEqual([2, vane('--help').stdout]);
});

it('vane names an option of start that it does not know', () => {
  const { status, stderr } = vane('start', '--classrom');
  expect([status, stderr.trim()]).toEqual([
    1,
    '"--classrom" is not known. Usage: npm start -- [--no-demo] [--classroom]',
  ]);
});
