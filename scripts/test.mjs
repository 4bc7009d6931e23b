import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildServer, buildWeb } from './build.mjs';
import { BUNDLED, bundleSpecs } from './bundleSpecs.mjs';
import { startCluster } from './postgres.mjs';
import { ensureInstalled, ROOT } from './setup.mjs';
import { bin, CACHE, check, endAll, jest, playwright, print, seconds } from './testPrograms.mjs';

/** A test whose title has this word takes long, or proves again what a quicker one proves: it is left to `npm run test:all`. */
const LONG = '@long';
const NOT_LONG = `^(?!.*${LONG})`;

/** Checks that are no tests but must hold. Angular's templates are checked by the build. */
const TYPES = { name: 'types', program: bin('tsgo'), args: ['-b'] };
const LINT = {
  name: 'lint: Vane’s own rules',
  program: bin('eslint'),
  args: ['.', '--max-warnings', '0', '--cache', '--cache-location', `${CACHE}/eslint/`],
};
const CHECKS = [
  { name: 'lint: general rules', program: bin('oxlint'), args: ['.'] },
  { name: 'format', program: bin('oxfmt'), args: ['--check', '.'] },
  { name: 'circles between folders', program: process.execPath, args: ['scripts/circles.mjs'] },
  TYPES,
  LINT,
];
/** The same by the compiler that Angular builds with, the rules that need its types, and what is left over. */
const SLOW_CHECKS = [
  { name: 'types, by tsc', program: bin('tsc'), args: ['-b', '--force'] },
  {
    name: 'lint: all rules, with types',
    program: bin('eslint'),
    args: ['.', '--max-warnings', '0'],
    env: { VANE_LINT: 'types' },
  },
  {
    name: 'exports that nobody uses',
    program: bin('knip'),
    args: ['--include', 'exports,types,files,duplicates', '--no-progress'],
  },
];
const BUILD = { name: 'the browser application, built', program: process.execPath, args: ['scripts/build.mjs'] };
/** Looks at the built page, so it comes after the build. */
const MESSAGES = { name: 'messages in every language', program: process.execPath, args: ['scripts/messages.mjs'] };

/** Jest's projects in the order in which they are run. */
const PROJECTS = ['core', 'server', 'web', 'whole', 'scripts'];

/** Files of tests below a folder. */
function specs(folder) {
  return readdirSync(join(ROOT, folder), { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return ['node_modules', 'dist'].includes(entry.name) ? [] : specs(path);
    return /\.spec\.(ts|mjs)$/.test(entry.name) ? [path] : [];
  });
}
const allSpecs = () => ['core', 'contract', 'server', 'e2e', 'scripts', 'web/src'].flatMap(specs);
const isPage = (file) => file.startsWith(join('e2e', 'tests'));
const textOf = (file) => readFileSync(join(ROOT, file), 'utf8');
const escaped = (words) => words.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

const NOTHING = { passed: 0, failed: 0, failures: [] };
const summed = (counts) =>
  counts.reduce(
    (sum, one) => ({
      passed: sum.passed + one.passed,
      failed: sum.failed + one.failed,
      failures: [...sum.failures, ...one.failures],
    }),
    NOTHING,
  );

/** @param quietS seconds of one processor that a part takes on a quiet machine: what is said of the time left rests on them */
const part = (name, quietS, work) => ({ name, quietS, work });
const checking = (one, quietS) => part(one.name, quietS, () => check(one));

/**
 * What `npm test` runs on two processors: checks and Jest in one lane, the build and the browser's tests in the other; whichever ends later has both processors from then on. What measures time
 * comes last, alone.
 */
function shortRun(where) {
  const tests = (name, quietS) =>
    part(`Jest: ${name}`, quietS, async (processors) => {
      const bundled = BUNDLED[name];
      if (bundled) await bundleSpecs(name, bundled.from.flatMap(specs));
      const config = bundled ? 'jest.bundled.config.mjs' : 'jest.config.mjs';
      return jest(where, ['--config', config, '--selectProjects', name, `--testNamePattern=${NOT_LONG}`], processors);
    });
  const pages = (shard, quietS) =>
    part(`pages in the browser, part ${shard} of 3`, quietS, (processors) =>
      playwright(where, ['--project=laptop', '--project=tablet', `--shard=${shard}/3`, `--workers=${processors}`]),
    );
  return {
    env: { VANE_TESTS: 'short' },
    lanes: [
      [
        ...CHECKS.map((one) => checking(one, { [TYPES.name]: 27, [LINT.name]: 17 }[one.name] ?? 4)),
        ...PROJECTS.map((name) => tests(name, { core: 25, server: 110, web: 30, whole: 8, scripts: 5 }[name])),
      ],
      [checking(BUILD, 35), checking(MESSAGES, 6), pages(1, 95), pages(2, 95), pages(3, 95)],
    ],
    last: [part('what measures time, alone', 60, () => playwright(where, ['--project=timed', '--workers=1']))],
  };
}

/** What `npm run test:all` runs beside that. */
function longRun(where) {
  const files = allSpecs().filter((file) => !isPage(file));
  const properties = files.filter((file) => /testing\/property'/.test(textOf(file)));
  const long = files.filter((file) => textOf(file).includes(LONG) && !properties.includes(file));
  const tests = (name, quietS, args) => part(name, quietS, (processors) => jest(where, args, processors));
  const pages = (project, quietS) =>
    part(`${project}: pages in the browser`, quietS, (processors) =>
      playwright(where, [`--project=${project}`, `--workers=${processors}`]),
    );
  return {
    env: { VANE_TESTS: 'long', VANE_LONG: '1' },
    lanes: [
      [
        ...SLOW_CHECKS.map((one) => checking(one, 80)),
        tests('Jest: long tests', 200, [
          '--selectProjects',
          ...PROJECTS,
          '--testNamePattern',
          LONG,
          '--runTestsByPath',
          ...long,
        ]),
        tests('Jest: properties, tried often', 300, [
          '--selectProjects',
          ...PROJECTS,
          '--runTestsByPath',
          ...properties,
        ]),
      ],
      [pages('laptop', 500), pages('tablet', 120)],
    ],
    last: [part('what measures time, alone', 140, () => playwright(where, ['--project=timed', '--workers=1']))],
  };
}

/** Goes through a run's parts, and says which one begins and how long all of them will still take. */
async function goThrough({ env, lanes, last }, where) {
  Object.assign(where.env, env);
  const all = [...lanes.flat(), ...last];
  const began = Date.now();
  let begun = 0;
  let doneS = 0;
  const left = () => {
    // Two processors, until what is measured alone.
    const alone = last.reduce((sum, one) => sum + one.quietS, 0);
    const quietS = (all.reduce((sum, one) => sum + one.quietS, 0) - alone - doneS) / 2 + alone;
    // As quick as it has been so far; before that is known, as on a quiet machine.
    const pace = doneS < 30 ? 1 : (Date.now() - began) / 1000 / (doneS / 2);
    return Math.max(1, Math.round((quietS * pace) / 60));
  };
  const go = async (one, processors) => {
    print(`— ${++begun} of ${all.length}: ${one.name} (about ${left()} min left of all)\n`);
    const counts = await one.work(processors);
    doneS += one.quietS;
    return counts;
  };
  let going = lanes.length;
  const counts = await Promise.all(
    lanes.map(async (parts) => {
      const own = [];
      for (const one of parts) own.push(await go(one, going === 1 ? 2 : 1));
      going--;
      return summed(own);
    }),
  );
  for (const one of last) counts.push(await go(one, 1));
  return summed(counts);
}

/** The tests whose file or name has these words, long ones too: Jest's at once, the browser's after the build. */
async function some(where, words) {
  const has = (text) => text.toLowerCase().includes(words.toLowerCase());
  const inside = (file) => has(textOf(file));
  const all = allSpecs();
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

/** @param runs which of the runs, one after the other; what Jest and the browser use is built before */
async function whole(where, ...runs) {
  await buildServer();
  const counts = [];
  for (const made of runs) counts.push(await goThrough(made(where), where));
  return summed(counts);
}

/**
 * `npm test`: sets up what is missing, checks, and runs the tests that every change is held against; `--all` those and all others; `npm test -- WORDS` those whose file or name has the words.
 * Databases, homes, mail and whatever else is made lie in one folder of this run's own, which goes with it: it never touches anybody's data, and runs beside `npm start`. Ends with one line that
 * sums it up.
 */
export async function test(args) {
  const everything = args.includes('--all');
  const words = args.filter((arg) => arg !== '--all').join(' ');
  const began = Date.now();
  print(`Vane’s tests: ${words !== '' ? `those with “${words}”` : everything ? 'all of them' : 'the short run'}.\n`);
  await ensureInstalled({ browser: true, cluster: args.includes('--all') });
  const folder = mkdtempSync(join(tmpdir(), 'vane-test-'));
  chmodSync(folder, 0o755);
  // Whatever a test or a browser lays down for a while.
  process.env.TMPDIR = join(folder, 't');
  mkdirSync(process.env.TMPDIR);
  chmodSync(process.env.TMPDIR, 0o1777);
  // Its own cluster even when DATABASE_URL names a server.
  delete process.env.DATABASE_URL;
  const cluster = await startCluster(join(folder, 'postgres'), { durable: false });
  const end = () => {
    cluster.stop();
    rmSync(folder, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 });
  };
  let broken = false;
  for (const [name, status] of [
    ['SIGINT', 130],
    ['SIGTERM', 143],
    ['SIGHUP', 129],
  ])
    process.on(name, () => {
      // What was begun for this run goes with it, once; then it ends as the signal would have ended it.
      if (broken) return;
      broken = true;
      print('\nBroken off: ending what is under way …\n');
      void endAll().then(() => {
        end();
        process.exit(status);
      });
    });
  try {
    const env = {
      VANE_TEST_DATABASE_URL: cluster.url('postgres'),
      VANE_PG_BIN: cluster.bin,
      VANE_HOME: join(folder, 'home'),
    };
    const where = { folder, env };
    const runs = everything ? [shortRun, longRun] : [shortRun];
    const { passed, failed, failures } = words === '' ? await whole(where, ...runs) : await some(where, words);
    if (passed + failed === 0) print(`No test’s file or name has “${words}”.\n`);
    for (const one of failures) print(`\n${one}`);
    print(`${failures.length > 0 ? '\n' : ''}All in ${seconds(began)}.\n${passed} passed, ${failed} failed\n`);
    return failed === 0 && passed > 0 ? 0 : 1;
  } finally {
    if (!broken) end();
  }
}
