import fc from 'fast-check';
import pg from 'pg';
import { changes, ELSEWHERE, nonsense, OTHER_ROWS, OTHER, QUERIES, questions, RAW, spoiled } from './nonsense';
import type { World } from './nonsense';
import { Somebody, type Sent } from './somebody';
import { floods, races, rightsUnderStreams, type Class } from './together';

/**
 * Part `fuzz` of the bench: a given number of nonsensical requests to a server of its own, as nobody, as a teacher and as a lead, eight at a time. Then what several do at once, rights that change under open streams, and
 * large wrong files while another adult works. A failure, an answer that does not come, or a word of another school ends it with 1. Prints its figures as JSON.
 */
const [base = '', count = '100000', seedText = '8263'] = process.argv.slice(2);
const [most, seed] = [Number(count), Number(seedText)];
const url = process.env['DATABASE_URL'];
if (!url || !base) throw new Error('a database and an address are needed: use "npm run fuzz"');
const AT_ONCE = 8;
const client = new pg.Client({ connectionString: url });
await client.connect();

/** Some requests end the sign-in, as they should, and wrong ones from here are soon too many, as they should be: their counts are taken away. */
async function back(who: Somebody): Promise<void> {
  if (!who.signInAs) return;
  await client.query('delete from rate_limit');
  await who.json('POST', '/api/sign-in', who.signInAs);
}

/** Everything that the other school has, in every table that knows of schools. */
async function rowsElsewhere(): Promise<string> {
  const { rows } = await client.query<{ name: string }>(
    `select quote_ident(table_name) as name from information_schema.columns where table_schema = 'public' and column_name = 'school_id' order by 1`,
  );
  const sums: string[] = [];
  for (const { name } of rows) {
    const found = await client.query<{ sum: string }>(
      `select count(*) || ':' || coalesce(sum(hashtextextended(t::text, 0)), 0) as sum from ${name} t where school_id = $1`,
      [OTHER.school],
    );
    sums.push(`${name} ${found.rows[0]?.sum}`);
  }
  return sums.join('\n');
}

const LEAD = { email: 'keeper@saltmarsh.example', password: 'lanterns-on-the-jetty' };
const MATE = { email: 'mate@saltmarsh.example', password: 'gulls-over-the-quay' };
const lead = new Somebody(base, LEAD);
const me = await lead.json<{ classes: { id: string }[] }>('POST', '/api/set-up', {
  code: 'HARBOUR234',
  school: 'Saltmarsh Infants',
  className: 'Curlew',
  name: 'Harbour keeper',
  children: ['Zadie', 'Ivo', 'Odo'],
  ...LEAD,
});
const classId = me.classes[0]?.id ?? '';
const path = `/api/classes/${classId}`;
const { children } = await lead.json<{ children: { id: string }[] }>('GET', path);
const { link } = await lead.json<{ link: string }>('POST', '/api/school/invites', {
  name: 'Mate',
  email: MATE.email,
  role: 'teacher',
  classes: [classId],
});
const teacher = new Somebody(base, MATE);
await teacher.json('POST', '/api/join', {
  token: link.split('/').at(-1),
  name: 'Mate',
  password: MATE.password,
});
const nobody = new Somebody(base, null);
for (const row of OTHER_ROWS) await client.query(row);
const before = await rowsElsewhere();

const world: World = { path, child: children[0]?.id ?? '', other: OTHER };
/** A path with one of its parts replaced. */
const bent = (where: string) =>
  fc.tuple(fc.nat(), nonsense).map(([at, bad]) => {
    const parts = where.split('/').slice(2);
    parts[at % parts.length] = encodeURIComponent(
      Buffer.from(typeof bad === 'string' ? bad : (JSON.stringify(bad) ?? '')).toString(),
    ).slice(0, 2000);
    return `/api/${parts.join('/')}`;
  });
const change = fc.constantFrom(...changes(world)).chain(([method, route, good]) =>
  fc.oneof(
    { weight: 12, arbitrary: spoiled(good).map((body): Sent => ({ method, path: route, body: JSON.stringify(body) })) },
    { weight: 1, arbitrary: fc.constantFrom(...RAW).map((body): Sent => ({ method, path: route, body })) },
    {
      weight: 1,
      arbitrary: fc
        .constantFrom(
          'text/plain',
          'application/x-www-form-urlencoded',
          'multipart/form-data',
          'application/json; charset=utf-16',
        )
        .map((type): Sent => ({ method, path: route, body: JSON.stringify(good), type })),
    },
    { weight: 2, arbitrary: bent(route).map((to): Sent => ({ method, path: to, body: JSON.stringify(good) })) },
  ),
);
const question = fc.constantFrom(...questions(world)).chain((asked) =>
  fc.oneof(
    {
      weight: 3,
      arbitrary: fc.constantFrom(...QUERIES).map((query): Sent => ({ method: 'GET', path: asked + query })),
    },
    { weight: 1, arbitrary: bent(asked).map((to): Sent => ({ method: 'GET', path: to })) },
    {
      weight: 1,
      arbitrary: fc
        .constantFrom('HEAD', 'PATCH', 'OPTIONS', 'PUT', 'DELETE')
        .map((method): Sent => ({ method, path: asked, body: method === 'PUT' ? '{}' : undefined })),
    },
  ),
);
const request = fc.tuple(
  fc.oneof({ weight: 3, arbitrary: change }, { weight: 1, arbitrary: question }),
  fc.constantFrom(lead, lead, teacher, nobody),
);

const statuses = new Map<number, number>();
const faults: string[] = [];
let slowestMs = 0;
async function tryOne([sent, who]: readonly [Sent, Somebody]): Promise<void> {
  const began = performance.now();
  const said = `${sent.method} ${sent.path.slice(0, 200)} ${(sent.body ?? '').slice(0, 300)}`;
  try {
    const answer = await who.send(sent);
    statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
    if (answer.status >= 500) faults.push(`${answer.status} to ${said}`);
    if (answer.headers.get('content-type')?.includes('event-stream')) await answer.body?.cancel();
    else if ((await answer.text()).includes(ELSEWHERE)) faults.push(`another school's words in the answer to ${said}`);
    if (answer.status === 401 || answer.status === 423) await back(who);
  } catch (error) {
    faults.push(`${String(error)} at ${said}`);
  }
  slowestMs = Math.max(slowestMs, performance.now() - began);
}

const began = performance.now();
const BATCH = 2000;
for (let done = 0; done < most && faults.length === 0; done += BATCH) {
  const waiting = fc.sample(request, { seed: seed + done, numRuns: Math.min(BATCH, most - done) });
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) await tryOne(next);
    }),
  );
  process.stderr.write(`${done + BATCH} requests …\r`);
}
// The lead may have lost the school's classes and children to the nonsense: another one, with its own.
await back(lead);
await back(teacher);
const fresh = await lead.json<{ id: string }>('POST', '/api/school/classes', { name: 'Dunlin' });
const own = `/api/classes/${fresh.id}`;
await lead.json('POST', `${own}/children`, { nicknames: ['Wren', 'Skua', 'Ruff', 'Knot'] }).catch(() => null);
const found = await lead.json<{ children: { id: string }[] }>('GET', own);
const mate = await teacher.json<{ adult: { id: string } }>('GET', '/api/me');
await lead.send({
  method: 'PUT',
  path: `/api/school/adults/${mate.adult.id}`,
  body: JSON.stringify({ classes: [fresh.id] }),
});
const all: Class = { client, lead, teacher, path: own, children: found.children.map(({ id }) => id) };
const raced = await races(all, 200);
const streams = await rightsUnderStreams(all, 30);
const flooded = await floods(all);
faults.push(...raced.faults, ...streams.faults);
if ((await rowsElsewhere()) !== before) faults.push('another school’s rows were changed');
await client.end();
for (const fault of faults.slice(0, 20)) process.stderr.write(`${fault}\n`);
process.stdout.write(
  JSON.stringify({
    requests: [...statuses.values()].reduce((sum, n) => sum + n, 0),
    seconds: (performance.now() - began) / 1000,
    slowestMs,
    seed,
    faults: faults.length,
    raced: raced.sent,
    streamsMs: streams.longestMs,
    flooded,
    routes: changes(world).length + questions(world).length,
    statuses: [...statuses].sort(([a], [b]) => a - b),
  }),
);
process.exitCode = faults.length === 0 ? 0 : 1;
