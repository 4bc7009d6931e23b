import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { buildServer, buildWeb, WEB_OUT } from './build.mjs';
import { classroom, serveTrust } from './classroom.mjs';
import { choosePort, claim, closed, erasedFile, forgetRunning, home, noteRunning, opened } from './home.mjs';
import { clusterFolder, ownDatabase, startCluster } from './postgres.mjs';
import { ensureInstalled, postgresPrograms, ROOT, Trouble, VERSION } from './setup.mjs';

/** More deaths of the server than this within a minute and it is left alone. */
const MOST_RESTARTS = 5;
const DATABASE = 'vane';
const SIGNALS = ['SIGINT', 'SIGTERM', 'SIGHUP'];

/** The database to use: an existing server named by DATABASE_URL, or a cluster of Vane's own. */
export async function openDatabase() {
  if (process.env.DATABASE_URL) return { url: process.env.DATABASE_URL, cluster: null };
  return opened(async () => {
    const cluster = await startCluster(clusterFolder(home()));
    return { url: ownDatabase(cluster, DATABASE), cluster };
  });
}

/** The database is no longer used by this process: one of Vane's own is stopped by its last user. */
export async function closeDatabase(cluster) {
  if (cluster !== null) await closed(() => cluster.stop());
}

/** What the server is told when it serves a whole classroom: its network's addresses, over HTTPS. */
const classroomEnv = (port, { addresses, key, certificate }) => ({
  VANE_HOST: '0.0.0.0',
  VANE_URL: `https://${addresses[0]}:${port}`,
  VANE_TLS_KEY: key,
  VANE_TLS_CERTIFICATE: certificate,
});

function serve(url, port, demo, room) {
  return spawn(process.execPath, ['--enable-source-maps', join(ROOT, 'server/dist/main.js')], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'inherit'],
    // Out of the terminal's process group: Ctrl-C reaches this process alone, which then stops all in order.
    detached: true,
    env: {
      ...process.env,
      DATABASE_URL: url,
      VANE_PORT: String(port),
      VANE_SUPERVISED: '1',
      VANE_DEMO: demo ? '1' : '',
      VANE_VERSION: VERSION,
      WEB_ROOT: WEB_OUT,
      VANE_MAIL: join(home(), 'mail'),
      VANE_BACKUPS: join(home(), 'backups'),
      VANE_UPLOADS: join(home(), 'uploads'),
      VANE_ERASED_FILE: erasedFile(),
      VANE_PG_BIN: postgresPrograms() ?? '',
      VANE_RECORD_FILE: join(home(), 'record-store/statements.jsonl'),
      ...(room === null ? {} : classroomEnv(port, room)),
    },
  });
}

/** `npm start`: everything from an empty machine to a page that can be opened, and everything stopped again by Ctrl-C. */
export async function start(args) {
  const unknown = args.find((arg) => arg !== '--no-demo' && arg !== '--classroom');
  if (unknown) throw new Trouble(`"${unknown}" is not known. Usage: npm start -- [--no-demo] [--classroom]`);
  const demo = !args.includes('--no-demo');
  const holder = claim();
  if (holder) {
    const where = holder.url === null ? 'is starting' : `runs at ${holder.url}`;
    console.log(`Vane already ${where} (process ${holder.pid}).`);
    return;
  }
  const began = Date.now();
  let cluster = null;
  // Told to end while it is still being made ready: nothing is left running, and nothing says that it runs.
  const early = () =>
    closeDatabase(cluster).finally(() => {
      forgetRunning();
      process.exit(130);
    });
  for (const signal of SIGNALS) process.once(signal, early);
  try {
    const port = await choosePort();
    await ensureInstalled();
    const room = args.includes('--classroom') ? await classroom() : null;
    await buildServer();
    await buildWeb();
    const database = await openDatabase();
    cluster = database.cluster;
    const address = `${room === null ? 'http' : 'https'}://127.0.0.1:${port}`;
    noteRunning(address);
    for (const signal of SIGNALS) process.off(signal, early);
    await supervise({ ...database, port, demo, address, began, room });
  } finally {
    await closeDatabase(cluster);
    forgetRunning();
  }
}

function welcome(address, demo, began) {
  console.log(`\nVane is at ${address}   (ready after ${((Date.now() - began) / 1000).toFixed(1)} s; Ctrl-C stops it)`);
  if (demo) console.log('Demo sign-in: keeper@saltmarsh.example   lanterns-on-the-jetty');
}

/** Tells the classroom's devices where to come, and how they come to trust this Vane. */
async function openClassroom(port, room) {
  const address = `https://${room.addresses[0]}:${port}`;
  for (const other of room.addresses) console.log(`In the school's network: https://${other}:${port}`);
  for (let plain = port + 1; plain < port + 20; plain++) {
    try {
      const server = await serveTrust(plain, room, address);
      console.log(
        `A device that does not trust Vane yet opens http://${room.addresses[0]}:${plain} first, and compares:`,
      );
      console.log(`  ${room.fingerprint}`);
      if (room.fresh) console.log('The certificate is new: devices that trusted one before have to trust this one.');
      return server;
    } catch (error) {
      if (error.code !== 'EADDRINUSE') throw error;
    }
  }
  console.error(`No port from ${port + 1} to ${port + 19} is free for the page that says how to trust Vane.`);
  return null;
}

/** Keeps server and database going until told to stop. */
async function supervise({ url, cluster, port, demo, address, began, room }) {
  let stopping = false;
  let child = null;
  let deaths = [];
  let greeted = false;
  let trusting = null;
  return new Promise((done, fail) => {
    // npm does not always hand on that it was told to end: when it is gone, so is the reason to go on.
    const starter = process.ppid;
    const watch = setInterval(() => {
      if (process.env.npm_lifecycle_event !== undefined && process.ppid !== starter) return stop();
      if (stopping || cluster === null || cluster.running()) return;
      console.log('The database has stopped; starting it again …');
      try {
        cluster.start();
        console.log('The database runs again. Nothing that was acknowledged is lost.');
      } catch (error) {
        console.error(error.message);
      }
    }, 1000);
    const stop = (result) => {
      if (stopping) return;
      stopping = true;
      clearInterval(watch);
      trusting?.close();
      const end = () => (result instanceof Error ? fail(result) : done());
      if (child === null || child.exitCode !== null || child.signalCode !== null) end();
      else {
        child.once('exit', end);
        child.kill('SIGTERM');
      }
    };
    const launch = () => {
      child = serve(url, port, demo, room);
      createInterface(child.stdout).on('line', (line) => {
        // This one line is the server's word that it listens; all others are its log.
        const ready = /^ready( demo)?$/.exec(line);
        if (!ready) return console.log(line);
        if (!greeted) {
          welcome(address, ready[1] !== undefined, began);
          if (room !== null) void openClassroom(port, room).then((server) => (trusting = server));
        }
        greeted = true;
      });
      child.once('exit', (code, signal) => {
        if (stopping) return;
        deaths = [...deaths.filter((at) => Date.now() - at < 60_000), Date.now()];
        if (!greeted || deaths.length > MOST_RESTARTS)
          return stop(
            new Trouble(
              `The server ended (${signal ?? `code ${code}`}) and does not stay up. Its last words are above.`,
            ),
          );
        console.log(`The server ended (${signal ?? `code ${code}`}); starting it again …`);
        setTimeout(launch, 500);
      });
    };
    for (const signal of SIGNALS) {
      process.on(signal, () => {
        console.log('\nStopping …');
        stop();
      });
    }
    launch();
  });
}
