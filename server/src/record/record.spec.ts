import type { BatchResult, ChildRecord, ClassReadings, ImportResult, LastSession, LogPage } from '@vane/contract';
import { Readable } from 'node:stream';
import { loadDemo, removeDemo } from '../demo/load';
import { DEMO_SIGN_IN } from '../demo/names';
import { setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';
import { NotAResponsesFile, readResponses, type ReadLine } from './csv';

let harness: Harness;
let browser: Browser;
beforeEach(async () => {
  harness = await startHarness();
  browser = harness.browser();
});
afterEach(() => harness.close());

const json = async <T>(answer: Promise<Response>): Promise<T> => (await (await answer).json()) as T;
const send = (path: string, responses: object[], sittings: object[] = [SITTING]): Promise<BatchResult> =>
  json(browser.send('POST', `${path}/record`, { sittings, responses }));

describe('batches from a device', () => {
  it('are kept once, however often they are sent, and the first answer stays', async () => {
    const { path, children } = await setUp(browser);
    const row = rowFor(children.get('Ivo') ?? '');
    expect(await send(path, [row])).toEqual({ accepted: ['r1'], already: [], refused: [] });
    expect(
      await send(path, [
        { ...row, given: '8', outcome: 'wrong' },
        { ...row, response_id: 'r2' },
      ]),
    ).toEqual({ accepted: ['r2'], already: ['r1'], refused: [] });
    const log = await json<LogPage>(browser.get(`${path}/log`));
    expect(log.total).toBe(2);
    expect(log.rows.map((r) => [r.response_id, r.given, r.nickname])).toEqual([
      ['r2', '7', 'Ivo'],
      ['r1', '7', 'Ivo'],
    ]);
  });

  it('survive being sent by two at once', async () => {
    const { path, children } = await setUp(browser);
    const rows = Array.from({ length: 20 }, (_, i) => rowFor(children.get('Ivo') ?? '', { response_id: `r${i}` }));
    await Promise.all([send(path, rows), send(path, rows), send(path, [...rows].reverse())]);
    expect((await json<LogPage>(browser.get(`${path}/log`))).total).toBe(20);
  });

  it('lose nothing to a row that does not belong', async () => {
    const { path, children } = await setUp(browser);
    const child = children.get('Ivo') ?? '';
    const result = await send(path, [
      rowFor(child),
      rowFor('0197a000-0000-7000-8000-0000000000ff', { response_id: 'r2' }),
      rowFor(child, { response_id: 'r3', sitting: 'other' }),
    ]);
    expect(result.accepted).toEqual(['r1']);
    expect(result.refused.map((r) => r.id)).toEqual(['r2', 'r3']);
  });

  it('are refused whole when they cannot be read, with the place', async () => {
    const { path, children } = await setUp(browser);
    const answer = await browser.send('POST', `${path}/record`, {
      sittings: [SITTING],
      responses: [rowFor(children.get('Ivo') ?? '', { fact: '3+99' })],
    });
    expect(await answer.json()).toMatchObject({ code: 'bad-body', places: [{ place: 'responses.0.fact' }] });
  });
});

describe('readings', () => {
  it('follow the record at once, and say what the last sitting moved', async () => {
    const { path, children } = await setUp(browser);
    const child = children.get('Zadie') ?? '';
    const days = ['2026-11-02', '2026-11-03', '2026-11-04', '2026-11-05', '2026-11-06'];
    const rowsOf = (day: string, i: number): object[] => [
      ...[1, 2, 3, 4].map((n) =>
        rowFor(child, {
          response_id: `m${i}-${n}`,
          sitting: `s${i}`,
          shown_at: `${day}T08:00:0${n}Z`,
          kind: 'match',
          fact: `match:${n}`,
          given: String(n),
          exposure_ms: null,
          response_ms: 1200,
        }),
      ),
      ...[6, 7].map((n) =>
        rowFor(child, {
          response_id: `a${i}-${n}`,
          sitting: `s${i}`,
          shown_at: `${day}T08:01:0${n}Z`,
          fact: `show:${n}:frame-fives`,
          given: String(n),
          response_ms: 1700,
        }),
      ),
    ];
    for (const [i, day] of days.slice(0, 2).entries()) await send(path, rowsOf(day, i), [{ ...SITTING, id: `s${i}` }]);
    const early = await json<ChildRecord>(browser.get(`${path}/children/${child}`));
    expect(early.readings.map((r) => r.reading)).toEqual(['too few answers', 'too few answers']);
    for (const [i, day] of days.entries()) await send(path, rowsOf(day, i), [{ ...SITTING, id: `s${i}` }]);
    const record = await json<ChildRecord>(browser.get(`${path}/children/${child}`));
    expect(record.readings.map((r) => [r.fact, r.reading, r.responses])).toEqual([
      ['show:6:frame-fives', 'knows', 5],
      ['show:7:frame-fives', 'knows', 5],
    ]);
    expect(record.responses).toHaveLength(30);
    expect(record.estimate.times.hand.tap).toBeGreaterThan(0.8);
    const movedOn = (day: string | undefined) =>
      json<LastSession>(browser.get(`${path}/children/${child}/moved?until=${day ?? ''}`));
    expect((await movedOn(days[2])).moved.map((m) => [m.fact, m.before?.reading, m.before?.responses])).toEqual([
      ['show:6:frame-fives', 'too few answers', 2],
      ['show:7:frame-fives', 'too few answers', 2],
    ]);
    expect(await movedOn(days[4])).toMatchObject({ moved: [], answered: { wrong: 0 } });
    const all = await json<ClassReadings>(browser.get(`${path}/readings`));
    expect(all.readings).toEqual(record.readings);
    expect((await browser.get(`${path}/children/0197a000-0000-7000-8000-0000000000ff`)).status).toBe(404);
  });

  it('may be overruled with a reason, and the teacher’s word taken back; both are kept', async () => {
    const { path, children } = await setUp(browser);
    const ivo = `${path}/children/${children.get('Ivo')}`;
    const word = { fact: 'show:7:frame-fives', reading: 'counts', reason: 'she told me that she counts the lower row' };
    expect((await browser.send('POST', `${ivo}/overrules`, { ...word, reason: '' })).status).toBe(400);
    expect((await browser.send('POST', `${ivo}/overrules`, { ...word, fact: 'seven' })).status).toBe(400);
    expect((await browser.send('POST', `${ivo}/overrules`, word)).status).toBe(201);
    harness.clock = new Date(harness.clock.getTime() + 60_000);
    const [standing, ...more] = await json<ChildRecord['overrules']>(
      browser.send('POST', `${ivo}/overrules`, { ...word, reading: 'knows', reason: 'no longer' }),
    );
    expect(more).toEqual([]);
    expect(standing).toMatchObject({
      fact: word.fact,
      reading: 'knows',
      reason: 'no longer',
      by: 'Harbour keeper',
      madeAt: '2026-11-25T09:01:00.000Z',
    });
    expect((await json<ChildRecord>(browser.get(ivo))).overrules).toEqual([standing]);
    expect(await json(browser.send('DELETE', `${ivo}/overrules/${standing?.id}`, {}))).toEqual([]);
    expect((await browser.send('DELETE', `${ivo}/overrules/${standing?.id}`, {})).status).toBe(404);
    const kept = await harness.orm.em.fork().execute<{ n: string }[]>('select count(*) as n from overrule');
    expect(kept[0]?.n).toBe('2');
  });

  it('are none for a child who has not answered, without fuss', async () => {
    const { path, children } = await setUp(browser);
    const record = await json<ChildRecord>(browser.get(`${path}/children/${children.get('Odo')}`));
    expect(record).toMatchObject({ readings: [], moved: null, responses: [], child: { lastAskedAt: null } });
    expect(await json<ClassReadings>(browser.get(`${path}/readings`))).toMatchObject({ readings: [], judgedAt: null });
    expect(await json<unknown>(browser.get(`${path}/children/${children.get('Odo')}/moved`))).toEqual({
      moved: [],
      answered: { judged: 0, wrong: 0, helped: 0 },
    });
  });
});

describe('devices and disks that fail', () => {
  it('a device with a wrong clock is put right, with what it said beside it; a drifting one is left alone', async () => {
    const { path, children } = await setUp(browser);
    const odo = children.get('Odo') ?? '';
    const send = (id: string, shownAt: string, sentAt: string) =>
      browser.send('POST', `${path}/record`, {
        sittings: [{ ...SITTING, id: `s-${id}`, started_at: shownAt }],
        responses: [rowFor(odo, { response_id: id, sitting: `s-${id}`, shown_at: shownAt })],
        sent_at: sentAt,
      });
    harness.clock = new Date('2026-11-25T09:10:00Z');
    await send('year-behind', '2025-11-25T09:00:00.000Z', '2025-11-25T09:10:00.000Z');
    await send('drifting', '2026-11-25T09:00:30.000Z', '2026-11-25T09:11:30.000Z');
    const { responses } = await json<ChildRecord & { responses: { extra: Record<string, string> }[] }>(
      browser.get(`${path}/children/${odo}/record.json`),
    );
    expect(responses.map((r) => [r.response_id, r.shown_at, r.extra['device_shown_at'] ?? ''])).toEqual([
      ['year-behind', '2026-11-25T09:00:00.000Z', '2025-11-25T09:00:00.000Z'],
      ['drifting', '2026-11-25T09:00:30.000Z', ''],
    ]);
  });

  it('a full disk is said, and what was sent is taken once there is room', async () => {
    const { path, children } = await setUp(browser);
    const batch = { sittings: [SITTING], responses: [rowFor(children.get('Odo') ?? '')] };
    const em = harness.orm.em.fork();
    await em.execute(`create function no_room() returns trigger language plpgsql as $$ begin raise exception 'No space left on device' using errcode = '53100'; end $$;
      create trigger no_room before insert on response for each row execute function no_room();`);
    const full = await browser.send('POST', `${path}/record`, batch);
    expect([full.status, ((await full.json()) as { code: string }).code]).toEqual([507, 'disk-full']);
    await em.execute('drop trigger no_room on response');
    expect(await json<BatchResult>(browser.send('POST', `${path}/record`, batch))).toMatchObject({ accepted: ['r1'] });
  });
});

describe('the responses file', () => {
  it('goes out and comes back as it was: the demo, into an empty class', async () => {
    const { orm } = harness.database;
    await loadDemo(orm.em.fork(), harness.clock, 1);
    expect(await loadDemo(orm.em.fork(), harness.clock, 1)).toBe(false);
    const me = await json<{ classes: { id: string }[] }>(browser.send('POST', '/api/sign-in', DEMO_SIGN_IN));
    const path = `/api/classes/${me.classes[0]?.id}`;
    const file = await (await browser.get(`${path}/responses.csv`)).text();
    const lines = file.trimEnd().split('\n');
    expect(lines[0]).toBe(
      'response_id,child,sitting,shown_at,kind,fact,answer_mode,exposure_ms,response_ms,given,outcome,observed,aid,void,flags,asked_ms,explanation,help,second_answer,marked_by,device',
    );
    expect(lines.length).toBeGreaterThan(1000);

    expect(
      await json<ImportResult>(browser.send('POST', `${path}/import?write=yes`, file, { 'content-type': 'text/csv' })),
    ).toEqual({
      read: lines.length - 1,
      fresh: 0,
      same: lines.length - 1,
      changed: 0,
      refused: 0,
      lines: [],
      names: [],
      dates: null,
      misspelt: [],
      imported: null,
    });
    await orm.em.fork().execute('delete from sitting');
    expect((await json<LogPage>(browser.get(`${path}/log`))).total).toBe(0);
    expect(
      await json<ImportResult>(browser.send('POST', `${path}/import?write=yes`, file, { 'content-type': 'text/csv' })),
    ).toMatchObject({
      fresh: lines.length - 1,
      refused: 0,
    });
    expect(await (await browser.get(`${path}/responses.csv`)).text()).toBe(file);

    await removeDemo(harness.orm.em.fork());
    const [left] = await harness.orm.em.fork().execute<{ n: string }[]>('select count(*) as n from response');
    expect(left?.n).toBe('0');
  }, 60_000);

  it('names bad rows by line and reads the rest; unknown columns are kept', async () => {
    const { path } = await setUp(browser);
    const header =
      'response_id;child;sitting;shown_at;kind;fact;answer_mode;exposure_ms;response_ms;given;outcome;observed;aid;void;room';
    const good = 'x1;ivo;s9;2026-11-20T09:00:00Z;add;3+4;tap;;2100;7;correct;counted:fingers;none;;boat shed';
    const file = [
      '\ufeff' + header,
      good,
      good.replace('x1;ivo', 'x2;Nobody'),
      good.replace('x1', 'x3').replace('3+4', '3+44'),
      'x4;ivo;s9',
      good.replace('x1', 'x5'),
    ].join('\r\n');
    const result = await json<ImportResult>(
      browser.send('POST', `${path}/import?write=yes`, file, { 'content-type': 'text/csv' }),
    );
    expect(result).toMatchObject({ read: 5, fresh: 2, refused: 3 });
    expect(result.lines.map((b) => b.line)).toEqual([3, 4, 5]);
    expect(result.lines.map((b) => b.reason).join('\n')).toMatch(/no “Nobody”[^]*3\+44[^]*ends before shown_at/);
    const out = await (await browser.get(`${path}/responses.csv`)).text();
    expect(out.split('\n')[0]).toMatch(/,room$/);
    expect(out).toContain(
      'x5,Ivo,s9,2026-11-20T09:00:00.000Z,add,3+4,tap,,2100,7,correct,counted:fingers,none,,,,,,,,,boat shed',
    );
  });

  it.each([
    ['', /empty/],
    ['child,fact\nIvo,3+4\n', /columns are missing: response_id/],
    ['{"not":"csv"}', /columns are missing/],
  ])('refuses %j as no responses file', async (file, reason) => {
    const { path } = await setUp(browser);
    const answer = await browser.send('POST', `${path}/import?write=yes`, file, { 'content-type': 'text/csv' });
    expect(answer.status).toBe(422);
    expect(((await answer.json()) as { detail: string }).detail).toMatch(reason);
  });

  it('tells of a quote that never closes by its line', async () => {
    const header =
      'response_id,child,sitting,shown_at,kind,fact,answer_mode,exposure_ms,response_ms,given,outcome,observed,aid,void';
    const good = 'x1,Ivo,s9,2026-11-20T09:00:00Z,add,3+4,tap,,2100,7,correct,,none,';
    const read: ReadLine[] = [];
    const reading = async (): Promise<void> => {
      for await (const line of readResponses(Readable.from([`${header}\n${good}\n`, `x2,"Ivo\n${good}`])))
        read.push(line);
    };
    await reading().catch((error: unknown) => {
      expect(error).toBeInstanceOf(NotAResponsesFile);
    });
    expect(read.filter((line) => 'row' in line)).toHaveLength(1);
  });
});
