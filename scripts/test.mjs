import { spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { buildServer, buildWeb } from './build.mjs';
import { startCluster } from './postgres.mjs';
import { ensureInstalled, ROOT } from './setup.mjs';

const bin = (name) => join(ROOT, 'node_modules/.bin', name);
const CACHE = 'node_modules/.cache';

/** Checks that are no tests but must hold: each that fails counts as one failure. Types come first: lint reads what they leave. Angular's templates are checked by the build. */
const CHECKS = [
  ['types', bin('tsc'), ['-b']],
  ['lint', bin('eslint'), ['.', '--max-warnings', '0', '--cache', '--cache-location', `${CACHE}/eslint/`]],
  ['format', bin('oxfmt'), ['--check', '.']],
  ['circles between folders', process.execPath, ['scripts/circles.mjs']],
];

/** Looks at the built page, so it comes after the build. */
const MESSAGES = ['messages in every language', process.execPath, ['scripts/messages.mjs']];

/** What is running now, to be ended with this run. */
const running = new Set();

/** Runs a program to its end. Its words are given to `heard` (else kept) and handed back. */
function run(program, args, { env = {}, heard } = {}) {
  return new Promise((done) => {
    const child = spawn(program, args, {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, ...env },
    });
    running.add(child);
    let said = '';
    const hear = (text) => {
      if (heard) heard(String(text));
      else said += String(text);
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.once('error', (error) => hear(`${error.message}\n`));
    child.once('close', (status) => {
      running.delete(child);
      done({ status: status ?? 1, said });
    });
  });
}

const print = (text) => process.stdout.write(text);
const seconds = (since) => `${((Date.now() - since) / 1000).toFixed(0)} s`;

async function check([name, program, args]) {
  const began = Date.now();
  const { status, said } = await run(program, args);
  print(status === 0 ? `  ✓ ${name} (${seconds(began)})\n` : `  ✘ ${name}: failed\n${said}\n`);
  return { passed: 0, failed: status === 0 ? 0 : 1 };
}

function readJson(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    print(`No report: ${error.message}\n`);
    return null;
  }
}

async function jest(where, args, processors) {
  const out = join(where.folder, `jest-${where.made++}.json`);
  const began = Date.now();
  const { status } = await run(
    process.execPath,
    [
      '--experimental-vm-modules',
      '--no-warnings',
      join(ROOT, 'node_modules/jest/bin/jest.js'),
      '--json',
      `--outputFile=${out}`,
      '--silent',
      `--maxWorkers=${processors}`,
      ...args,
    ],
    { env: where.env, heard: (text) => /^\{/.test(text) || print(text) },
  );
  const report = readJson(out);
  if (report === null) return { passed: 0, failed: 1 };
  const broken = report.testResults.filter(
    (file) => file.status === 'failed' && file.assertionResults.every((a) => a.status !== 'failed'),
  ).length;
  const failed = report.numFailedTests + broken;
  print(`  ${failed === 0 ? '✓' : '✘'} Jest (${seconds(began)})\n`);
  // Whatever else was wrong with the run, such as something left running, is a failure too.
  return { passed: report.numPassedTests, failed: failed === 0 && status !== 0 ? 1 : failed };
}

async function playwright(where, args) {
  const name = `playwright-${where.made++}`;
  const out = join(where.folder, `${name}.json`);
  // What it keeps of failures, apart from the other runs': each empties its folder first.
  const kept = join(ROOT, CACHE, 'playwright', name);
  await run(
    bin('playwright'),
    ['test', '--config', 'e2e/playwright.config.ts', '--reporter=list,json', '--output', kept, ...args],
    { env: { ...where.env, PLAYWRIGHT_JSON_OUTPUT_NAME: out }, heard: print },
  );
  const report = readJson(out);
  if (report === null) return { passed: 0, failed: 1 };
  const { expected, unexpected, flaky } = report.stats;
  // What passes on a second try only has failed.
  return { passed: expected, failed: unexpected + flaky + report.errors.length };
}

const summed = (counts) => ({
  passed: counts.reduce((sum, c) => sum + c.passed, 0),
  failed: counts.reduce((sum, c) => sum + c.failed, 0),
});

async function inTurn(works) {
  const counts = [];
  for (const work of works) counts.push(await work());
  return summed(counts);
}

/** Goes through parts of work one after the other, each told how many processors it has: two once the other lane has ended. */
async function twoLanes(...lanes) {
  let going = lanes.length;
  const counts = lanes.map(async (parts) => {
    const own = await inTurn(parts.map((part) => () => part(going === 1 ? 2 : 1)));
    going--;
    return own;
  });
  return summed(await Promise.all(counts));
}

/** Each begins anew, so a few: a lane that has both processors begins its next part with two. */
const PARTS = 6;
const inParts = (work) => Array.from({ length: PARTS }, (_, i) => work(`--shard=${i + 1}/${PARTS}`));

/**
 * All of it, for two processors: checks and Jest on one, the build and the browser's tests on the other, and whichever is longer ends on both; then, alone on the machine, what measures time.
 * More at once would be no quicker, and would only make every test wait.
 */
async function everything(where) {
  await buildServer();
  const counts = await twoLanes(
    [...CHECKS.map((one) => () => check(one)), ...inParts((part) => (processors) => jest(where, [part], processors))],
    [
      () => buildWeb().then(() => check(MESSAGES)),
      ...inParts(
        (part) => (processors) =>
          playwright(where, ['--project=laptop', '--project=tablet', part, `--workers=${processors}`]),
      ),
    ],
  );
  return summed([counts, await playwright(where, ['--project=timed', '--workers=1'])]);
}

function specs(folder) {
  return readdirSync(join(ROOT, folder), { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return ['node_modules', 'dist'].includes(entry.name) ? [] : specs(path);
    return /\.spec\.(ts|mjs)$/.test(entry.name) ? [path] : [];
  });
}

const escaped = (words) => words.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** The tests whose file or name has these words: Jest's at once, the browser's after the build. */
async function some(where, words) {
  const has = (text) => text.toLowerCase().includes(words.toLowerCase());
  const inside = (file) => has(readFileSync(join(ROOT, file), 'utf8'));
  const isPage = (file) => file.startsWith(join('e2e', 'tests'));
  const all = ['core', 'contract', 'server', 'e2e', 'scripts', 'web/src'].flatMap(specs);
  const named = all.filter((file) => has(file) && !isPage(file));
  const holding = all.filter((file) => !has(file) && !isPage(file) && inside(file));
  const pages = all.filter((file) => isPage(file) && (has(file) || inside(file)));
  const counts = [];
  if (named.length > 0) counts.push(await jest(where, ['--runTestsByPath', ...named], 2));
  if (holding.length > 0) {
    const args = ['--passWithNoTests', '--testNamePattern', escaped(words), '--runTestsByPath', ...holding];
    counts.push(await jest(where, args, 2));
  }
  if (pages.length > 0) {
    await buildServer();
    await buildWeb();
    counts.push(await playwright(where, ['--grep', escaped(words), '--workers=1']));
  }
  return summed(counts);
}

/**
 * `npm test`: sets up what is missing, checks, and runs all tests; `npm test -- WORDS` those whose file or name has the words; `--long` with properties tried far more often and whole
 * classes judged. Databases, home and mail are this run's own: it never touches anybody's data, and runs beside `npm start`. Ends with one line that sums it up.
 */
export async function test(args) {
  const long = args.includes('--long');
  const words = args.filter((arg) => arg !== '--long').join(' ');
  await ensureInstalled({ browser: true });
  const folder = mkdtempSync(join(tmpdir(), 'vane-test-'));
  chmodSync(folder, 0o755);
  // Its own cluster even when DATABASE_URL names a server.
  const cluster = await startCluster(join(folder, 'postgres'), { durable: false });
  const end = () => {
    for (const child of running) child.kill('SIGTERM');
    cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  };
  for (const [signal, status] of [
    ['SIGINT', 130],
    ['SIGTERM', 143],
  ])
    process.once(signal, () => {
      // What was begun for this run goes with it; then it ends as the signal would have ended it.
      end();
      process.exit(status);
    });
  try {
    const env = {
      VANE_TEST_DATABASE_URL: cluster.url('postgres'),
      VANE_PG_BIN: cluster.bin,
      VANE_HOME: join(folder, 'home'),
      ...(long ? { VANE_LONG: '1' } : {}),
    };
    delete process.env.DATABASE_URL;
    const where = { folder, env, made: 0 };
    const began = Date.now();
    const { passed, failed } = words === '' ? await everything(where) : await some(where, words);
    if (passed + failed === 0)
      print(`No test's file or name has “${words}” (looked in ${relative('', ROOT) || '.'}).\n`);
    print(`All in ${seconds(began)}.\n${passed} passed, ${failed} failed\n`);
    return failed === 0 && passed > 0 ? 0 : 1;
  } finally {
    end();
  }
}
