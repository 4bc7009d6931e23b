import { spawnSync } from 'node:child_process';
import { join, resolve } from 'node:path';
import { ensureNodeModules, ensureDebianPackages, postgresPrograms, ROOT, Trouble, VERSION } from './setup.mjs';

/** `./vane COMMAND`: the one door to all of Vane's commands; npm's scripts come through it too. */
const HELP = `Usage: ./vane COMMAND
  start [--no-demo] [--classroom]              run Vane (npm start); --classroom: for all devices of
                                               the school's network, over HTTPS
  test [--all | WORDS]                         the tests (npm test): those of every change, all of them, or those
                                               whose file or name has these words
  mutation [PART ...]                          break the code of core, and count what a test notices
  bench [PART ...]                             measure the budgets (npm run bench), all or some of readings,
                                               quality, settling, plan, growth, load, views, faults,
                                               capacity, clocks, memory, fuzz, voice
  judge FILE.csv [--as-of DATE] [--all] [--time-zone NAME]
                                               readings of a responses file as CSV
  judge FILE.csv --explain --child ID --fact FACT [--as-of DATE]
                                               what one reading was computed from
  plan FILE.csv --child ID [--count N] [--as-of DATE] [--aim judge|practise] [--time-zone NAME]
  plan FILE.csv --week [--days N] [--adults N] [--minutes N] [--group N] [--times N] [--seed N] [--as-of DATE]
                                               what to ask this child next, and why, as CSV
  rehearse --out DIR [--seed N] [--children N] [--weeks N] [--condition NAME]
                                               a simulated class with its true knowledge, as CSV
  formats DIR                                  schemas and examples of every format
  script [ROUTINE]                             how a routine is played: what is in view, said, answered and recorded
  --version                                    which Vane this is
  reset-demo                                   the harbour demo as new
  set-up                                       a new code for setting up the first school
  school list                                  the schools of this Vane, and how each stands
  school add NAME --lead NAME --email ADDRESS [--time-zone NAME]
                                               another one, with a link for its lead
  school invite ID --lead NAME --email ADDRESS a link for another lead of a school
  school limit ID [--children N|any] [--reply-to ADDRESS|nobody]
                                               what a school may have, and where replies to its letters go
  school export ID FILE [--stay-open]          closes a school and writes it to a file, to be carried elsewhere;
                                               --stay-open: a copy of it
  school import FILE                           takes such a file in
  school reopen ID                             opens a school that was closed
  school delete ID --name NAME                 deletes a school, for good
  backup FILE                                  back up everything into one file, and check it
  restore FILE                                 restore a backup (stop Vane first)`;

/** Runs one of the server's built programs with this process's input and output, and ends as it ends. */
async function program(name, args, env = {}) {
  await ensureNodeModules();
  const { buildServer } = await import('./build.mjs');
  await buildServer();
  const ran = spawnSync(process.execPath, [join(ROOT, `server/dist/${name}.js`), ...args], {
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  return ran.status ?? 1;
}

/** A program that works on Vane's database, whether Vane runs or not. */
async function onDatabase(name, args) {
  await ensureDebianPackages();
  const { closeDatabase, openDatabase } = await import('./start.mjs');
  const { erasedFile } = await import('./home.mjs');
  const { url, cluster } = await openDatabase();
  try {
    const env = { DATABASE_URL: url, VANE_PG_BIN: postgresPrograms() ?? '', VANE_ERASED_FILE: erasedFile() };
    return await program(name, args, env);
  } finally {
    await closeDatabase(cluster);
  }
}
const absolute = (args) => args.map((arg) => resolve(arg));

async function restore(args) {
  const { running } = await import('./home.mjs');
  const now = running();
  if (now) throw new Trouble(`Vane runs (process ${now.pid}): stop it with Ctrl-C first. Nothing was changed.`);
  return onDatabase('restore', absolute(args));
}

const COMMANDS = {
  '--version': () => console.log(VERSION),
  start: async (args) => (await import('./start.mjs')).start(args),
  test: async (args) => (await import('./test.mjs')).test(args),
  mutation: async (args) => (await import('./mutation.mjs')).mutation(args),
  bench: async (args) => (await import('./bench.mjs')).bench(args),
  judge: (args) => program('judge', args),
  plan: (args) => program('plan', args),
  rehearse: (args) => program('rehearse', args),
  formats: (args) => program('formats', absolute(args)),
  script: (args) => program('script', args),
  'reset-demo': (args) => onDatabase('reset-demo', args),
  'set-up': (args) => onDatabase('set-up', args),
  school: (args) => onDatabase('school', args),
  backup: (args) => onDatabase('backup', absolute(args)),
  restore,
};

/** What the machine refuses, in words; anything else is a fault of Vane's, with its place. */
function plainly(error) {
  if (error instanceof Trouble) return error.message;
  const refused = {
    ENOSPC: 'there is no room left on the disk',
    EDQUOT: 'there is no room left on the disk',
    EROFS: 'nothing can be written there',
    EACCES: 'this user may not write there',
    EPERM: 'this user may not do that there',
  };
  const why = refused[error?.code];
  return why === undefined
    ? error
    : `${error.path ?? 'A file'}: ${why}. Nothing was started. Make room, or set VANE_HOME to another folder.`;
}

const [name = 'help', ...args] = process.argv.slice(2);
const command = COMMANDS[name];
if (!command) {
  console.log(HELP);
  process.exit(name === 'help' || name === '--help' ? 0 : 2);
}
try {
  process.exitCode = (await command(args)) ?? 0;
} catch (error) {
  console.error(plainly(error));
  process.exitCode = 1;
}
