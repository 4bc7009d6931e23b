import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './setup.mjs';

/** The programs that check and test: each is run to its end, shown while it goes, and counted. */
export const bin = (name) => join(ROOT, 'node_modules/.bin', name);
export const CACHE = 'node_modules/.cache';
export const print = (text) => process.stdout.write(text);
export const seconds = (since) => `${((Date.now() - since) / 1000).toFixed(0)} s`;

/** Lines of what a failing test says that are shown: what was expected, on one screen. */
const SHOWN = 40;
/** How long programs that are told to end may take, ms. */
const ENDING_MS = 10_000;

/** Programs under way, each with all it starts in a process group of its own. */
const underWay = new Set();

const signal = ({ pid }, name) => {
  try {
    process.kill(-pid, name);
  } catch {
    // It has ended meanwhile.
  }
};

/** Ends every program under way with all that it has started: as Ctrl-C would, and after a while in any case. */
export async function endAll() {
  const ending = [...underWay];
  const ended = Promise.all(ending.map((child) => new Promise((done) => child.once('close', done))));
  for (const child of ending) signal(child, 'SIGINT');
  const late = setTimeout(() => ending.forEach((child) => signal(child, 'SIGKILL')), ENDING_MS);
  await ended;
  clearTimeout(late);
  for (const child of ending) signal(child, 'SIGKILL');
}

/** Runs a program to its end. Each line it writes is given to `heard`. */
function run(program, args, { env = {}, heard }) {
  return new Promise((done) => {
    const child = spawn(program, args, {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
      detached: true,
      env: { ...process.env, ...env },
    });
    underWay.add(child);
    for (const stream of [child.stdout, child.stderr]) {
      let rest = '';
      stream.setEncoding('utf8').on('data', (text) => {
        const lines = (rest + text).split('\n');
        rest = lines.pop();
        lines.forEach(heard);
      });
      stream.on('end', () => rest !== '' && heard(rest));
    }
    child.once('error', (error) => heard(error.message));
    child.once('close', (status) => {
      underWay.delete(child);
      done(status ?? 1);
    });
  });
}

/** @returns counts of one check: as one failure where it fails, as nothing where it passes */
export async function check({ name, program, args, env }) {
  const began = Date.now();
  const said = [];
  const status = await run(program, args, { env, heard: (line) => said.push(line) });
  print(status === 0 ? `  ✓ ${name} (${seconds(began)})\n` : `  ✘ ${name} (${seconds(began)})\n`);
  return { passed: 0, failed: status === 0 ? 0 : 1, failures: status === 0 ? [] : [failure(name, said.join('\n'))] };
}

/** Colours, which the reports hold. */
const COLOURS = new RegExp(`${String.fromCharCode(27)}\\[[\\d;]*m`, 'g');
/** What a failure says, as far as it is of use and fits on a screen: without the ways through other people's code. */
function failure(name, text) {
  const lines = text
    .replace(COLOURS, '')
    .split('\n')
    .filter((line) => !/^\s+at .*node_modules|^\s+at .*node:internal/.test(line));
  const cut = lines.length > SHOWN ? [...lines.slice(0, SHOWN), `… and ${lines.length - SHOWN} lines more`] : lines;
  return `✘ ${name}\n${cut.join('\n').trim()}\n`;
}

function readJson(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    return { missing: error.message };
  }
}
/** A program that ended without a report: what it said last. */
const noReport = (what, { missing }, said) => ({
  passed: 0,
  failed: 1,
  failures: [failure(what, [`no report: ${missing}`, ...said.slice(1 - SHOWN)].join('\n'))],
});

/** Where a run keeps what it makes. */
let made = 0;

export async function jest({ folder, env }, args, processors) {
  const out = join(folder, `jest-${made++}.json`);
  const began = Date.now();
  const said = [];
  const status = await run(
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
    {
      env,
      heard: (line) => {
        said.push(line);
        if (/^(PASS|FAIL) /.test(line.replace(COLOURS, ''))) print(`  ${line}\n`);
      },
    },
  );
  const report = readJson(out);
  if ('missing' in report) return noReport('Jest', report, said);
  const failures = report.testResults.flatMap((file) => {
    const failed = file.assertionResults.filter((one) => one.status === 'failed');
    const name = file.name.slice(ROOT.length + 1);
    if (failed.length === 0) return file.status === 'failed' ? [failure(name, file.message)] : [];
    // A bundle's tests are in a group by the name of their own file.
    const where = name.endsWith('.mjs') && !name.endsWith('.spec.mjs') ? '' : `${name}: `;
    return failed.map((one) => failure(`${where}${one.fullName}`, one.failureMessages.join('\n')));
  });
  // Whatever else was wrong with the run, such as something left running, is a failure too.
  if (failures.length === 0 && status !== 0) failures.push(failure('Jest', `ended with code ${status}`));
  print(`  ${failures.length === 0 ? '✓' : '✘'} Jest (${seconds(began)})\n`);
  return { passed: report.numPassedTests, failed: failures.length, failures };
}

export async function playwright({ folder, env }, args) {
  const name = `playwright-${made++}`;
  const out = join(folder, `${name}.json`);
  // What it keeps of failures, apart from the other runs': each empties its folder first.
  const kept = join(ROOT, CACHE, 'playwright', name);
  const said = [];
  await run(
    bin('playwright'),
    ['test', '--config', 'e2e/playwright.config.ts', '--reporter=list,json', '--output', kept, ...args],
    {
      env: { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: out },
      heard: (line) => {
        said.push(line);
        if (/^\s+[✓✘-] +\d+ /.test(line.replace(COLOURS, ''))) print(`${line}\n`);
      },
    },
  );
  const report = readJson(out);
  if ('missing' in report) return noReport('Playwright', report, said);
  const specsIn = (suite) => [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specsIn)];
  const failures = report.suites.flatMap(specsIn).flatMap((spec) =>
    spec.tests
      // What passes on a second try only has failed.
      .filter(({ status }) => status === 'unexpected' || status === 'flaky')
      .map(({ projectName, results }) =>
        failure(
          `${spec.file}: ${spec.title} (${projectName})`,
          results.flatMap(({ errors }) => errors.map(({ message }) => message)).join('\n'),
        ),
      ),
  );
  for (const { message } of report.errors) failures.push(failure('Playwright', message));
  return { passed: report.stats.expected, failed: failures.length, failures };
}
