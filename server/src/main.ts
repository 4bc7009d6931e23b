import { hostname } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { pino } from 'pino';
import { createApp } from './app';
import { DEMO_SCHOOL_ID, isDemo } from './db/demoSchool';
import { openNamed } from './db/database';
import { readEnvironment } from './environment';
import { orEnd } from './problems/cannotStart';
import { BossJobs } from './jobs/bossJobs';
import type { ArchiveRead } from './threads/archiveRead';
import { harbourRoster } from './demo/harbourRoster';
import { loadDemo } from './demo/load';
import { DEMO_CLASSES } from './demo/names';
import { Judging } from './judging/judging';
import { certificateOf, listen, listenForMetrics, type Listening } from './listen';
import { MailFolder, Post } from './outside/mail';
import { RecordFile, RecordServer } from './outside/recordStore';
import { rosterAt, type RosterRead } from './outside/rosterService';
import { Metrics } from './request/metrics';
import { setUpCodeAtStart } from './school/setUpCode';
import { JudgeThreads } from './threads/judgeThreads';
import type { Print } from './threads/pdf';
import { foreignFiles, threadsOf } from './threads/threads';
import { workOf } from './work';

/**
 * The server process: it answers requests, takes work such as judging, or both. Everything it needs comes from the environment, and it says `ready` (a demo: `ready demo`) on its standard
 * output when it has begun.
 */
const env = await orEnd(() => readEnvironment(process.env));
const log = pino({ level: env.VANE_LOG });
const database = await orEnd(() => openNamed(env, log));
const { orm } = database;
const judge = new JudgeThreads(new URL('./judge.worker.js', import.meta.url));
const now = (): Date => new Date();
const metrics = env.VANE_METRICS_PORT === undefined ? null : new Metrics(database);

const publicUrl = env.VANE_URL ?? `http://127.0.0.1:${env.VANE_PORT}`;
const mail =
  env.VANE_SMTP_URL === null ? new MailFolder(env.VANE_MAIL) : new Post(env.VANE_SMTP_URL, env.VANE_SMTP_FROM);
const work =
  env.VANE_ROLE === 'web'
    ? null
    : workOf({
        database,
        judge,
        now,
        backups: env.VANE_BACKUPS ?? null,
        erasedFile: env.VANE_ERASED_FILE ?? null,
        post: { mail, publicUrl },
      });
const jobs = await BossJobs.open(env.DATABASE_URL, log, work);
// A laptop that is closed at night has its clearing up when it is opened.
if (work) for (const name of ['trim', 'count'] as const) jobs.ask(name, {});
if (env.VANE_DEMO && (await loadDemo(orm.em.fork(), now()))) {
  const judging = new Judging({ orm, judge, now });
  for (const { id } of DEMO_CLASSES) await judging.refresh({ schoolId: DEMO_SCHOOL_ID, classId: id });
}

const printing = threadsOf<Print, Uint8Array>(new URL('./pdf.worker.js', import.meta.url));
const rosters = foreignFiles<RosterRead>(new URL('./roster.worker.js', import.meta.url));
const archives = foreignFiles<ArchiveRead>(new URL('./archive.worker.js', import.meta.url));
const certificate = certificateOf(env);
const toClose: (() => Promise<void>)[] = [];
const web = () =>
  createApp({
    closing: (end) => toClose.push(end),
    database,
    judge,
    jobs,
    log,
    now,
    version: env.VANE_VERSION,
    webRoot: env.WEB_ROOT ?? null,
    checkAnswers: env.VANE_CHECK_ANSWERS,
    // Beside the built server, as in the checkout.
    uploads: env.VANE_UPLOADS,
    docsRoot: join(import.meta.dirname, '../../docs'),
    recordStore: env.VANE_RECORD_STORE_URL
      ? new RecordServer(env.VANE_RECORD_STORE_URL, env.VANE_RECORD_STORE_AUTHORIZATION)
      : new RecordFile(env.VANE_RECORD_FILE),
    rosterService: env.VANE_ROSTER_URL ? rosterAt(env.VANE_ROSTER_URL, env.VANE_ROSTER_AUTHORIZATION) : harbourRoster,
    printer: (print) => printing.run(print),
    readRoster: rosters.read,
    readArchive: archives.read,
    mail,
    metrics,
    publicUrl,
    secureCookie: env.VANE_HTTPS || certificate !== null,
    proxied: env.VANE_HTTPS,
    hostNames: ['localhost', hostname().toLowerCase(), `${hostname().toLowerCase()}.local`],
    schoolHosts: env.VANE_HOSTS,
  });
const cannotListen = (error: Error): never => {
  log.fatal({ error: error.message }, 'cannot listen');
  process.exit(1);
};
const listening: Listening[] = [];
if (metrics && env.VANE_METRICS_PORT !== undefined)
  listening.push(await listenForMetrics(metrics, env.VANE_METRICS_PORT).catch(cannotListen));
if (env.VANE_ROLE !== 'worker') listening.push(await listen(web(), env, certificate).catch(cannotListen));
const code = await setUpCodeAtStart(orm.em.fork(), now(), {
  given: env.VANE_SET_UP_CODE,
  alone: env.VANE_SUPERVISED,
});
if (code !== null) process.stdout.write(`To set up a school of your own, open ${publicUrl}/set-up#${code}\n`);
process.stdout.write((await isDemo(orm.em.fork())) ? 'ready demo\n' : 'ready\n');

/** What is under way when the server is told to stop has this long to end. */
const LONGEST_STOP_MS = 8_000;
let closing = false;
const close = (): void => {
  if (closing) return;
  closing = true;
  // Accepts no new requests and no new work, and lets what runs end, for a while. Event streams are closed.
  const longest = wait(LONGEST_STOP_MS, undefined, { ref: false });
  const end = () => Promise.all(toClose.map((one) => one()));
  void end();
  const ended = Promise.all([jobs.close(), ...listening.map((one) => one.close(LONGEST_STOP_MS))]).then(end);
  // A request whose client has left may still be judged: the threads and the database are its to the end.
  void Promise.race([ended, longest])
    // The database's pool may keep an idle connection, and with it this process: it has nothing left to do.
    .then(() => Promise.all([judge.close(), printing.destroy(), rosters.close(), archives.close(), database.close()]))
    .then(() => process.exit(0));
};
// Whoever started the server looks after the database too: without it, there is nothing left to serve.
const starter = process.ppid;
setInterval(() => {
  if (env.VANE_SUPERVISED && process.ppid !== starter) close();
}, 2000).unref();
process.on('SIGTERM', close);
process.on('SIGINT', close);
