import { execFile, spawn, spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { readFileSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { promisify } from 'node:util';
import { WEB_OUT } from './build.mjs';
import { freePort } from './postgres.mjs';
import { ROOT } from './setup.mjs';

/** Vane's server under load and under faults, over HTTP as devices reach it. */
const PASSWORD = 'lanterns-on-the-jetty';
const sorted = (values) => [...values].sort((a, b) => a - b);
const at = (values, share) => sorted(values)[Math.min(values.length - 1, Math.floor(values.length * share))];

/** The code that setting up asks for, where a server is started here. */
const CODE = 'HARBOUR234';

export async function serve(url, port, more = {}) {
  const server = spawn(process.execPath, [join(ROOT, 'server/dist/main.js')], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      DATABASE_URL: url,
      VANE_PORT: String(port),
      VANE_SET_UP_CODE: CODE,
      WEB_ROOT: WEB_OUT,
      VANE_MAIL: join(tmpdir(), `vane-${port}/mail`),
      VANE_RECORD_FILE: join(tmpdir(), `vane-${port}/statements.jsonl`),
      ...more,
    },
  });
  await once(server.stdout, 'data');
  return server;
}

export async function stop(server) {
  const gone = once(server, 'exit');
  server.kill('SIGTERM');
  await gone;
}

/** Requests to one server, by whoever has this cookie. */
export const asks = (base, cookie) => (method, path, body, type) =>
  fetch(base + path, {
    method,
    headers: { cookie, ...(body === undefined ? {} : { 'content-type': type ?? 'application/json' }) },
    body:
      body === undefined
        ? undefined
        : typeof body === 'string' || body instanceof Uint8Array
          ? body
          : JSON.stringify(body),
  });

/** What sets up a school with one class and its lead. */
export const setUpOf = (children) => ({
  code: CODE,
  school: 'Saltmarsh Infants',
  className: 'Curlew',
  name: 'Harbour keeper',
  email: 'keeper@saltmarsh.example',
  password: PASSWORD,
  children,
});

/** An adult's browser: what it sends, and its cookie. */
export async function adult(base, children) {
  const made = await asks(base, '')('POST', '/api/set-up', setUpOf(children));
  const cookie = (made.headers.get('set-cookie') ?? '').split(';')[0];
  const { classes } = await made.json();
  return { send: asks(base, cookie), cookie, path: `/api/classes/${classes[0].id}` };
}

const row = (child, sitting) => ({
  response_id: randomUUID(),
  child,
  sitting,
  shown_at: new Date().toISOString(),
  kind: 'show',
  fact: 'show:7:frame-fives',
  answer_mode: 'tap',
  exposure_ms: 750,
  response_ms: 1500,
  given: '7',
  outcome: 'correct',
  observed: '',
  aid: 'none',
  void: '',
  flags: [],
  quality: null,
});
export const batch = (child, sitting) => ({
  sittings: [
    { id: sitting, routine: 'flash-and-say', started_at: new Date().toISOString(), answer_mode: 'tap', settings: null },
  ],
  responses: [row(child, sitting)],
});

/** Memory of a process at its most so far, in megabytes; Linux alone tells. */
function memoryOf(pid) {
  const found = /VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
  return Math.round(Number(found?.[1] ?? NaN) / 1024);
}

/** A server, and a year of a class as a file that it has not taken in yet. */
async function yearOf(children, weeks, url, folder) {
  const made = spawnSync(
    process.execPath,
    [
      join(ROOT, 'server/dist/rehearse.js'),
      '--out',
      folder,
      '--seed',
      '11',
      '--children',
      String(children),
      '--weeks',
      String(weeks),
    ],
    { encoding: 'utf8' },
  );
  if (made.status !== 0) throw new Error(made.stderr);
  const csv = readFileSync(join(folder, 'responses.csv'));
  const lines = csv.toString('utf8').split('\n');
  const names = [...new Set(lines.slice(1).map((line) => line.split(',')[1]))].filter(Boolean);
  const port = await freePort();
  const server = await serve(url, port);
  const base = `http://127.0.0.1:${port}`;
  return { csv, server, base, ...(await adult(base, names)) };
}

/** Waits until a class is judged. */
export async function judged({ send, path }) {
  for (;;) {
    const { judging } = await (await send('GET', `${path}/readings`)).json();
    if (judging === 'done') return;
    if (judging === 'failed') throw new Error('the class could not be judged');
    await wait(50);
  }
}

/** A full class over a year, judged with its past weeks: for what its views take to open. */
export async function fullClass(url, folder) {
  const full = await yearOf(36, 40, url, folder);
  await (await full.send('POST', `${full.path}/import?write=yes`, full.csv, 'text/csv')).json();
  await judged(full);
  for (let pending = 1; pending > 0; await wait(1000))
    ({ pending } = await (await full.send('GET', `${full.path}/over-time`)).json());
  const { children } = await (await full.send('GET', full.path)).json();
  return { ...full, child: children[0] };
}

/** What `./vane school …` says, of a database. */
export const schoolCommand =
  (url) =>
  async (...args) => {
    const env = { ...process.env, DATABASE_URL: url };
    return (await promisify(execFile)(process.execPath, [join(ROOT, 'server/dist/school.js'), ...args], { env }))
      .stdout;
  };

/** Carries the one school of a database to another: for so long nobody can use it. */
async function carried(url, to, folder) {
  const [from, into] = [schoolCommand(url), schoolCommand(to)];
  const [id] = (await from('list')).split(' ');
  const file = join(folder, 'one.vane-school');
  const began = performance.now();
  await from('export', id, file);
  const written = performance.now();
  const [, rows] = /: (\d+) rows/.exec(await into('import', file));
  return {
    rows: Number(rows),
    megabytes: statSync(file).size / 1e6,
    writeS: (written - began) / 1000,
    readS: (performance.now() - written) / 1000,
  };
}

/** A year of thirty children: taken in as a file, judged, opened, and carried to another Vane. */
export async function year(url, folder, to) {
  const { csv, server, send, path } = await yearOf(30, 84, url, folder);
  const timed = async (get) => {
    const began = performance.now();
    const answer = await send('GET', get);
    await answer.text();
    if (answer.status !== 200) throw new Error(`${get}: ${answer.status}`);
    return performance.now() - began;
  };
  const middleOf = async (get) => {
    const took = [];
    for (let i = 0; i < 9; i++) took.push(await timed(get));
    return at(took, 0.5);
  };
  const lookBegan = performance.now();
  await (await send('POST', `${path}/import`, csv, 'text/csv')).json();
  const lookMs = performance.now() - lookBegan;
  const began = performance.now();
  const { fresh } = await (await send('POST', `${path}/import?write=yes`, csv, 'text/csv')).json();
  const importMs = performance.now() - began;
  const judgingBegan = performance.now();
  await judged({ send, path });
  const judgedMs = performance.now() - judgingBegan;
  const { children } = await (await send('GET', path)).json();
  const result = {
    rows: fresh,
    lookMs,
    importMs,
    rssMb: memoryOf(server.pid),
    judgedMs,
    classMs: (await middleOf(path)) + (await middleOf(`${path}/readings`)),
    childMs: await middleOf(`${path}/children/${children[0].id}`),
    logMs: await middleOf(`${path}/log?offset=100000`),
  };
  await stop(server);
  return { ...result, carried: await carried(url, to, folder) };
}

const CLASSES = 20;

/** Two hundred sittings at once, each handing in an answer every two to three seconds; then a thousand live screens. */
export async function crowd(url, { sittings = 200, answers = 12, screens = 1000, seconds = 15 } = {}) {
  const port = await freePort();
  const base = `http://127.0.0.1:${port}`;
  const server = await serve(url, port);
  const { send, path } = await adult(
    base,
    Array.from({ length: 30 }, (_, i) => `child-${i}`),
  );
  // As in a school: many classes, some sittings in each.
  const classes = [path];
  while (classes.length < CLASSES) {
    const { id } = await (await send('POST', '/api/school/classes', { name: `class ${classes.length}` })).json();
    await send('POST', `/api/classes/${id}/children`, {
      nicknames: Array.from({ length: 30 }, (_, i) => `child-${i}`),
    });
    classes.push(`/api/classes/${id}`);
  }
  const children = new Map();
  for (const one of classes) children.set(one, (await (await send('GET', one)).json()).children);
  const took = [];
  let accepted = 0;
  await Promise.all(
    Array.from({ length: sittings }, async (_, i) => {
      const sitting = randomUUID();
      await wait(2500 * Math.random());
      for (let n = 0; n < answers; n++) {
        const began = performance.now();
        const own = classes[i % classes.length];
        const answer = await send('POST', `${own}/record`, batch(children.get(own)[i % 30].id, sitting));
        const result = await answer.json();
        accepted += result.accepted?.length ?? 0;
        took.push(performance.now() - began);
        await wait(2000 + 1000 * Math.random());
      }
    }),
  );
  const live = await screensLive({ base, send, path, screens, seconds });
  await stop(server);
  return { sittings, asked: sittings * answers, accepted, p50: at(took, 0.5), p99: at(took, 0.99), live };
}

/** Time for a state from the adult's screen to the stage, with `screens` at once. */
async function screensLive({ base, send, path, screens, seconds }) {
  const took = [];
  const closing = new AbortController();
  const all = [];
  // One after the other: many wrong codes at once would be somebody who guesses.
  while (all.length < screens) {
    const { id, code } = await (await send('POST', `${path}/screens`, {})).json();
    const paired = await fetch(`${base}/api/board/pair`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ code }),
    });
    if (paired.status !== 204) throw new Error(`a screen could not be paired: ${paired.status}`);
    const cookie = (paired.headers.get('set-cookie') ?? '').split(';')[0];
    const events = await fetch(`${base}/api/board/events`, { headers: { cookie }, signal: closing.signal });
    void listen(events, took).catch(() => undefined);
    all.push(id);
  }
  const until = performance.now() + 1000 * seconds;
  let told = 0;
  await Promise.all(
    all.map(async (id) => {
      await wait(3000 * Math.random());
      for (let seq = 1; performance.now() < until; seq++) {
        told++;
        const put = await send('PUT', `${path}/screens/${id}`, { seq, state: { sent: performance.now() } });
        if (put.status !== 204) throw new Error(`a state was not taken: ${put.status}`);
        await wait(2500 + 1000 * Math.random());
      }
    }),
  );
  await wait(1000);
  closing.abort();
  return { screens, told, heard: took.length, p50: at(took, 0.5), p99: at(took, 0.99) };
}

async function listen(events, took) {
  let text = '';
  for await (const chunk of events.body.pipeThrough(new TextDecoderStream())) {
    text += chunk;
    for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
      const sent = /"sent":([\d.]+)/.exec(text.slice(0, end));
      text = text.slice(end + 2);
      if (sent) took.push(performance.now() - Number(sent[1]));
    }
  }
}

/** Hands in answers as devices do, the same one again until it is acknowledged, while something is broken in the middle. */
export async function underFault({ send, path, children, seconds, fault }) {
  const until = performance.now() + 1000 * seconds;
  const acknowledged = new Set();
  const times = [];
  let failures = 0;
  const clients = Array.from({ length: 40 }, async (_, i) => {
    const sitting = randomUUID();
    while (performance.now() < until) {
      const body = batch(children[i % children.length].id, sitting);
      for (;;) {
        // Acknowledged is what was heard whole: a server may be gone between the head of its answer and the rest.
        const result = await send('POST', `${path}/record`, body)
          .then(async (answer) => (answer.status === 200 ? answer.json() : void (await answer.text())))
          .catch(() => undefined);
        if (result !== undefined) {
          if (result.accepted.length + result.already.length === 1) {
            acknowledged.add(body.responses[0].response_id);
            times.push(performance.now());
          }
          break;
        }
        failures++;
        await wait(300);
      }
      await wait(40 * Math.random());
    }
  });
  await wait((1000 * seconds) / 3);
  await fault();
  await Promise.all(clients);
  const there = new Set();
  for (let offset = 0; ; offset += 200) {
    const { rows } = await (await send('GET', `${path}/log?offset=${offset}`)).json();
    if (rows.length === 0) break;
    for (const one of rows) {
      if (there.has(one.response_id)) throw new Error(`${one.response_id} is there twice`);
      there.add(one.response_id);
    }
  }
  const gaps = times.slice(1).map((at, i) => at - times[i]);
  return {
    acknowledged: acknowledged.size,
    gapMs: Math.max(...gaps),
    lost: [...acknowledged].filter((id) => !there.has(id)).length,
    failures,
  };
}
