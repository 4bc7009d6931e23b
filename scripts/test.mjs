import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, chmodSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildServer, buildWeb } from './build.mjs';
import { startCluster } from './postgres.mjs';
import { ensureDebianPackages, ensureNodeModules, ROOT } from './setup.mjs';

const bin = (name) => join(ROOT, 'node_modules/.bin', name);

/** Checks that are no tests but must hold: each that fails counts as one failure. */
const CHECKS = [
  ['types of core', bin('tsc'), ['-p', 'core']],
  ['types of contract', bin('tsc'), ['-p', 'contract']],
  ['types of server', bin('tsc'), ['-p', 'server']],
  ['types of web and its templates', bin('ngc'), ['-p', 'web/tsconfig.spec.json', '--noEmit']],
  ['types of e2e', bin('tsc'), ['-p', 'e2e']],
  ['lint', bin('eslint'), ['.', '--max-warnings', '0', '--cache', '--cache-location', 'node_modules/.cache/eslint/']],
  ['format', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
];

function check([name, program, args]) {
  const ran = spawnSync(program, args, { cwd: ROOT, encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'] });
  if (ran.status === 0) return 0;
  console.log(`${name}: failed\n${ran.stdout}${ran.stderr}`);
  return 1;
}

function jest(folder, url) {
  const out = join(folder, 'jest.json');
  spawnSync(
    process.execPath,
    [
      '--experimental-vm-modules',
      '--no-warnings',
      join(ROOT, 'node_modules/jest/bin/jest.js'),
      '--json',
      `--outputFile=${out}`,
      '--silent',
      // A failed test may leave something running: the count must come all the same.
      '--forceExit',
    ],
    {
      cwd: ROOT,
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, VANE_TEST_DATABASE_URL: url },
    },
  );
  const report = readJson(out);
  if (report === null) return { passed: 0, failed: 1 };
  const broken = report.testResults.filter(
    (file) => file.status === 'failed' && file.assertionResults.every((a) => a.status !== 'failed'),
  ).length;
  return { passed: report.numPassedTests, failed: report.numFailedTests + broken };
}

function playwright(folder, url) {
  const out = join(folder, 'playwright.json');
  spawnSync(bin('playwright'), ['test', '--config', 'e2e/playwright.config.ts', '--reporter=list,json'], {
    cwd: ROOT,
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, VANE_TEST_DATABASE_URL: url, PLAYWRIGHT_JSON_OUTPUT_NAME: out },
  });
  const report = readJson(out);
  if (report === null) return { passed: 0, failed: 1 };
  const { expected, unexpected, flaky } = report.stats;
  return { passed: expected + flaky, failed: unexpected + report.errors.length };
}

function readJson(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    console.log(`No report: ${error.message}`);
    return null;
  }
}

/** `npm test`: sets up what is missing, checks, and runs all tests against a database of their own. Ends with one line that sums them up. */
export async function test() {
  ensureDebianPackages({ browser: true });
  ensureNodeModules();
  const failedChecks = CHECKS.reduce((sum, one) => sum + check(one), 0);
  await buildServer();
  await buildWeb();
  const folder = mkdtempSync(join(tmpdir(), 'vane-test-'));
  chmodSync(folder, 0o755);
  // Its own cluster even when DATABASE_URL names a server: tests never touch anybody's data.
  const cluster = await startCluster(join(folder, 'postgres'), { durable: false });
  try {
    const url = cluster.url('postgres');
    const [units, pages] = [jest(folder, url), playwright(folder, url)];
    const failed = units.failed + pages.failed + failedChecks;
    console.log(`${units.passed + pages.passed} passed, ${failed} failed`);
    return failed === 0 ? 0 : 1;
  } finally {
    cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
