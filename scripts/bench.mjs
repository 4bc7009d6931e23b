import { spawn, spawnSync } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { gzipSync } from 'node:zlib';
import { buildServer, buildWeb, WEB_OUT } from './build.mjs';
import { clocks } from './clocks.mjs';
import { capacityText } from './benchCapacity.mjs';
import { planText } from './benchPlan.mjs';
import { qualityText, settlingText } from './benchQuality.mjs';
import { write } from './benchPage.mjs';
import { capacity } from './capacity.mjs';
import { databaseKilled, serversKilled, takenOver } from './faults.mjs';
import { beginMeasuring, measuredOn } from './machine.mjs';
import { crowd, fullClass, serve, stop, year } from './load.mjs';
import { ensureDatabase, freePort, startCluster } from './postgres.mjs';
import { drawCapacity, drawGrowth, longSitting, shows, views } from './screens.mjs';
import { ensureInstalled, ROOT, Trouble } from './setup.mjs';

/** `npm run bench`: measures the budgets of docs/benchmarks.md and writes that page anew. */
const percent = (share) => `${(100 * share).toFixed(1)} %`;
const ms = (value) => `${value < 10 ? value.toFixed(1) : Math.round(value)} ms`;

/** Scripts the first screen needs: those of the page, the place's own, and what these import at once; not what loads later. */
function firstScreen(sign) {
  const code = new Map(
    readdirSync(WEB_OUT)
      .filter((name) => name.endsWith('.js'))
      .map((name) => [name, readFileSync(join(WEB_OUT, name), 'utf8')]),
  );
  const page = readFileSync(join(WEB_OUT, 'index.html'), 'utf8');
  const needed = new Set();
  const take = (name) => {
    if (needed.has(name) || !code.has(name)) return;
    needed.add(name);
    for (const [, found] of code.get(name).matchAll(/(?:from|import)\s*"\.\/([^"]+\.js)"/g)) take(found);
  };
  for (const [, name] of page.matchAll(/(?:src|href)="([^"]+\.js)"/g)) {
    take(name);
    // Once the page speaks its language it loads the application; words of another language than the first are not loaded for it.
    for (const [, start] of (code.get(name) ?? '').matchAll(/import\("\.\/([^"]+\.js)"\)/g))
      if (!code.get(start)?.includes('/languages/')) take(start);
  }
  for (const [name, text] of code) if (text.includes(sign)) take(name);
  const sizes = [...needed].map((name) => gzipSync(code.get(name), { level: 9 }).length);
  return sizes.reduce((sum, size) => sum + size, 0) / 1000;
}

async function warmStart(folder) {
  const env = { ...process.env, VANE_HOME: join(folder, 'home'), VANE_PORT: String(await freePort()) };
  const once_ = async () => {
    const began = performance.now();
    const vane = spawn(process.execPath, [join(ROOT, 'scripts/vane.mjs'), 'start'], {
      stdio: ['ignore', 'pipe', 'inherit'],
      env,
    });
    await new Promise((ready, failed) => {
      vane.stdout.on('data', (text) => String(text).includes('Vane is at') && ready());
      vane.once('exit', (code) => failed(new Error(`Vane did not start (code ${code})`)));
    });
    const took = performance.now() - began;
    await stop(vane);
    return took;
  };
  return { firstMs: await once_(), warmMs: await once_() };
}

function page({ server: { speed, ingest }, script, seen, start }) {
  return `${measuredOn()}

| what | measured | budget |
|---|---|---|
| shows within one display frame of the length asked (${seen.shows} shows in headless Chromium, frame ${seen.frameMs} ms) | ${percent(seen.within)} | 99 % |
| shows with a dropped frame; shows flagged \`exposure-off\` | ${seen.dropped}; ${seen.flagged} | all recorded |
| mark to next show possible, 95th percentile | ${ms(seen.nextMs)} | 100 ms |
| scripts of the first screen (Today), gzip | ${script.today.toFixed(1)} kB | 160 kB |
| scripts of the sign-in, gzip | ${script.door.toFixed(1)} kB | 160 kB |
| judging ${speed.demoRows} responses of 24 children, one thread | ${ms(speed.demoMs)} | |
| judging ${speed.yearRows} responses of 30 children, one thread | ${ms(speed.yearMs)} the first time, ${ms(speed.yearAgainMs)} again, peak ${Math.round(speed.peakMb)} MB | 1 s |
| judging one child after one new response | ${ms(speed.childMs)} | 20 ms |
| taking in responses, in batches of 200 | ${Math.round(ingest.vane)} rows/s, ${(ingest.vane / ingest.bare).toFixed(1)} × bare single inserts (${Math.round(ingest.bare)} rows/s) | 0.5 × |
| \`npm start\` with nothing but the demo to load | ${(start.firstMs / 1000).toFixed(1)} s | |
| \`npm start\`, warm | ${(start.warmMs / 1000).toFixed(1)} s | 5 s |
`;
}

/** Runs of two hundred sittings. */
const CROWDS = 5;

function loadText({ year: y, crowds }) {
  const [c] = crowds;
  const each = (of) => crowds.map((one) => Math.round(of(one))).join(', ');
  return `## Under load

${measuredOn()} One server process, PostgreSQL beside it, over HTTP.

| what | measured | budget |
|---|---|---|
| a year of 30 children, ${y.rows} responses, looked at in a file without writing | ${(y.lookMs / 1000).toFixed(1)} s | |
| the same, taken in | ${(y.importMs / 1000).toFixed(1)} s, ${Math.round(y.rows / (y.importMs / 1000))} rows/s; the server's memory at its most ${y.rssMb} MB | |
| judged for the first time | ${(y.judgedMs / 1000).toFixed(1)} s | |
| then: what Class asks for (the class and its readings) | ${ms(y.classMs)} | 1000 ms |
| then: what Child asks for | ${ms(y.childMs)} | 500 ms |
| then: a page of the log from the middle | ${ms(y.logMs)} | |
| the school carried to another Vane on the same machine, ${y.carried.rows} rows, a file of ${y.carried.megabytes.toFixed(1)} MB: written and taken in | ${y.carried.writeS.toFixed(1)} s and ${y.carried.readS.toFixed(1)} s | |
| ${c.sittings} sittings at once, an answer each every two to three seconds | in ${CROWDS} runs: p50 ${each((one) => one.p50)} ms, p99 ${each((one) => one.p99)} ms; ${crowds.reduce((sum, one) => sum + one.accepted, 0)} of ${crowds.reduce((sum, one) => sum + one.asked, 0)} answers kept | p99 100 ms in each |
| ${c.live.screens} live screens, a change each every three seconds: from the adult's screen to the stage | p50 ${ms(c.live.p50)}, p99 ${ms(c.live.p99)}; ${c.live.heard} of ${c.live.told} heard | p99 1000 ms |
`;
}

function viewsText(found) {
  return `## A full class over a year

${measuredOn()} 36 children over a school year of 40 weeks, with their past weeks judged, on a server of its own. Until something can be pressed, in headless Chromium at 1280×800, the middle of three: from a link in the application, and from the address, which starts the application too.
\`npm run bench -- views\` does this alone.

| view | from a link | from its address | budget |
|---|---|---|---|
${found.map((one) => `| \`${one.view}\` | ${ms(one.fromLink)} | ${ms(one.fromAddress)} | 1000 ms |`).join('\n')}
`;
}

function faultsText({ servers, database, machine, postgres }) {
  const line = (what, f) =>
    `| ${what} | ${f.acknowledged} | ${f.lost} | none | ${f.failures} | ${(f.gapMs / 1000).toFixed(1)} s |`;
  return `## Under faults

${measuredOn()} Forty devices hand in answers, each one again until it is acknowledged. \`npm run bench -- faults\` does this alone.

| what | acknowledged | of these lost | twice | failed tries meanwhile | longest time without an acknowledgement |
|---|---|---|---|---|---|
${line('two servers that answer, behind nginx, and two that judge: one of each killed with SIGKILL', servers)}
${line('PostgreSQL killed with SIGKILL and started again', database)}
${line('the primary’s whole machine gone (PostgreSQL, Patroni, etcd)', machine)}
${line('PostgreSQL on the primary’s machine killed', postgres)}

After the first, the server that was left had judged the class ${ms(servers.judgedMs)} after the last answer.
`;
}

function voiceText(rooms) {
  const line = (r) =>
    `| ${r.room} (${r.noise}) | ${r.said} | ${r.missed} | ${r.p5.toFixed(1)} | ${r.p50.toFixed(1)} | ${r.p95.toFixed(1)} |`;
  return `## The voice key

How many milliseconds after (or, below nought, before) a made-up voice begins the key hears it: eleven numbers, of which five begin with a hiss, in rooms of three levels of noise (amplitude, full scale 1). Made-up voices
are no children; what is late for a copied number is as late for an answer, and comes off with the hand time. \`npm run bench -- voice\` does this alone.

| room | said | not heard | 5 % | middle | 95 % |
|---|---|---|---|---|---|
${rooms.map(line).join('\n')}
`;
}

function fuzzText({ requests, seconds, slowestMs, seed, faults: failed, routes, statuses, raced, streamsMs, flooded }) {
  return `## Under nonsense

${measuredOn()} Spoiled bodies, bent paths, wrong methods and types, over ${routes} routes and addresses, as nobody, as a teacher and as a lead, eight at a time, to a server of its own (seed ${seed}). A failure (500 and above), an answer
that does not come within twenty seconds, or a word or row of another school ends it. \`npm run fuzz\` does this alone.

| requests | in | slowest answer | failures, hangs, foreign rows | answers by status |
|---|---|---|---|---|
| ${requests} | ${Math.round(seconds)} s | ${ms(slowestMs)} | ${failed} | ${statuses.map(([status, n]) => `${status}: ${n}`).join(', ')} |

${raced} requests in pairs at once, over answers, corrections, own views and moves of the same children, left nothing that may not be. A stream of a class that was taken ended after ${ms(streamsMs)} at most. While a file came in, another adult's smallest question waited at most:

| file | answered with | longest wait beside it |
|---|---|---|
${flooded.map(({ what, status, worstMs }) => `| ${what} | ${status} | ${ms(worstMs)} |`).join('\n')}
`;
}

function growthText({ sizes }) {
  const line = (g) =>
    `| ${g.children} | ${g.answers} | ${g.responses} | ${ms(g.classMs)} | ${ms(g.allMs)} | ${ms(g.childMs)} | ${ms(g.planMs)} |`;
  return `## As it grows

${measuredOn()} Ten and a hundred times the children of a class, and ten and a hundred times the answers of each: a child costs the same in any class, and hardly more with more answers, as the
newest twelve to each fact are judged. \`npm run bench -- growth\` does this alone.

| children | answers of each | responses | learning the class | judging every child | judging one child anew | planning the day |
|---|---|---|---|---|---|---|
${sizes.map(line).join('\n')}

![Milliseconds against responses, both by powers of ten: learning the class, judging every child, judging one, planning the day](figures/growth.png)
`;
}

function clocksText(c) {
  return `## Two devices, one clock

${measuredOn()} Shown on one device, stopped on another whose clock is ${(c.wrongMs / 1000).toFixed(1)} s wrong: two pages in headless Chromium, which share a true time to be held against. ${c.sittings} sittings, a new device for
each. \`npm run bench -- clocks\` does this alone.

| what | measured | budget |
|---|---|---|
| answers off by, in the middle | ${ms(c.p50)} | |
| 99th percentile of ${c.answers} | ${ms(c.p99)} | 2 ms |
| the worst first answer of a device | ${ms(c.firstMs)} | 2 ms |
| further off than the record says of itself | ${c.outside} | none |
`;
}

function memoryText(points) {
  const [first, last] = [points[1], points.at(-1)];
  const line = (p) =>
    `| ${p.shows} | ${p.heapMb.toFixed(1)} MB | ${p.nodes} | ${p.listeners} | ${Math.round(p.serverMb)} MB |`;
  return `## Memory over a thousand shows

${measuredOn()} One page in headless Chromium, sitting after sitting of twenty shows without a reload; after each rubbish collection. From ${first.shows} to ${last.shows} shows the page's heap went from ${first.heapMb.toFixed(1)} to
${last.heapMb.toFixed(1)} MB; the server has its judging threads and all answers of the run. \`npm run bench -- memory\` does this alone.

| shows | page: heap | nodes | listeners | server: resident |
|---|---|---|---|---|
${points.map(line).join('\n')}
`;
}

/** One run of a measuring program of the server's; it prints its figures as JSON. */
function measured(program, args, env) {
  const ran = spawnSync(process.execPath, [join(ROOT, 'server/dist', program), ...args], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, ...env },
  });
  if (ran.status !== 0) throw new Trouble(`The measurement ${[program, ...args].join(' ')} failed.`);
  return JSON.parse(ran.stdout);
}

/** What is measured, part by part: how good and how fast, as it grows, under load, under faults, memory, and how late the voice key is. */
const PARTS = {
  async readings(cluster, folder) {
    for (const name of ['bench', 'demo']) ensureDatabase(cluster, name);
    console.error('Judging and taking in …');
    const figures = measured('bench.js', ['readings'], { DATABASE_URL: cluster.url('bench') });
    console.error('Shows in Chromium …');
    const port = await freePort();
    const server = await serve(cluster.url('demo'), port, { VANE_DEMO: '1' });
    const seen = await shows(`http://127.0.0.1:${port}`);
    await stop(server);
    console.error('Starting Vane …');
    const start = await warmStart(folder);
    const script = { today: firstScreen('Skip today'), door: firstScreen('Use the demo sign-in') };
    return page({ server: figures, script, seen, start });
  },
  quality() {
    console.error('Judging simulated classes …');
    return qualityText(measured('bench.js', ['quality'], {}), measuredOn());
  },
  settling() {
    console.error('Finding out what children know, planned and shuffled …');
    return settlingText(measured('bench.js', ['settling'], {}), measuredOn());
  },
  plan() {
    console.error('Half a term by the plan …');
    return planText(measured('bench.js', ['plan'], {}), measuredOn());
  },
  async growth() {
    console.error('Ten and a hundred times as much …');
    const figures = measured('bench.js', ['growth'], {});
    await drawGrowth(figures.sizes, join(ROOT, 'docs/figures/growth.png'));
    return growthText(figures);
  },
  async load(cluster, folder) {
    for (const name of ['year', 'carried', 'crowd']) ensureDatabase(cluster, name);
    mkdirSync(join(folder, 'year'));
    console.error('A year of a class …');
    const opened = await year(cluster.url('year'), join(folder, 'year'), cluster.url('carried'));
    console.error('Two hundred sittings and a thousand screens …');
    const crowds = [await crowd(cluster.url('crowd'))];
    // One run says little of the slowest answer in a hundred.
    while (crowds.length < CROWDS) {
      const name = `crowd${crowds.length}`;
      ensureDatabase(cluster, name);
      crowds.push(await crowd(cluster.url(name), { screens: 1, seconds: 1 }));
    }
    return loadText({ year: opened, crowds });
  },
  async views(cluster, folder) {
    ensureDatabase(cluster, 'views');
    mkdirSync(join(folder, 'views'));
    console.error('A full class over a year …');
    const full = await fullClass(cluster.url('views'), join(folder, 'views'));
    const found = await views(full);
    await stop(full.server);
    return viewsText(found);
  },
  async faults(cluster, folder) {
    // nginx has a certificate of its own, made for this.
    process.env.NODE_TLS_REJECT_UNAUTHORIZED = '0';
    for (const name of ['two', 'killed']) ensureDatabase(cluster, name);
    console.error('Killing servers and database …');
    const killDatabase = async () => {
      cluster.kill();
      // Its helpers go by themselves; until then it does not start.
      for (let tries = 0; ; tries++) {
        await wait(500);
        try {
          return cluster.start();
        } catch (error) {
          if (tries > 20) throw error;
        }
      }
    };
    const servers = await serversKilled(cluster.url('two'), folder);
    const database = await databaseKilled(cluster.url('killed'), killDatabase);
    const [machine, postgres] = await takenOver(join(folder, 'cluster'), 'machine', 'postgres');
    return faultsText({ servers, database, machine, postgres });
  },
  async capacity(cluster, folder) {
    ensureDatabase(cluster, 'capacity');
    const url = cluster.url('capacity');
    console.error('Two hundred schools …');
    const loaded = measured('bench.js', ['capacity'], { DATABASE_URL: url });
    const found = await capacity(cluster, url, folder, loaded);
    await drawCapacity(found, join(ROOT, 'docs/figures/capacity.png'));
    return capacityText(loaded, found, measuredOn());
  },
  async clocks(cluster) {
    ensureDatabase(cluster, 'clocks');
    console.error('Two devices …');
    const port = await freePort();
    const server = await serve(cluster.url('clocks'), port, { VANE_DEMO: '1' });
    const found = await clocks(`http://127.0.0.1:${port}`);
    await stop(server);
    return clocksText(found);
  },
  async memory(cluster) {
    ensureDatabase(cluster, 'memory');
    console.error('A thousand shows …');
    const port = await freePort();
    const server = await serve(cluster.url('memory'), port, { VANE_DEMO: '1' });
    const points = await longSitting(`http://127.0.0.1:${port}`, server.pid);
    await stop(server);
    return memoryText(points);
  },
  async fuzz(cluster) {
    ensureDatabase(cluster, 'fuzz');
    console.error('A hundred thousand nonsensical requests …');
    const port = await freePort();
    const url = cluster.url('fuzz');
    const server = await serve(url, port);
    try {
      return fuzzText(measured('fuzz.js', [`http://127.0.0.1:${port}`, '100000'], { DATABASE_URL: url }));
    } finally {
      await stop(server);
    }
  },
  voice() {
    console.error('Listening …');
    return voiceText(measured('voice.js', [], {}));
  },
};

export async function bench(args) {
  const names = args.length > 0 ? args : Object.keys(PARTS);
  const unknown = names.find((name) => !(name in PARTS));
  if (unknown)
    throw new Trouble(`"${unknown}" is not known. Usage: npm run bench -- [${Object.keys(PARTS).join(' | ')}]`);
  await ensureInstalled({ browser: true, cluster: true });
  await buildServer();
  await buildWeb();
  const folder = mkdtempSync(join(tmpdir(), 'vane-bench-'));
  chmodSync(folder, 0o755);
  const cluster = await startCluster(join(folder, 'postgres'));
  try {
    for (const name of names) {
      beginMeasuring();
      const text = await PARTS[name](cluster, folder);
      write(name, text);
      console.log(text);
    }
    return 0;
  } finally {
    cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
