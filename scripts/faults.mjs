import { once } from 'node:events';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { classroomCertificate } from './classroom.mjs';
import { startPatroni } from './cluster.mjs';
import { nginx, pooler } from './front.mjs';
import { adult, judged, serve, stop, underFault } from './load.mjs';
import { freePort } from './postgres.mjs';

/** Vane while something breaks in the middle. */
const NAMES = Array.from({ length: 30 }, (_, i) => `child-${i}`);
const SECONDS = 12;

async function killed(child) {
  const gone = once(child, 'exit');
  child.kill('SIGKILL');
  await gone;
}
const childrenOf = async ({ send, path }) => (await (await send('GET', path)).json()).children;

/** Two servers that answer, behind nginx, and two that judge, on one database: one of each killed under load. */
export async function serversKilled(url, folder) {
  process.env.VANE_HOME = join(folder, 'home');
  const [ports, front] = [[await freePort(), await freePort()], await freePort()];
  const https = { VANE_HTTPS: '1', VANE_URL: 'https://127.0.0.1' };
  const role = (VANE_ROLE, port) => serve(url, port, { ...https, VANE_ROLE });
  const servers = [await role('web', ports[0]), await role('web', ports[1])];
  const workers = [await role('worker', ports[0]), await role('worker', ports[1])];
  const proxy = await nginx(folder, front, ports, await classroomCertificate(['127.0.0.1']));
  const both = await adult(`https://127.0.0.1:${front}`, NAMES);
  const found = await underFault({
    ...both,
    children: await childrenOf(both),
    seconds: SECONDS,
    fault: async () => {
      await killed(servers[1]);
      await killed(workers[1]);
    },
  });
  const began = performance.now();
  await judged(both);
  const judgedMs = performance.now() - began;
  proxy.stop();
  for (const one of [servers[0], workers[0]]) await stop(one);
  return { ...found, judgedMs };
}

/** The database killed in mid-ingest and started again. */
export async function databaseKilled(url, killDatabase) {
  const port = await freePort();
  const server = await serve(url, port);
  const alone = await adult(`http://127.0.0.1:${port}`, NAMES);
  const found = await underFault({
    ...alone,
    children: await childrenOf(alone),
    seconds: SECONDS,
    fault: killDatabase,
  });
  await stop(server);
  return found;
}

/**
 * The primary of a database that takes over by itself is lost: once its whole machine, with Patroni and etcd, and, when that is back, PostgreSQL alone. Nobody does anything.
 * @param faults in order, each 'machine' or 'postgres'
 */
export async function takenOver(folder, ...faults) {
  mkdirSync(folder);
  const cluster = await startPatroni(join(folder, 'cluster'));
  const pool = await pooler(folder, await freePort(), cluster);
  const port = await freePort();
  const server = await serve(pool.url, port, {
    VANE_LISTEN_URL: pool.listenUrl,
    VANE_STANDBY_URL: cluster.readUrl('vane'),
  });
  try {
    const own = await adult(`http://127.0.0.1:${port}`, NAMES);
    const children = await childrenOf(own);
    const found = [];
    for (const fault of faults) {
      const lost = await cluster.primary();
      found.push(
        await underFault({
          ...own,
          children,
          seconds: 4 * SECONDS,
          fault: () => (fault === 'machine' ? cluster.killMachine(lost) : cluster.killPostgres(lost)),
        }),
      );
      if ((await cluster.primary()).name === lost.name) throw new Error(`nobody took the place of ${lost.name}`);
      if (fault === 'machine') cluster.startMachine(lost);
      await cluster.inStep();
    }
    return found;
  } finally {
    await stop(server);
    pool.stop();
    await cluster.stop();
  }
}
