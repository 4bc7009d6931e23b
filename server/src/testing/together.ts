import { RECORD_COLUMNS } from '@vane/contract';
import { once } from 'node:events';
import { setTimeout as wait } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';
import type pg from 'pg';
import { rowFor, SITTING } from './rows';
import type { Somebody } from './somebody';

/** What several do at the same time, at a server that is reached over HTTP. */
export interface Class {
  readonly client: pg.Client;
  readonly lead: Somebody;
  readonly teacher: Somebody;
  readonly path: string;
  readonly children: readonly string[];
}

/** What may never be, whatever was done at once: asked of the database, each of these finds nothing. */
const NEVER: Readonly<Record<string, string>> = {
  'an answer outside its child’s class':
    'select 1 from response r join child c on c.school_id = r.school_id and c.id = r.child_id where c.class_id <> r.class_id',
  'a school without a lead':
    "select 1 from school s where exists (select 1 from adult a where a.school_id = s.id) and not exists (select 1 from adult a where a.school_id = s.id and a.role = 'lead')",
  'a correction of another class than its answer’s':
    'select 1 from correction c join response r on r.school_id = c.school_id and r.id = c.response_id where r.class_id <> c.class_id',
  'something of a child who is not there':
    "select 1 from correction where before ->> 'childId' <> '' and not exists (select 1 from child where id::text = before ->> 'childId')",
  'two open words for one fact':
    'select 1 from overrule where removed_at is null group by school_id, child_id, fact having count(*) > 1',
};

/** Pairs of requests at once, round after round. @returns what went wrong, and how many were sent */
export async function races(all: Class, rounds: number): Promise<{ sent: number; faults: string[] }> {
  const { client, lead, teacher, path, children } = all;
  const faults: string[] = [];
  let sent = 0;
  const { id: other } = await lead.json<{ id: string }>('POST', '/api/school/classes', { name: 'Tern' });
  const send = async (who: Somebody, method: string, to: string, body: object): Promise<void> => {
    const answer = await who.send({ method, path: to, body: JSON.stringify(body) });
    sent++;
    if (answer.status >= 500) faults.push(`${answer.status} to ${method} ${to}`);
    await answer.text();
  };
  for (let round = 0; round < rounds; round++) {
    const child = children[round % children.length] ?? '';
    const [here, there] = round % 2 === 0 ? [path, `/api/classes/${other}`] : [`/api/classes/${other}`, path];
    const to = there.split('/').at(-1) ?? '';
    const [id, sitting] = [`t${round}`, { ...SITTING, id: `ts${round}` }];
    const row = rowFor(child, { response_id: id, sitting: sitting.id });
    const record = { sittings: [sitting], responses: [row] };
    const answered = (who: Somebody) => send(who, 'POST', `${here}/record`, record);
    const corrected = (who: Somebody, given: string) =>
      send(who, 'POST', `${here}/corrections`, { responses: [id], change: { what: 'answer', given } });
    const word = (who: Somebody, reading: string) =>
      send(who, 'POST', `${here}/children/${child}/overrules`, { fact: '3+4', reading, reason: 'seen' });
    await Promise.all([answered(lead), answered(teacher), send(lead, 'GET', `${here}/readings`, {}).catch(() => null)]);
    await Promise.all([corrected(lead, '6'), corrected(teacher, '5'), word(lead, 'knows'), word(teacher, 'counts')]);
    await Promise.all([
      send(lead, 'PUT', `${here}/children/${child}`, { classId: to }),
      send(teacher, 'POST', `${here}/record`, {
        sittings: [sitting],
        responses: [rowFor(child, { response_id: `${id}b`, sitting: sitting.id })],
      }),
      send(lead, 'PUT', `${here}/children/${child}`, { nickname: `N${round}` }),
    ]);
  }
  for (const [what, sql] of Object.entries(NEVER))
    if ((await client.query(sql)).rows.length > 0) faults.push(`after races: ${what}`);
  return { sent, faults };
}

/** Asks again and again, in a thread of its own: who sends large files has no time to look at the clock. */
const ASKING = `
  const { parentPort, workerData: { url, cookie } } = require('node:worker_threads');
  let worst = 0, over = false;
  parentPort.on('message', () => (over = true));
  (async () => {
    while (!over) {
      const began = performance.now();
      await (await fetch(url, { headers: { cookie } })).text();
      worst = Math.max(worst, performance.now() - began);
      await new Promise((later) => setTimeout(later, 5));
    }
    parentPort.postMessage(worst);
    parentPort.close();
  })();`;

/** Milliseconds that another adult waits for a small answer while somebody sends a file. */
async function waitedBeside(
  other: Somebody,
  file: () => Promise<Response>,
): Promise<{ status: number; worstMs: number }> {
  const asking = new Worker(ASKING, { eval: true, workerData: { url: other.at('/api/me'), cookie: other.cookie } });
  await wait(200);
  const { status } = await file();
  const told = once(asking, 'message') as Promise<[number]>;
  asking.postMessage('over');
  return { status, worstMs: (await told)[0] };
}

const HEADER = RECORD_COLUMNS.join(',');
/** Files that are large, wrong, or both. */
const FLOODS: Readonly<Record<string, () => { to: string; body: string; type: string }>> = {
  'forty thousand short rows': () => ({
    to: 'import?write=yes',
    body: `${HEADER}\n${'x,\n'.repeat(40_000)}`,
    type: 'text/csv',
  }),
  'half of four hundred thousand rows wrong': () => ({
    to: 'import',
    body: `${HEADER}\n${Array.from({ length: 200_000 }, (_, i) => `r${i},nobody,s\nx,`).join('\n')}`,
    type: 'text/csv',
  }),
  'an archive of 45 megabytes that is none': () => ({
    to: 'archive',
    body: JSON.stringify({
      format: 'vane-class',
      version: 3,
      responses: Array.from({ length: 330_000 }, (_, i) => ({
        response_id: `r${i}`,
        child: 'Odo',
        given: 'x'.repeat(80),
      })),
    }),
    type: 'application/json',
  }),
};

/** What a small answer to another adult takes while a file comes in. */
export async function floods({ lead, teacher, path }: Class) {
  const found: { what: string; status: number; worstMs: number }[] = [];
  for (const [what, make] of Object.entries(FLOODS)) {
    const { to, body, type } = make();
    const at = to === 'archive' ? '/api/school/archive' : `${path}/${to}`;
    const send = () => lead.send({ method: 'POST', path: at, body, type }, AbortSignal.timeout(120_000));
    found.push({ what, ...(await waitedBeside(teacher, send)) });
  }
  return found;
}

/** A teacher follows a screen while the class is taken and given. @returns what was still told after it was taken, and the longest time to the end, ms */
export async function rightsUnderStreams({ lead, teacher, path }: Class, rounds: number) {
  const { adult } = await teacher.json<{ adult: { id: string } }>('GET', '/api/me');
  const { id } = await lead.json<{ id: string }>('POST', `${path}/screens`, {});
  const classes = (some: string[]) =>
    lead.send({ method: 'PUT', path: `/api/school/adults/${adult.id}`, body: JSON.stringify({ classes: some }) });
  const own = path.split('/').at(-1) ?? '';
  const faults: string[] = [];
  let longestMs = 0;
  for (let round = 0; round < rounds; round++) {
    await classes([own]);
    const stream = await teacher.send({ method: 'GET', path: `${path}/screens/${id}/events` });
    const text = stream.text();
    const began = performance.now();
    await classes([]);
    if (!(await text).includes('ended')) faults.push('a stream that ended without a word');
    longestMs = Math.max(longestMs, performance.now() - began);
    if ((await teacher.send({ method: 'GET', path })).status !== 404)
      faults.push('a class that was taken is still read');
  }
  await classes([own]);
  return { longestMs, faults };
}
