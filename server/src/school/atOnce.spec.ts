import type { AuditView, ImportResult, SchoolView } from '@vane/contract';
import { connected } from '../backup/dump';
import { invited, linkIn, setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';

/** What two do at the same time, and what somebody may no longer do: neither takes anything from the other. */
let harness: Harness;
let lead: Browser;
let made: Awaited<ReturnType<typeof setUp>>;
beforeEach(async () => {
  harness = await startHarness();
  lead = harness.browser();
  made = await setUp(lead);
});
afterEach(() => harness.close());

const secondClass = async (): Promise<string> =>
  ((await (await lead.send('POST', '/api/school/classes', { name: 'Tern' })).json()) as { id: string }).id;
const adults = async (): Promise<SchoolView['adults']> =>
  ((await (await lead.get('/api/school')).json()) as SchoolView).adults;
const asked = <T>(sql: string): Promise<T[]> => harness.orm.em.fork().execute<T[]>(sql);
const move = (child: string, to: string) =>
  lead.send('PUT', `${made.path}/children/${made.children.get(child) ?? ''}`, { classId: to });

describe('an answer and a move of its child', () => {
  it('at the same moment: the answer goes along, is judged with its child, and is acknowledged', async () => {
    const to = await secondClass();
    const odo = made.children.get('Odo') ?? '';
    await lead.send('POST', `${made.path}/record`, { sittings: [SITTING], responses: [rowFor(odo)] });
    const late = rowFor(odo, { response_id: 'late' });
    await connected(harness.database.url, async (mover) => {
      await mover.query('begin');
      await mover.query('update child set class_id = $1 where id = $2', [to, odo]);
      // It waits for the move.
      const sent = lead.send('POST', `${made.path}/record`, { sittings: [SITTING], responses: [late] });
      await new Promise((later) => setTimeout(later, 300));
      await mover.query('commit');
      expect(await (await sent).json()).toMatchObject({ accepted: ['late'], refused: [] });
    });
    expect(await asked('select id, class_id from response order by id')).toEqual([
      { id: 'late', class_id: to },
      { id: 'r1', class_id: to },
    ]);
    await expect(harness.orm.em.fork().execute('update response set class_id = ?', [made.classId])).rejects.toThrow(
      'response_child',
    );
    const { readings } = (await (await lead.get(`/api/classes/${to}/readings`)).json()) as { readings: object[] };
    expect(readings).toMatchObject([{ responses: 2 }]);
  });
});

describe('leads who act on each other at once', () => {
  it('never leave the school without one, and whoever was first has acted', async () => {
    for (let round = 0; round < 6; round++) {
      const mate = await invited(harness, lead, { role: 'lead', email: `mate${round}@saltmarsh.example` });
      const all = (await adults()).filter(({ role }) => role === 'lead');
      const [own, other] = [all.find(({ name }) => name !== 'Mate')!, all.find(({ name }) => name === 'Mate')!];
      const act = (who: Browser, on: string) =>
        round % 2 === 0
          ? who.send('PUT', `/api/school/adults/${on}`, { role: 'teacher' })
          : who.send('DELETE', `/api/school/adults/${on}`, {});
      const answers = await Promise.all([act(lead, other.id), act(mate, own.id)]);
      const left = await asked<{ name: string; id: string }>("select id, name from adult where role = 'lead'");
      expect(left).toHaveLength(1);
      expect(answers.map(({ ok }) => ok).filter(Boolean)).toHaveLength(1);
      await harness.orm.em.fork().execute('delete from adult where id <> ?', [left[0]!.id]);
      if (left[0]!.id === other.id) {
        lead = mate;
        await harness.orm.em.fork().execute("update adult set name = 'Harbour keeper'");
      }
    }
  });
});

describe('an invitation', () => {
  it('ends with the right of the lead who made it: removed, or no lead any more', async () => {
    const mate = await invited(harness, lead, { role: 'lead' });
    const id = (await adults()).find(({ name }) => name === 'Mate')!.id;
    const invite = async (email: string): Promise<string> => {
      const before = harness.letters.length;
      const wish = { name: 'Back again', email, role: 'lead', classes: [] };
      expect((await mate.send('POST', '/api/school/invites', wish)).status).toBe(201);
      await harness.posted(before + 1);
      return linkIn(harness);
    };
    const opens = async (token: string): Promise<number> => (await harness.browser().get(`/api/join/${token}`)).status;
    const first = await invite('one@quay.example');
    expect(await opens(first)).toBe(200);
    await lead.send('PUT', `/api/school/adults/${id}`, { role: 'teacher' });
    expect(await opens(first)).toBe(410);
    await lead.send('PUT', `/api/school/adults/${id}`, { role: 'lead' });
    const second = await invite('two@quay.example');
    await lead.send('DELETE', `/api/school/adults/${id}`, {});
    expect(await opens(second)).toBe(410);
    const join = { token: second, name: 'Back again', password: 'ropes-and-rigging-4' };
    expect((await harness.browser().send('POST', '/api/join', join)).status).toBe(410);
  });

  it('that is used while its maker is removed opens nothing', async () => {
    const mate = await invited(harness, lead, { role: 'lead' });
    await mate.send('POST', '/api/school/invites', { name: 'X', email: 'x@quay.example', role: 'lead', classes: [] });
    await harness.posted(2);
    const token = linkIn(harness);
    await connected(harness.database.url, async (remover) => {
      await remover.query('begin; select 1 from school for no key update');
      await remover.query("update adult set role = 'teacher' where name = 'Mate'");
      const joined = harness.browser().send('POST', '/api/join', { token, name: 'X', password: 'ropes-and-rigging-4' });
      await new Promise((later) => setTimeout(later, 600));
      await remover.query('commit');
      expect((await joined).status).toBe(410);
    });
    expect((await adults()).map(({ name }) => name)).not.toContain('X');
  });
});

describe('a correction', () => {
  it('made twice at once keeps a history that is true', async () => {
    const odo = made.children.get('Odo') ?? '';
    for (let round = 0; round < 5; round++) {
      const id = `r${round}`;
      await lead.send('POST', `${made.path}/record`, {
        sittings: [SITTING],
        responses: [rowFor(odo, { response_id: id })],
      });
      const correct = (given: string) =>
        lead.send('POST', `${made.path}/corrections`, { responses: [id], change: { what: 'answer', given } });
      await Promise.all([correct('1'), correct('2')]);
      const [was, then] = await asked<{ before: { given: string }; after: { given: string } }>(
        `select before, after from correction where response_id = '${id}' order by made_at, id`,
      );
      expect(then?.before.given).toBe(was?.after.given);
      expect(await asked(`select given from response where id = '${id}'`)).toEqual([{ given: then?.after.given }]);
    }
  });
});

describe('an own view', () => {
  it('of one fact stands once, however many are noted at once', async () => {
    const odo = made.children.get('Odo') ?? '';
    const noted = ['knows', 'counts', 'knows', 'counts', 'knows', 'counts'].map((reading) =>
      lead.send('POST', `${made.path}/children/${odo}/overrules`, { fact: '3+4', reading, reason: 'seen' }),
    );
    for (const answer of await Promise.all(noted)) expect(answer.status).toBeLessThan(300);
    expect(await asked('select count(*)::int as n from overrule')).toEqual([{ n: 6 }]);
    expect(await asked('select count(*)::int as n from overrule where removed_at is null')).toEqual([{ n: 1 }]);
  });
});

describe('the limit of a school', () => {
  it('holds for many who add children at once', async () => {
    await harness.orm.em.fork().execute('update school set most_children = 8');
    const add = (n: number) => lead.send('POST', `${made.path}/children`, { nicknames: [`Pell${n}`] });
    await Promise.all(Array.from({ length: 12 }, (_, n) => add(n)));
    expect(await asked('select count(*)::int as n from child')).toEqual([{ n: 8 }]);
  });
});

describe('an import that is undone', () => {
  const header =
    'response_id,child,sitting,shown_at,kind,fact,answer_mode,exposure_ms,response_ms,given,outcome,observed,aid,void,flags';
  const csv = (child: string, from: number): string =>
    Array.from(
      { length: 3 },
      (_, i) => `i${from + i},${child},s9,2026-11-20T09:0${i}:00Z,add,3+4,tap,,1500,7,correct,,none,,`,
    ).join('\n');

  it('leaves the answers of children who have moved to a class that the teacher cannot see; a lead may take them back', async () => {
    const to = await secondClass();
    const teacher = await invited(harness, lead, { classes: [made.classId] });
    const text = `${header}\n${csv('Odo', 0)}\n${csv('Ivo', 10)}\n`;
    const answer = await teacher.send('POST', `${made.path}/import?write=yes`, text, { 'content-type': 'text/csv' });
    const { imported } = (await answer.json()) as ImportResult;
    expect(imported?.added).toBe(6);
    await move('Odo', to);
    const undo = `${made.path}/imports/${imported?.id ?? ''}`;
    const undone = await teacher.send('DELETE', undo, {});
    expect(await undone.json()).toEqual({ responses: 3, left: ['Odo'] });
    expect(await asked('select distinct class_id from response')).toEqual([{ class_id: to }]);
    expect(await (await lead.send('DELETE', undo, {})).json()).toEqual({ responses: 3, left: [] });
    expect(await asked('select 1 from response')).toEqual([]);
    expect((await lead.send('DELETE', undo, {})).status).toBe(404);
  });

  it('of a class list leaves children of whom anything is kept, and takes the others with what is said of them', async () => {
    const roster = await (await lead.get('/api/school/roster.zip')).arrayBuffer();
    const other = await startHarness();
    const theirs = other.browser();
    const { children: own } = await setUp(theirs);
    for (const id of own.values())
      await theirs.send('DELETE', `/api/classes/${(await classOf(theirs)) ?? ''}/children/${id}`, {});
    const read = await theirs.send('POST', '/api/school/roster?write=yes', new Uint8Array(roster));
    const { imported } = (await read.json()) as ImportResult;
    const path = `/api/classes/${(await classOf(theirs)) ?? ''}`;
    const view = (await (await theirs.get(path)).json()) as { children: { id: string; nickname: string }[] };
    const idOf = (nickname: string): string => view.children.find((one) => one.nickname === nickname)?.id ?? '';
    other.clock = new Date(other.clock.getTime() + 60_000);
    await theirs.send('POST', `${path}/notes`, { child: idOf('Odo'), text: 'by the quay' });
    await theirs.send('PUT', `${path}/children/${idOf('Ivo')}`, { support: { supports: ['more-time'], words: '' } });
    const undone = await theirs.send('DELETE', `/api/school/imports/${imported?.id ?? ''}`, {});
    expect(((await undone.json()) as { left: string[] }).left.sort()).toEqual(['Ivo', 'Odo']);
    const left = await other.orm.em.fork().execute('select nickname from child order by 1');
    expect(left).toEqual([{ nickname: 'Ivo' }, { nickname: 'Odo' }]);
    const acts = (await (await theirs.get('/api/school/audit')).json()) as AuditView[];
    expect(acts[0]).toMatchObject({ what: 'import taken back' });
    await other.close();
  });
});

const classOf = async (browser: Browser): Promise<string | undefined> =>
  ((await (await browser.get('/api/me')).json()) as { classes: { id: string }[] }).classes[0]?.id;
