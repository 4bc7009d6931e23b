import { serve } from '@hono/node-server';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createServer } from 'node:https';
import { setTimeout as wait } from 'node:timers/promises';
import { pino } from 'pino';
import { MailFolder, Post } from './outside/mail';
import { createApp } from './app';
import { BadEnvironment, readEnvironment, type Environment } from './environment';
import { openDatabase } from './db/orm';
import { loadDemo } from './demo/load';
import { isDemo } from './db/demoSchool';
import { JudgeThreads } from './threads/judgeThreads';
import { DEMO_CLASSES } from './demo/names';
import { DEMO_SCHOOL_ID } from './db/demoSchool';
import { Readings } from './judging/readings';
import type { RosterRead } from './outside/rosterService';
import type { Print } from './threads/pdf';
import { RecordFile, RecordServer } from './outside/recordStore';
import { harbourRoster } from './demo/harbourRoster';
import { rosterAt } from './outside/rosterService';
import { logged } from './problems/logged';
import { Metrics } from './request/metrics';
import { trim } from './school/trim';
import { threadsOf } from './threads/threads';

/** The server process: everything it needs comes from the environment, and it says `ready` (a demo: `ready demo`) on its standard output when it listens. */
function environmentOrEnd(): Environment {
  try {
    return readEnvironment(process.env);
  } catch (error) {
    if (!(error instanceof BadEnvironment)) throw error;
    process.stderr.write(
      `Vane cannot start:\n${error.message}\nStart it with "npm start"; README.md lists what can be set.\n`,
    );
    process.exit(1);
  }
}
const env = environmentOrEnd();
const port = env.VANE_PORT;
const log = pino({ level: env.VANE_LOG });
const orm = await openDatabase(env.DATABASE_URL);
const judge = new JudgeThreads(new URL('./judge.worker.js', import.meta.url));
const printing = threadsOf<Print, Uint8Array>(new URL('./pdf.worker.js', import.meta.url));
const rosters = threadsOf<Uint8Array, RosterRead>(new URL('./roster.worker.js', import.meta.url));
const now = (): Date => new Date();
const metrics = env.VANE_METRICS_PORT === undefined ? null : new Metrics();

if (env.VANE_DEMO && (await loadDemo(orm.em.fork(), now()))) {
  const readings = new Readings({ orm, judge, log, now });
  for (const { id } of DEMO_CLASSES) await readings.current({ schoolId: DEMO_SCHOOL_ID, classId: id });
}

const demo = await isDemo(orm.em.fork());
/** A certificate of its own, where a classroom's devices come straight to this process. */
const tls =
  env.VANE_TLS_KEY !== undefined && env.VANE_TLS_CERTIFICATE !== undefined
    ? {
        createServer,
        serverOptions: { key: readFileSync(env.VANE_TLS_KEY), cert: readFileSync(env.VANE_TLS_CERTIFICATE) },
      }
    : null;
const toClose: (() => Promise<void>)[] = [];
const app = createApp({
  closing: (end) => toClose.push(end),
  orm,
  judge,
  log,
  now,
  version: env.VANE_VERSION,
  webRoot: env.WEB_ROOT ?? null,
  checkAnswers: env.VANE_CHECK_ANSWERS,
  // Beside the built server, as in the checkout.
  docsRoot: join(import.meta.dirname, '../../docs'),
  recordStore: env.VANE_RECORD_STORE_URL
    ? new RecordServer(env.VANE_RECORD_STORE_URL, env.VANE_RECORD_STORE_AUTHORIZATION)
    : new RecordFile(env.VANE_RECORD_FILE),
  rosterService: env.VANE_ROSTER_URL ? rosterAt(env.VANE_ROSTER_URL, env.VANE_ROSTER_AUTHORIZATION) : harbourRoster,
  printer: (print) => printing.run(print),
  readRoster: (zip) => rosters.run(zip),
  mail: env.VANE_SMTP_URL === null ? new MailFolder(env.VANE_MAIL) : new Post(env.VANE_SMTP_URL, env.VANE_SMTP_FROM),
  metrics,
  publicUrl: env.VANE_URL ?? `http://127.0.0.1:${port}`,
  secureCookie: env.VANE_HTTPS || tls !== null,
  proxied: env.VANE_HTTPS,
  hostNames: env.VANE_HOSTS,
});
// What has had its time goes now and then; a database that is away just then is tried again.
const TRIM_EVERY_MS = 6 * 3_600_000;
const trimNow = (): void =>
  void trim(orm.em.fork(), now()).catch((error: unknown) => log.error({ error: logged(error) }, 'could not trim'));
trimNow();
setInterval(trimNow, TRIM_EVERY_MS).unref();
const server = serve({ fetch: app.fetch, hostname: env.VANE_HOST, port, ...(tls ?? {}) }, () => {
  process.stdout.write(demo ? 'ready demo\n' : 'ready\n');
});
// Longer than a teacher's pauses: a connection that is closed while a request is in flight fails that request.
if ('keepAliveTimeout' in server) {
  server.keepAliveTimeout = 65_000;
  // A request whose head or body never ends is given up.
  server.headersTimeout = 20_000;
  server.requestTimeout = 300_000;
}
// For whoever looks after the machine, on that machine alone.
const measured = metrics && serve({ fetch: metrics.answer, hostname: '127.0.0.1', port: env.VANE_METRICS_PORT ?? 0 });

const cannotListen = (error: Error): never => {
  log.fatal({ error: error.message }, 'cannot listen');
  process.exit(1);
};
server.on('error', cannotListen);
measured?.on('error', cannotListen);

/** What is under way when the server is told to stop has this long to end. */
const LONGEST_STOP_MS = 8_000;
let closing = false;
const close = (): void => {
  if (closing) return;
  closing = true;
  // Accepts no new requests and lets running ones end, for a while. Event streams are closed.
  const ended = () => Promise.all(toClose.map((end) => end()));
  const longest = wait(LONGEST_STOP_MS, undefined, { ref: false });
  server.close(() => {
    // A request whose client has left may still be judged: the threads and the database are its to the end.
    void Promise.race([ended(), longest])
      // The database's pool may keep an idle connection, and with it this process: it has nothing left to do.
      .then(() => Promise.all([judge.close(), printing.destroy(), rosters.destroy(), orm.close()]))
      .then(() => process.exit(0));
  });
  measured?.close();
  void ended();
  if ('closeIdleConnections' in server) {
    const idle = setInterval(() => server.closeIdleConnections(), 100);
    idle.unref();
    void longest.then(() => server.closeAllConnections());
  }
};
// Whoever started the server looks after the database too: without it, there is nothing left to serve.
const starter = process.ppid;
setInterval(() => {
  if (env.VANE_SUPERVISED && process.ppid !== starter) close();
}, 2000).unref();
process.on('SIGTERM', close);
process.on('SIGINT', close);
