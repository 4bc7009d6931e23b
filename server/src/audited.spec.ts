import type { ClassReadings } from '@vane/contract';
import { pino } from 'pino';
import { isDemo, loadDemo } from './demo/load';
import { DEMO_SIGN_IN } from './demo/names';
import { rowFor, SET_UP, setUp, SITTING, startHarness, type Browser, type Harness } from './testing/harness';

/** What an audit from outside found: each held by a test that failed before it was mended. */
let harness: Harness;
let said: string[];
beforeEach(async () => {
  said = [];
  harness = await startHarness({ log: pino({ level: 'warn' }, { write: (line: string) => void said.push(line) }) });
});
afterEach(() => harness.close());

const json = async <T>(answer: Response): Promise<T> => (await answer.json()) as T;

/** A second school in the same database, with its lead signed in. */
async function otherSchool(): Promise<{ browser: Browser; schoolId: string }> {
  const em = harness.orm.em.fork();
  const rows = await em.execute<{ hash: string }[]>('select password_hash as hash from adult limit 1');
  const hash = rows[0]?.hash;
  const schoolId = '0197b000-0000-7000-8000-00000000000b';
  await em.execute(`insert into school (id, name, created_at) values (?, 'Elsewhere', now())`, [schoolId]);
  await em.execute(
    `insert into adult (school_id, id, email, name, role, password_hash, created_at) values (?, ?, 'lead@elsewhere.example', 'Other lead', 'lead', ?, now())`,
    [schoolId, '0197b000-0000-7000-8000-00000000000c', hash],
  );
  const browser = harness.browser();
  const answer = await browser.send('POST', '/api/sign-in', {
    email: 'lead@elsewhere.example',
    password: SET_UP.password,
  });
  expect(answer.status).toBe(200);
  return { browser, schoolId };
}

describe('letters', () => {
  const invite = { name: 'Mate', email: 'mate@harbour.example', role: 'teacher', classes: [] };
  const read = async (browser: Browser): Promise<string> => (await browser.get('/api/school/mail')).text();

  it('of a school are read there alone, also by a school that once invited the same address', async () => {
    const here = harness.browser();
    await setUp(here);
    const { browser: there } = await otherSchool();
    await there.send('POST', '/api/school/invites', invite);
    await here.send('POST', '/api/school/invites', invite);
    expect(JSON.parse(await read(here))).toMatchObject([{ to: invite.email, subject: 'Vane at Saltmarsh Infants' }]);
    expect(JSON.parse(await read(there))).toMatchObject([{ to: invite.email, subject: 'Vane at Elsewhere' }]);
  });

  it('to a new password are shown on no page, to no school', async () => {
    const here = harness.browser();
    await setUp(here);
    await here.send('POST', '/api/forgotten', { email: SET_UP.email });
    expect(await harness.posted(1)).toHaveLength(1);
    expect(harness.letters.map(({ to, secret }) => [to, secret])).toEqual([[SET_UP.email, true]]);
    expect(await read(here)).not.toContain('reset');
  });

  it('to a new password open nothing once the password was changed', async () => {
    const here = harness.browser();
    await setUp(here);
    await here.send('POST', '/api/forgotten', { email: SET_UP.email });
    expect(await harness.posted(1)).toHaveLength(1);
    const token = /reset\/([\w-]+)/.exec(harness.letters[0]!.text)![1]!;
    const password = 'other-boats-other-ropes';
    expect((await here.send('PUT', '/api/me/password', { old: SET_UP.password, password })).status).toBe(204);
    const late = await harness.browser().send('POST', '/api/reset', { token, password: 'taken-by-the-letter' });
    expect(late.status).toBe(410);
  });
});

describe('the demo', () => {
  const door = async (): Promise<object> => json(await harness.browser().get('/api/door'));
  const demoSignIn = (): Promise<Response> => harness.browser().send('POST', '/api/sign-in', DEMO_SIGN_IN);

  it('is never loaded beside a school, whose door knows nothing of it', async () => {
    await setUp(harness.browser());
    expect(await loadDemo(harness.orm.em.fork(), harness.clock, 1)).toBe(false);
    expect(await door()).toEqual({ needsSetUp: false, demo: null });
    expect((await harness.orm.em.fork().execute('select id from school')).length).toBe(1);
  });

  it('makes way for a school of one’s own, with everything in it', async () => {
    expect(await loadDemo(harness.orm.em.fork(), harness.clock, 1)).toBe(true);
    expect(await door()).toMatchObject({ demo: DEMO_SIGN_IN });
    expect((await demoSignIn()).status).toBe(200);
    const own = harness.browser();
    expect((await own.send('POST', '/api/set-up', { ...SET_UP, email: 'mine@harbour.example' })).status).toBe(201);
    const em = harness.orm.em.fork();
    expect(await em.execute('select name from school')).toEqual([{ name: SET_UP.school }]);
    expect(await em.execute('select count(*)::int as n from response')).toEqual([{ n: 0 }]);
    expect((await demoSignIn()).status).toBe(401);
    // Only once: the school is nobody's demo.
    expect((await harness.browser().send('POST', '/api/set-up', SET_UP)).status).toBe(409);
  });

  it('that an earlier Vane put beside a school lets nobody in by the password that everybody knows', async () => {
    await loadDemo(harness.orm.em.fork(), harness.clock, 1);
    const em = harness.orm.em.fork();
    await em.execute(`insert into school (id, name, created_at) values (?, 'Real', now())`, [
      '0197b000-0000-7000-8000-00000000000d',
    ]);
    expect(await isDemo(em)).toBe(false);
    expect((await demoSignIn()).status).toBe(401);
    expect(await door()).toMatchObject({ demo: null });
  });
});

describe('uploads', () => {
  it('that never end hold up nobody else, and only so many are taken at once', async () => {
    const browser = harness.browser();
    const { path } = await setUp(browser);
    const ends: (() => void)[] = [];
    const endless = (): ReadableStream<Uint8Array> => {
      let refused = false;
      return new ReadableStream({
        start: (controller) => {
          controller.enqueue(new TextEncoder().encode('response_id,child\n'));
          ends.push(() => refused || controller.close());
        },
        cancel: () => void (refused = true),
      });
    };
    const sent = Array.from({ length: 14 }, () =>
      browser.send('POST', `${path}/import?write=yes`, endless(), { 'content-type': 'text/csv' }),
    );
    // One adult may send two at a time: the others are told so at once.
    const first = await Promise.race(sent.map(async (one) => (await one).status));
    expect(first).toBe(429);
    expect((await browser.get('/api/health')).status).toBe(200);
    expect((await browser.get(path)).status).toBe(200);
    for (const end of ends) end();
    const statuses = await Promise.all(sent.map(async (one) => (await one).status));
    expect(statuses.filter((status) => status === 429)).toHaveLength(12);
    // Cut short, the two are no files of responses.
    expect(statuses.filter((status) => status === 422)).toHaveLength(2);
    expect((await browser.send('POST', `${path}/import`, 'nothing', { 'content-type': 'text/csv' })).status).toBe(422);
  });
});

describe('what one bad input can break', () => {
  it('columns with the names of an object’s own parts go out and come back', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const [ivo, odo] = [children.get('Ivo') ?? '', children.get('Odo') ?? ''];
    const responses = [
      rowFor(ivo, { extra: { constructor: 'ship', toString: 'x', valueOf: '1' } }),
      rowFor(odo, { response_id: 'r2' }),
    ];
    await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses });
    const csv = await (await browser.get(`${path}/responses.csv`)).text();
    expect(csv.trim().split('\n')).toHaveLength(3);
    const back = await browser.send('POST', `${path}/import`, csv, { 'content-type': 'text/csv' });
    expect(await back.json()).toMatchObject({ read: 2, same: 2, refused: 0 });
  });

  it.each([
    ['a time next to nothing', { response_ms: 5e-324 }],
    ['an offset of nearly a day', { shown_at: '2026-11-25T08:30:00+23:59' }],
    ['a fraction of two hundred digits', { shown_at: `2026-11-25T08:30:00.${'7'.repeat(200)}Z` }],
    ['the last year that is taken', { shown_at: '2199-12-31T23:59:59Z' }],
  ])('%s is kept, judged and goes out', async (_, change) => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const responses = [rowFor(children.get('Ivo') ?? '', change)];
    const kept = await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses });
    expect(await kept.json()).toEqual({ accepted: ['r1'], already: [], refused: [] });
    const { readings } = await json<ClassReadings>(await browser.get(`${path}/readings`));
    expect(readings.filter((r) => r.responses > 0)).toHaveLength(1);
    const csv = await (await browser.get(`${path}/responses.csv`)).text();
    const back = await browser.send('POST', `${path}/import`, csv, { 'content-type': 'text/csv' });
    expect(await back.json()).toMatchObject({ read: 1, same: 1, refused: 0 });
  });

  it('a clock centuries ahead moves nothing out of our time', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const responses = [rowFor(children.get('Ivo') ?? '', { shown_at: '2199-12-31T08:00:00Z' })];
    const sent = { sittings: [SITTING], responses, sent_at: '1970-01-02T00:00:00Z' };
    expect(await (await browser.send('POST', `${path}/record`, sent)).json()).toMatchObject({ accepted: ['r1'] });
    const csv = await (await browser.get(`${path}/responses.csv`)).text();
    const back = await browser.send('POST', `${path}/import`, csv, { 'content-type': 'text/csv' });
    expect(await back.json()).toMatchObject({ same: 1, refused: 0 });
  });

  it('an origin that is none, a state without end and a null in a path are refused, not failed at', async () => {
    const browser = harness.browser();
    const { path } = await setUp(browser);
    const made = await json<{ id: string }>(await browser.send('POST', `${path}/screens`, {}));
    const state = `${'{"a":'.repeat(5000)}{}${'}'.repeat(5000)}`;
    const deep = await browser.send('PUT', `${path}/screens/${made.id}`, `{"seq":1,"state":${state}}`);
    expect([deep.status, (await json<{ code: string }>(deep)).code]).toEqual([400, 'bad-body']);
    const strange = await browser.send('POST', '/api/sign-in', { email: 'a', password: 'b' }, { origin: 'null' });
    expect(strange.status).toBe(403);
    for (const at of ['/%00', '/api/%00', '/media/%00.js', `${path}/children/%00`])
      expect([at, (await browser.get(at)).status]).toEqual([at, 404]);
    expect(said).toEqual([]);
  });

  it('nicknames that differ by the sigma at a word’s end are two where PostgreSQL has two, and one where it has one', async () => {
    const wish = (children: string[]) => harness.browser().send('POST', '/api/set-up', { ...SET_UP, children });
    expect((await wish(['ΝΙΚΟΣ', 'νικοσ'])).status).toBe(400);
    expect((await wish(['ΝΙΚΟΣ', 'νικος'])).status).toBe(201);
  });

  it('an archive whose note names no sitting of it is refused by its place', async () => {
    const browser = harness.browser();
    const { path } = await setUp(browser);
    const archive = await json<{ notes: object[]; class: { name: string } }>(await browser.get(`${path}/archive.json`));
    const note = { child: null, sitting: 'nowhere', text: 'calm', by: 'Mate', made_at: '2026-11-25T09:00:00.000Z' };
    const broken = { ...archive, notes: [note] };
    const answer = await browser.send('POST', '/api/school/archive?write=yes', broken);
    expect([answer.status, (await json<{ detail: string }>(answer)).detail]).toEqual([
      422,
      'notes.0.sitting: there is no sitting "nowhere" in it',
    ]);
  });
});

describe('two servers', () => {
  it('asked for the same readings at once both answer, the same', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const second = await harness.another();
    const other = second.browser();
    await other.send('POST', '/api/sign-in', { email: SET_UP.email, password: SET_UP.password });
    for (let round = 0; round < 4; round++) {
      const responses = [...children.values()].flatMap((child, c) =>
        ['3+4', '2+5', '6-2', 'show:7:frame-fives'].map((fact, i) =>
          rowFor(child, {
            response_id: `r${round}-${c}-${i}`,
            fact,
            kind: fact.startsWith('show') ? 'show' : fact.includes('-') ? 'subtract' : 'add',
            given: fact === '6-2' ? '4' : '7',
            exposure_ms: null,
          }),
        ),
      );
      await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses });
      const answers = await Promise.all([browser.get(`${path}/readings`), other.get(`${path}/readings`)]);
      expect(answers.map((a) => a.status)).toEqual([200, 200]);
      const [one, two] = await Promise.all(answers.map((a) => json<ClassReadings>(a)));
      expect(one!.readings).toEqual(two!.readings);
      expect(one!.readings).toHaveLength(12);
    }
    await second.close();
  });
});

describe('guessing a pin', () => {
  it('is over after five tries, however many come at once', async () => {
    const browser = harness.browser();
    await setUp(browser);
    await browser.send('PUT', '/api/me/pin', { pin: '4711' });
    await browser.send('POST', '/api/me/lock', {});
    const tries = Array.from({ length: 60 }, (_, i) =>
      browser.send('POST', '/api/me/unlock', { pin: String(1000 + i) }),
    );
    const codes = await Promise.all(tries.map(async (one) => (await json<{ code: string }>(await one)).code));
    expect(codes.filter((code) => code === 'wrong-pin').length).toBeLessThanOrEqual(5);
    expect((await browser.send('POST', '/api/me/unlock', { pin: '4711' })).status).toBe(401);
  });

  it('is needed to take the pin away', async () => {
    const browser = harness.browser();
    await setUp(browser);
    expect((await browser.send('PUT', '/api/me/pin', { pin: '4711' })).status).toBe(204);
    expect((await browser.send('PUT', '/api/me/pin', { pin: null })).status).toBe(401);
    expect((await browser.send('PUT', '/api/me/pin', { pin: '1234', old: '0000' })).status).toBe(401);
    expect((await browser.send('PUT', '/api/me/pin', { pin: null, old: '4711' })).status).toBe(204);
  });
});

describe('over HTTPS', () => {
  it('the browser is told to stay there, and holds the cookie to this host', async () => {
    const safe = await startHarness({ secureCookie: true });
    try {
      const answer = await safe.app.request('/api/set-up', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(SET_UP),
      });
      expect(answer.headers.get('strict-transport-security')).toMatch(/^max-age=\d{7,}/);
      expect(answer.headers.get('set-cookie')).toMatch(/^__Host-vane_sign_in=.*Path=\/.*Secure/);
      const cookie = answer.headers.get('set-cookie')!.split(';')[0]!;
      expect((await safe.app.request('/api/me', { headers: { cookie } })).status).toBe(200);
    } finally {
      await safe.close();
    }
  });
});

describe('what is personal', () => {
  it('is in no log, whatever fails', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const zadie = children.get('Zadie') ?? '';
    // The table goes away under the server's feet.
    await harness.orm.em.fork().execute('alter table response rename to elsewhere');
    try {
      const responses = [rowFor(zadie, { given: '7', observed: ':lips', extra: { told: 'Zadie whispered' } })];
      expect((await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses })).status).toBe(500);
    } finally {
      await harness.orm.em.fork().execute('alter table elsewhere rename to response');
    }
    expect(said.length).toBeGreaterThan(0);
    for (const line of said) {
      expect(line).not.toMatch(/whispered|frame-fives|lips|insert into/);
      expect(line).not.toContain(zadie);
    }
  });

  it('of a deleted child is taken back from the record store, and no note on a sitting of theirs stays', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const [zadie, odo] = [children.get('Zadie') ?? '', children.get('Odo') ?? ''];
    const responses = [rowFor(zadie), rowFor(odo, { response_id: 'r2' })];
    await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses });
    await browser.send('POST', `${path}/notes`, { sitting: 's1', text: 'Zadie was tired' });
    await browser.send('POST', `${path}/statements`, {});
    expect((await browser.send('DELETE', `${path}/children/${zadie}`, {})).status).toBe(200);
    expect(harness.forgotten).toEqual([zadie]);
    expect(await harness.orm.em.fork().execute('select text from note')).toEqual([]);
    expect(await harness.orm.em.fork().execute('select id from response')).toEqual([{ id: 'r2' }]);
  });
});
