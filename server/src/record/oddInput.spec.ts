import type { ClassReadings } from '@vane/contract';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { Uploads } from '../files/uploads';
import { SET_UP, setUp, startHarness, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';

/** What hostile or odd input must not break, and what must not be left of a child: what an audit from outside found. */
let harness: Harness;
let said: string[];
beforeEach(async () => {
  said = [];
  harness = await startHarness({ log: pino({ level: 'warn' }, { write: (line: string) => void said.push(line) }) });
});
afterEach(() => harness.close());

const json = async <T>(answer: Response): Promise<T> => (await answer.json()) as T;

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

  it('whose sender falls silent are given up, and make room for the next', async () => {
    const uploads = new Uploads(join(tmpdir(), 'vane-uploads-tried'), 30);
    const silent = (): Request =>
      new Request('http://vane.example/', {
        method: 'POST',
        body: new ReadableStream(),
        duplex: 'half',
      } as RequestInit);
    const take = (request: Request): Promise<unknown> => uploads.take('mate', request, 1000, () => Promise.resolve());
    for (let tries = 0; tries < 3; tries++) await expect(take(silent())).rejects.toMatchObject({ code: 'too-slow' });
    const large = new Request('http://vane.example/', { method: 'POST', body: 'x'.repeat(1001) });
    await expect(take(large)).rejects.toMatchObject({ code: 'too-large' });
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

  it('what a newer Vane beside this one wrote, a kind and a flag unknown here, is kept, listed and gone by', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const ivo = children.get('Ivo') ?? '';
    const help = { help: ['look-again'], second_answer: '7', given: '5', outcome: 'wrong' };
    const responses = [rowFor(ivo), rowFor(ivo, { response_id: 'r2', ...help })];
    await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses });
    const later = `update response set kind = 'later', fact = 'later:7:of:9', flags = '["later"]' where id = 'r2'`;
    await harness.orm.em.getConnection().execute(later);
    const asked = ['log', 'readings', 'over-time', 'archive.json', 'responses.csv', 'statements/json'].map((one) => `${path}/${one}`); // prettier-ignore
    const childs = ['', '/moved', '/over-time', '/record.json', '/responses.csv'].map((one) => `${path}/children/${ivo}${one}`); // prettier-ignore
    // It answers; only the contract's own words, held by the tests, do not know the kind and the flag.
    for (const at of [...asked, ...childs]) {
      const status = await browser.get(at).then(
        async (answer) => (await answer.text(), answer.status),
        (error: Error) => error.message.replace(/✖ Invalid option: .*\n\s*→ at \S*(kind|flags\[0\])\n?/g, ''),
      );
      expect([at, status]).toEqual([at, typeof status === 'number' ? 200 : expect.stringMatching(/than described: $/)]);
    }
    const change = { responses: ['r2'], what: 'answer', given: '6' };
    expect((await browser.send('POST', `${path}/corrections`, change)).status).toBeLessThan(500);
    expect(said).toEqual([]);
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
