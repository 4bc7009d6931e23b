import {
  statement,
  toStatement,
  type ClassArchive,
  type ImportResult,
  type ImportView,
  type RecordRow,
  type Statement,
} from '@vane/contract';
import { simulateClass } from '@vane/core';
import fc from '@vane/core/testing/property';
import { createServer } from 'node:http';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { AddressInfo } from 'node:net';
import { RecordFile, RecordServer } from '../outside/recordStore';
import { setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';

let harness: Harness;
let browser: Browser;
let path: string;
let children: ReadonlyMap<string, string>;
beforeEach(async () => {
  harness = await startHarness();
  browser = harness.browser();
  ({ path, children } = await setUp(browser));
});
afterEach(() => harness.close());

const json = async <T>(answer: Promise<Response>): Promise<T> => (await (await answer).json()) as T;
const HEADER =
  'response_id,child,sitting,shown_at,kind,fact,answer_mode,exposure_ms,response_ms,given,outcome,observed,aid,void';
const row = (id: string, more: { child?: string; given?: string; at?: string } = {}): string =>
  `${id},${more.child ?? 'Ivo'},s1,${more.at ?? '2026-11-20T09:00:00Z'},add,3+4,tap,,2100,${more.given ?? '7'},correct,,none,`;
const bring = (lines: readonly string[], write: boolean, said = ''): Promise<ImportResult> =>
  json<ImportResult>(
    browser.send('POST', `${path}/import?write=${write ? 'yes' : 'no'}${said}`, [HEADER, ...lines].join('\n'), {
      'content-type': 'text/csv',
    }),
  );
const counted = async (table: string): Promise<number> =>
  Number((await harness.orm.em.fork().execute<{ n: string }[]>(`select count(*) as n from ${table}`))[0]?.n);

describe('a responses file', () => {
  it('is looked at first: what is new, the same, otherwise and refused, and nothing is written', async () => {
    await bring([row('a'), row('b')], true);
    const before = await counted('audit');
    const look = await bring(
      [
        row('a'),
        row('b', { given: '8' }),
        row('c'),
        row('c'),
        row('d', { child: 'Nobody' }),
        row('e', { at: 'Friday' }),
      ],
      false,
    );
    expect(look).toMatchObject({ read: 6, fresh: 1, same: 2, changed: 1, refused: 2, imported: null });
    expect(look.lines.map((l) => [l.line, l.state, l.reason.split(':')[0]])).toEqual([
      [3, 'changed', 'given'],
      [6, 'refused', 'child'],
      [7, 'refused', 'shown_at'],
    ]);
    expect([await counted('response'), await counted('audit'), await counted('import')]).toEqual([2, before, 1]);
  });

  it('in which two rows have one id and say different things names both lines, and keeps the first', async () => {
    const taken = await bring([row('a'), row('b'), row('a', { given: '9' }), row('a')], true);
    expect(taken).toMatchObject({ fresh: 2, same: 1, refused: 1 });
    expect(taken.lines).toMatchObject([
      { line: 4, state: 'refused', reason: 'response_id: line 2 has the same and says something else.' },
    ]);
    const given = await harness.orm.em.fork().execute("select given from response where id = 'a'");
    expect(given).not.toEqual([{ given: '9' }]);
  });

  it('whose dates are written otherwise is read where the school stands, and asked about where day and month could be exchanged', async () => {
    const look = await bring([row('a', { at: '1/12/2026 9:15' }), row('b', { at: '2-12-2026' })], false);
    expect(look).toMatchObject({ fresh: 2, refused: 0 });
    expect(look.dates).toEqual({
      order: 'day-first',
      example: '1/12/2026 9:15',
      read: '2026-12-01T09:15:00.000Z',
      unsure: true,
    });
    const other = await bring([row('a', { at: '1/7/2026 9:15' })], false, '&order=month-first');
    expect(other.dates).toMatchObject({ read: '2026-01-07T09:15:00.000Z', unsure: false });
    // One that can be no month settles it for all of them, in summer time too.
    const settled = await bring([row('a', { at: '1/7/2026 9:15' }), row('b', { at: '7/30/2026 9:15' })], true);
    expect(settled).toMatchObject({ fresh: 2, dates: { order: 'month-first', unsure: false } });
    const at: { shown_at: Date }[] = await harness.orm.em.fork().execute('select shown_at from response order by id');
    expect(at.map((one) => new Date(one.shown_at).toISOString())).toEqual([
      '2026-01-07T09:15:00.000Z',
      '2026-07-30T08:15:00.000Z',
    ]);
    const bad = await bring([row('c', { at: '31/2/2026' }), row('d', { at: '3/12/2026 24:10' })], false);
    expect(bad).toMatchObject({ refused: 2, dates: null });
    expect((await bring([row('e')], false)).dates).toBeNull();
  });

  it('in which a name is one letter off offers the child, and takes the answer', async () => {
    const lines = [row('a', { child: 'Odoo' }), row('b', { child: 'Nobody' }), row('c', { child: 'Zadei' })];
    const look = await bring(lines, false);
    expect(look).toMatchObject({ fresh: 0, refused: 3, misspelt: [{ name: 'Odoo', meant: 'Odo' }] });
    expect(look.lines[0]).toMatchObject({
      reason: 'child: there is no “Odoo” in this class. Do you mean Odo?',
      content: expect.stringMatching(/^a, Odoo, s1, /) as string,
    });
    const taken = await bring(lines, true, `&names=${encodeURIComponent(JSON.stringify({ Odoo: 'Odo' }))}`);
    expect(taken).toMatchObject({ fresh: 1, refused: 2, misspelt: [] });
    expect(
      (await browser.send('POST', `${path}/import?names=odd`, HEADER, { 'content-type': 'text/csv' })).status,
    ).toBe(400);
  });

  it('taken in, is taken back whole, and what was there before stays', async () => {
    await browser.send('POST', `${path}/record`, {
      sittings: [SITTING],
      responses: [rowFor(children.get('Odo') ?? '')],
    });
    const { imported } = await bring([row('a'), row('b')], true);
    await browser.send('POST', `${path}/corrections`, { responses: ['a'], change: { what: 'void', reason: 'noise' } });
    const [listed] = await json<ImportView[]>(browser.get(`${path}/imports`));
    expect(listed).toMatchObject({ what: 'responses', added: 2, by: 'Harbour keeper' });
    expect(listed).toEqual(imported);
    expect(await json(browser.send('DELETE', `${path}/imports/${imported?.id}`, {}))).toEqual({
      responses: 2,
      left: [],
    });
    expect([
      await counted('response'),
      await counted('correction'),
      await counted('sitting'),
      await counted('import'),
    ]).toEqual([1, 0, 1, 0]);
    expect((await browser.send('DELETE', `${path}/imports/${imported?.id}`, {})).status).toBe(404);
  });

  it('that breaks off leaves nothing behind', async () => {
    const parts = [HEADER, ...Array.from({ length: 1200 }, (_, i) => row(`a${i}`))];
    const cut = new ReadableStream({
      pull: (to) => {
        const part = parts.shift();
        if (part === undefined) to.error(new Error('the network is gone'));
        else to.enqueue(Buffer.from(`${part}\n`));
      },
    });
    const answer = await browser.send('POST', `${path}/import?write=yes`, cut, { 'content-type': 'text/csv' });
    expect(answer.status).toBeGreaterThanOrEqual(400);
    expect([await counted('response'), await counted('sitting')]).toEqual([0, 0]);
  });

  it('of which most rows are bad is refused as soon as that is seen, and nothing of it is kept', async () => {
    const short = Array.from({ length: 40_000 }, (_, i) => `s${i}`);
    const answer = await browser.send('POST', `${path}/import?write=yes`, [HEADER, row('good'), ...short].join('\n'), {
      'content-type': 'text/csv',
    });
    expect(answer.status).toBe(422);
    expect(((await answer.json()) as { detail: string }).detail).toMatch(
      /^500 of its first 501 lines cannot be imported; the last of them is line 502: The line ends before/,
    );
    expect(await counted('response')).toBe(0);
    // A third of bad ones are named, and the rest is read.
    const mixed = Array.from({ length: 600 }, (_, i) => (i % 3 === 0 ? `s${i}` : row(`m${i}`)));
    expect(await bring(mixed, true)).toMatchObject({ refused: 200, fresh: 400 });
  });

  it('never hands a spreadsheet a formula, and comes back as it was', async () => {
    await browser.send('POST', `${path}/children`, { nicknames: ['=1+1'] });
    await bring([row('-x', { child: '=1+1' })], true);
    const out = await (await browser.get(`${path}/responses.csv`)).text();
    expect(out).toContain("\n'-x,'=1+1,");
    expect(await json(browser.send('POST', `${path}/import`, out, { 'content-type': 'text/csv' }))).toMatchObject({
      same: 1,
      fresh: 0,
      changed: 0,
      refused: 0,
    });
    // Nor a column that came with a file.
    const odd = `${HEADER},=2+2\n${row('odd', { child: '=1+1' })},tide`;
    await browser.send('POST', `${path}/import?write=yes`, odd, { 'content-type': 'text/csv' });
    const again = await (await browser.get(`${path}/responses.csv`)).text();
    expect(again.split('\n')[0]).toMatch(/,'=2\+2$/);
    expect(await json(browser.send('POST', `${path}/import`, again, { 'content-type': 'text/csv' }))).toMatchObject({
      same: 2,
      changed: 0,
    });
    // Nor do the readings.
    const lines = (await (await browser.get(`${path}/readings.csv`)).text()).split('\n');
    expect(lines.filter((line) => line.includes('=1+1')).map((line) => line.split(',')[0])).toEqual(["'=1+1"]);
  });
});

describe('readings and statements', () => {
  it('of the class go out, children by nickname, and by account', async () => {
    const ivo = children.get('Ivo') ?? '';
    await browser.send('POST', `${path}/record`, {
      sittings: [SITTING],
      responses: [rowFor(ivo), rowFor(ivo, { response_id: 'r2', outcome: 'none', given: '' })],
    });
    const lines = (await (await browser.get(`${path}/readings.csv`)).text()).trimEnd().split('\n');
    expect(lines[0]).toBe('child,fact,reading,p_automatic,lean,certainty,responses,days,reason,own_view,own_reason');
    expect(lines[1]?.startsWith('Ivo,')).toBe(true);
    const own = { fact: '3+5', reading: 'knows', reason: 'told me: five and three' };
    for (const reading of ['counts', 'knows'])
      await browser.send('POST', `${path}/children/${ivo}/overrules`, { ...own, reading });
    const after = (await (await browser.get(`${path}/readings.csv`)).text()).trimEnd().split('\n');
    expect(after.filter((line) => !line.endsWith(',,'))).toEqual([
      after[0],
      expect.stringMatching(/^Ivo,3\+5,.*,knows,told me: five and three$/),
    ]);

    const all = await json<Statement[]>(browser.get(`${path}/statements/json`));
    expect(all.map((one) => statement.parse(one).actor.account.name)).toEqual([ivo, ivo]);
    const asLines = (await (await browser.get(`${path}/statements/jsonl`)).text()).trimEnd().split('\n');
    expect(asLines.map((one) => JSON.parse(one) as unknown)).toEqual(all);
    expect(new Set(all.map((one) => one.id)).size).toBe(2);
    expect(all[1]?.result).not.toHaveProperty('success');

    expect(await json(browser.send('POST', `${path}/statements`, {}))).toEqual({
      sent: 2,
      fresh: 2,
      to: 'test',
      simulated: true,
    });
    expect(harness.sent).toEqual(all);
  });

  it('an empty class has an empty list', async () => {
    expect(await json(browser.get(`${path}/statements/json`))).toEqual([]);
  });

  it('say the same as the response, whatever it is', () => {
    let id = 0;
    const simulated = simulateClass({
      seed: 5,
      names: ['Oriel'],
      weeks: 1,
      until: Date.parse('2026-11-25T12:00:00Z'),
      makeId: () => `s${id++}`,
    });
    fc.assert(
      fc.property(fc.constantFrom(...simulated.responses), (r) => {
        const source = {
          ...rowFor('c'),
          response_id: r.id,
          fact: r.fact,
          given: r.given,
          outcome: r.outcome,
          response_ms: r.responseMs,
        } as unknown as RecordRow;
        const made = statement.parse(
          toStatement(source, '0197a000-0000-7000-8000-000000000001', 'https://vane.example'),
        );
        expect(decodeURIComponent(made.object.id.slice('urn:vane:fact:'.length))).toBe(r.fact);
        expect(made.result.extensions['urn:vane:response_ms']).toBe(r.responseMs);
        expect(made.result.success).toBe(r.outcome === 'none' ? undefined : r.outcome === 'correct');
      }),
    );
  });
});

describe('learning-record stores', () => {
  const one = toStatement(
    { ...rowFor('c'), flags: [], quality: null, extra: {} } as unknown as RecordRow,
    '0197a000-0000-7000-8000-000000000001',
    'https://vane.example',
  );

  it('the simulated one keeps one of each, over a restart too, and refuses what is no statement', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'vane-lrs-'));
    const file = join(folder, 'kept/statements.jsonl');
    expect(await new RecordFile(file).send([one])).toBe(1);
    expect(await new RecordFile(file).send([one, { ...one, id: '0197a000-0000-7000-8000-000000000002' }])).toBe(1);
    await expect(new RecordFile(file).send([{ ...one, id: 'none' }])).rejects.toThrow();
    expect((await readFile(file, 'utf8')).trimEnd().split('\n')).toHaveLength(2);
    await rm(folder, { recursive: true });
  });

  it('a real one is spoken to as xAPI has it', async () => {
    const heard: { version: unknown; authorization: unknown; body: string }[] = [];
    let status = 200;
    const server = createServer((request, response) => {
      let body = '';
      request.on('data', (part: Buffer) => (body += part.toString()));
      request.on('end', () => {
        heard.push({
          version: request.headers['x-experience-api-version'],
          authorization: request.headers.authorization,
          body,
        });
        response.writeHead(status).end('[]');
      });
    });
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    const store = new RecordServer(`http://127.0.0.1:${(server.address() as AddressInfo).port}/xapi/`, 'Basic abc');
    expect(await store.send([one])).toBeNull();
    expect(heard).toEqual([{ version: '1.0.3', authorization: 'Basic abc', body: JSON.stringify([one]) }]);
    status = 500;
    await expect(store.send([one])).rejects.toThrow('answered 500');
    server.close();
  });
});

describe('a class as an archive', () => {
  it('comes back equal in another school, with the same readings, and is taken back without a trace', async () => {
    const [odo, ivo] = ['Odo', 'Ivo'].map((name) => children.get(name) ?? '');
    await browser.send('PUT', `${path}/carpet`, {
      layout: 'five',
      exposureMs: 500,
      answerMode: 'tap',
      shows: 5,
      zeroToo: true,
      words: { part: 'addend' },
    });
    await browser.send('POST', `${path}/record`, {
      sittings: [SITTING],
      responses: [rowFor(odo!), rowFor(ivo!, { response_id: 'r2', fact: 'show:4:five', given: '4' })],
    });
    await browser.send('POST', `${path}/corrections`, { responses: ['r1'], change: { what: 'answer', given: '6' } });
    await browser.send('POST', `${path}/children/${odo}/overrules`, {
      fact: '3+4',
      reading: 'knows',
      reason: 'told me how',
    });
    await browser.send('POST', `${path}/notes`, { sitting: 's1', text: 'calm' });
    await browser.send('POST', `${path}/notes`, { child: ivo, text: 'left-handed' });
    await browser.send('PUT', `${path}/children/${ivo}`, { archived: true });
    const archive = await json<ClassArchive>(browser.get(`${path}/archive.json`));
    expect([
      archive.responses.length,
      archive.corrections.length,
      archive.overrules.length,
      archive.notes.length,
    ]).toEqual([2, 1, 1, 2]);
    const readings = await (await browser.get(`${path}/readings.csv`)).text();

    const elsewhere = await startHarness();
    const other = elsewhere.browser();
    await setUp(other);
    const text = JSON.stringify(archive);
    const look = await json<ImportResult>(other.send('POST', '/api/school/archive', text));
    expect(look).toMatchObject({ imported: null, names: ['class Sandpiper 2', 'Ivo', 'Odo', 'Zadie'] });
    // The other school has a class of this name; where none has it, the name comes along.
    const renamed = { ...archive, class: { ...archive.class, name: 'Curlew' } };
    const made = await json<ImportResult>(other.send('POST', '/api/school/archive?write=yes', JSON.stringify(renamed)));
    const classes = await json<{ id: string; name: string }[]>(other.get('/api/school/classes'));
    const base = `/api/classes/${classes.find((one) => one.name === 'Curlew')?.id}`;
    expect(await json(other.get(`${base}/archive.json`))).toEqual(renamed);
    expect(await (await other.get(`${base}/readings.csv`)).text()).toBe(readings);
    expect(
      (
        await other.send(
          'POST',
          '/api/school/archive?write=yes',
          JSON.stringify({ ...renamed, class: { ...renamed.class, name: 'Dunlin' } }),
        )
      ).status,
    ).toBe(409);
    await other.send('DELETE', `/api/school/imports/${made.imported?.id}`, {});
    const left = await elsewhere.orm.em.fork().execute<{ n: string }[]>(
      `select (select count(*) from response) + (select count(*) from sitting) + (select count(*) from note) + (select count(*) from overrule)
            + (select count(*) from correction) + (select count(*) from class where name = 'Curlew') as n`,
    );
    expect(left[0]?.n).toBe('0');
    await elsewhere.close();
  });

  it.each([1, 2])('is read from a file of version %i, whose responses may lack what came later', async (version) => {
    await browser.send('POST', `${path}/record`, {
      sittings: [SITTING],
      responses: [rowFor(children.get('Odo') ?? '')],
    });
    const now = await json<ClassArchive>(browser.get(`${path}/archive.json`));
    const old = {
      ...now,
      version,
      class: { ...now.class, name: 'Dunlin' },
      responses: now.responses.map((row) => ({
        ...row,
        ...(version === 1 ? { explanation: undefined, help: undefined, second_answer: undefined } : {}),
      })),
    };
    const elsewhere = await startHarness();
    const other = elsewhere.browser();
    await setUp(other);
    await other.send('POST', '/api/school/archive?write=yes', JSON.stringify(old));
    const made = (await json<{ id: string; name: string }[]>(other.get('/api/school/classes'))).find(
      ({ name }) => name === 'Dunlin',
    );
    const again = await json<ClassArchive>(other.get(`/api/classes/${made?.id}/archive.json`));
    expect(again).toEqual({ ...now, class: old.class });
    await elsewhere.close();
  });

  it.each([
    ['{"format":"vane-class","class":{"name":"\\ud800"}}', 422, /a character that is none/],
    ['{', 422, /JSON/],
    ['{"format":"vane-class","version":4}', 422, /version/],
  ])('refuses %j and names the place', async (text, status, reason) => {
    const answer = await browser.send('POST', '/api/school/archive', text);
    expect(answer.status).toBe(status);
    expect(JSON.stringify(await answer.json())).toMatch(reason);
  });
});
