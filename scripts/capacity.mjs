import { randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { Agent, request } from 'node:https';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { classroomCertificate } from './classroom.mjs';
import { nginx } from './front.mjs';
import { batch, serve, stop } from './load.mjs';
import { freePort } from './postgres.mjs';

/** A morning of many schools: answers and opened pages at a rate that does not wait for slow ones, and what each part of the machine spends on them. */

/** Once: every school has one session under way, an answer each two and a half seconds, and opens Class once a minute. */
const ANSWERS_A_SECOND = 1 / 2.5;
const CLASS_A_SECOND = 1 / 60;
const TIMES = [1, 4, 16];
const SECONDS = 20;
const WARM_SECONDS = 4;
/** Who has not answered by then is counted as not answered, ms. */
const PATIENCE_MS = 15_000;

const at = (values, share) => {
  const inOrder = [...values].sort((a, b) => a - b);
  return inOrder[Math.min(inOrder.length - 1, Math.floor(inOrder.length * share))] ?? NaN;
};

/** Processor seconds that a process and its threads have used; Linux alone tells. */
function usedBy(pid) {
  const text = readFileSync(`/proc/${pid}/stat`, 'utf8');
  const fields = text.slice(text.lastIndexOf(')') + 2).split(' ');
  // In hundredths of a second: utime and stime, and those of children that have ended.
  return fields.slice(11, 15).reduce((sum, one) => sum + Number(one), 0) / 100;
}
/** The same of PostgreSQL with all its processes. */
function usedByDatabase(postmaster) {
  const own = readdirSync('/proc').filter((pid) => /^\d+$/.test(pid));
  return own.reduce((sum, pid) => {
    try {
      const text = readFileSync(`/proc/${pid}/stat`, 'utf8');
      const parent = Number(text.slice(text.lastIndexOf(')') + 2).split(' ')[1]);
      return parent === postmaster || Number(pid) === postmaster ? sum + usedBy(pid) : sum;
    } catch (error) {
      // It has ended since it was listed.
      if (error.code !== 'ENOENT' && error.code !== 'ESRCH') throw error;
      return sum;
    }
  }, 0);
}

/** Sends, and tells how long the answer took from when it should have been asked, ms; Infinity where there was none. */
function asked(agent, port, { cookie }, method, path, body, due) {
  return new Promise((done) => {
    const sent = request(
      {
        ...{ agent, host: '127.0.0.1', port, method, path, timeout: PATIENCE_MS },
        headers: {
          cookie,
          ...(body && { 'content-type': 'application/json', 'content-length': Buffer.byteLength(body) }),
        },
      },
      (answer) => {
        answer.resume();
        answer.on('end', () => done(answer.statusCode === 200 ? performance.now() - due : Infinity));
        answer.on('error', () => done(Infinity));
      },
    );
    sent.on('timeout', () => sent.destroy(new Error('too late')));
    sent.on('error', () => done(Infinity));
    sent.end(body);
  });
}

/** One step of traffic, at `times` the usual rate. */
async function step(port, schools, times, spent) {
  const agent = new Agent({ keepAlive: true, maxSockets: 256, rejectUnauthorized: false });
  const took = { answers: [], pages: [] };
  const under = new Set();
  const go = (kind, from, measured) => {
    const school = schools[Math.floor(Math.random() * schools.length)];
    const child = school.children[Math.floor(Math.random() * school.children.length)];
    const work = (
      kind === 'answers'
        ? asked(
            agent,
            port,
            school,
            'POST',
            `${school.path}/record`,
            JSON.stringify(batch(child, school.sitting)),
            from,
          )
        : asked(agent, port, school, 'GET', `${school.path}/readings`, undefined, from)
    ).then((ms) => {
      if (measured) took[kind].push(ms);
      under.delete(work);
    });
    under.add(work);
  };
  const rates = { answers: times * ANSWERS_A_SECOND * schools.length, pages: times * CLASS_A_SECOND * schools.length };
  const began = performance.now();
  const end = began + 1000 * (WARM_SECONDS + SECONDS);
  const next = { answers: began, pages: began };
  let before = null;
  for (let now = began; now < end; now = performance.now()) {
    const measured = now - began > 1000 * WARM_SECONDS;
    if (measured) before ??= spent();
    for (const kind of ['answers', 'pages'])
      for (; next[kind] <= now; next[kind] += 1000 / rates[kind]) go(kind, next[kind], measured);
    await wait(2);
  }
  const after = spent();
  await Promise.all(under);
  agent.destroy();
  const answered = took.answers.filter(Number.isFinite);
  return {
    times,
    wanted: rates.answers,
    answers: answered.length / SECONDS,
    failed: took.answers.length - answered.length + took.pages.filter((one) => !Number.isFinite(one)).length,
    p50: at(took.answers, 0.5),
    p99: at(took.answers, 0.99),
    classP50: at(took.pages, 0.5),
    classP99: at(took.pages, 0.99),
    /** Of a processor, for each answer. */
    cpuMs: Object.fromEntries(
      Object.entries(after).map(([who, used]) => [who, (1000 * (used - before[who])) / answered.length]),
    ),
  };
}

/** Each load on one and on four servers that answer, and one that judges, behind nginx. */
export async function capacity(cluster, url, folder, { schools }) {
  process.env.VANE_HOME = join(folder, 'home');
  const certificate = await classroomCertificate(['127.0.0.1']);
  for (const school of schools) school.sitting = randomUUID();
  const found = [];
  for (const count of [1, 4]) {
    const [ports, front] = [[], await freePort()];
    while (ports.length < count) ports.push(await freePort());
    const https = { VANE_HTTPS: '1', VANE_URL: 'https://127.0.0.1' };
    const servers = [];
    for (const port of ports) servers.push(await serve(url, port, { ...https, VANE_ROLE: 'web' }));
    const worker = await serve(url, front, { ...https, VANE_ROLE: 'worker' });
    const proxy = await nginx(join(folder, `front${count}`), front, ports, certificate);
    const spent = () => ({
      web: servers.reduce((sum, one) => sum + usedBy(one.pid), 0),
      worker: usedBy(worker.pid),
      database: usedByDatabase(cluster.pid()),
      generator: process.cpuUsage().user / 1e6 + process.cpuUsage().system / 1e6,
    });
    const steps = [];
    for (const times of TIMES) {
      console.error(`${count} that answer, ${times} times the usual …`);
      steps.push(await step(front, schools, times, spent));
      await wait(3000);
    }
    found.push({ count, steps });
    proxy.stop();
    for (const one of [...servers, worker]) await stop(one);
  }
  return found;
}
