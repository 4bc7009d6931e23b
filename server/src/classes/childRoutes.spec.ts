import { invited, setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';

let harness: Harness;
beforeEach(async () => {
  harness = await startHarness();
});
afterEach(() => harness.close());

interface View {
  children: { id: string; nickname: string; lastAskedAt: string | null; routinesUsed: string[] }[];
  away: { id: string; nickname: string }[];
}
const viewOf = async (browser: Browser, path: string): Promise<View> =>
  (await (await browser.get(path)).json()) as View;
const names = (view: View): string[] => view.children.map((c) => c.nickname);

/** Every row of every table as text. */
async function everything(): Promise<string> {
  const em = harness.orm.em.fork();
  const tables: { name: string }[] = await em.execute(
    `select table_name as name from information_schema.tables where table_schema = 'public'`,
  );
  const rows = await Promise.all(
    tables.map(({ name }) =>
      em.execute<{ row: string }[]>(`select '${name} ' || to_jsonb(t)::text as row from "${name}" t`),
    ),
  );
  return rows
    .flat()
    .map((r) => r.row)
    .join('\n');
}

async function answers(
  browser: Browser,
  path: string,
  of: readonly (readonly [id: string, child: string, sitting: string])[],
): Promise<void> {
  const sittings = [...new Set(of.map(([, , sitting]) => sitting))].map((id) => ({ ...SITTING, id }));
  const responses = of.map(([response_id, child, sitting]) => rowFor(child, { response_id, sitting }));
  expect((await browser.send('POST', `${path}/record`, { sittings, responses })).status).toBe(200);
}

describe('the children of a class', () => {
  it('join, get another nickname, are put away and come back; a name that is taken is refused', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    expect((await browser.send('POST', `${path}/children`, { nicknames: ['Fenn', 'Kesi'] })).status).toBe(204);
    expect((await browser.send('POST', `${path}/children`, { nicknames: ['Marlo', 'fenn'] })).status).toBe(409);
    expect((await browser.send('PUT', `${path}/children/${children.get('Ivo')}`, { nickname: 'Odo' })).status).toBe(
      409,
    );
    expect((await browser.send('PUT', `${path}/children/${children.get('Ivo')}`, { nickname: 'Seven' })).status).toBe(
      204,
    );
    expect((await browser.send('PUT', `${path}/children/${children.get('Odo')}`, { archived: true })).status).toBe(204);
    const view = await viewOf(browser, path);
    expect([names(view), view.away.map((c) => c.nickname)]).toEqual([['Fenn', 'Kesi', 'Seven', 'Zadie'], ['Odo']]);
    await browser.send('PUT', `${path}/children/${children.get('Odo')}`, { archived: false });
    expect(names(await viewOf(browser, path))).toContain('Odo');
    expect(
      (await browser.send('PUT', `${path}/children/${children.get('Odo')}`, { nickname: 'A', archived: true })).status,
    ).toBe(400);
  });

  it('deleted, leave nothing in any table but counts and ids', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const [zadie, ivo] = [children.get('Zadie')!, children.get('Ivo')!];
    await answers(browser, path, [
      ['r1', zadie, 'alone'],
      ['r2', zadie, 'both'],
      ['r3', ivo, 'both'],
      ['r4', zadie, 'both'],
    ]);
    await browser.send('POST', `${path}/corrections`, { responses: ['r4'], change: { what: 'child', child: ivo } });
    await browser.send('POST', `${path}/children/${zadie}/overrules`, {
      fact: 'show:7:frame-fives',
      reading: 'knows',
      reason: 'seen it often',
    });
    await browser.send('POST', `${path}/notes`, { child: zadie, text: 'likes shells' });
    await browser.send('POST', `${path}/notes`, { sitting: 'alone', text: 'noisy morning' });
    await browser.get(`${path}/readings`);
    await browser.get(`${path}/over-time`);
    await browser.send('PUT', `${path}/children/${zadie}`, { archived: true });
    const gone = (await (await browser.send('DELETE', `${path}/children/${zadie}`, {})).json()) as {
      responses: number;
    };
    expect(gone.responses).toBe(2);
    // But their ids alone, so that no backup brings them back (school/erased.spec.ts).
    const left = (await everything()).replace(/^erased .*$/gm, '');
    for (const trace of [zadie, 'Zadie', 'likes shells', 'noisy morning', '"alone"']) expect(left).not.toContain(trace);
    expect(left).toContain('with 2 responses');
    expect(left.match(/^response /gm)).toHaveLength(2);
    // What went to the other child stays with them, and cannot go back to nobody.
    expect(
      (await browser.send('POST', `${path}/corrections`, { responses: ['r4'], change: { what: 'original' } })).status,
    ).toBe(422);
    expect((await browser.send('DELETE', `${path}/children/${zadie}`, {})).status).toBe(404);
  });

  it('moved, take their record along; a shared sitting stays', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const [zadie, ivo] = [children.get('Zadie')!, children.get('Ivo')!];
    await answers(browser, path, [
      ['r1', zadie, 'alone'],
      ['r2', zadie, 'both'],
      ['r3', ivo, 'both'],
    ]);
    await browser.send('POST', `${path}/notes`, { sitting: 'alone', text: 'a good start' });
    const { id } = (await (await browser.send('POST', '/api/school/classes', { name: 'Curlew' })).json()) as {
      id: string;
    };
    expect((await browser.send('PUT', `${path}/children/${zadie}`, { classId: id })).status).toBe(204);
    expect(names(await viewOf(browser, path))).toEqual(['Ivo', 'Odo']);
    const there = (await (await browser.get(`/api/classes/${id}/log`)).json()) as {
      total: number;
      rows: { response_id: string; notes: string[] }[];
    };
    expect(there.rows.map((r) => [r.response_id, r.notes]).sort()).toEqual([
      ['r1', ['a good start']],
      ['r2', []],
    ]);
    const record = (await (await browser.get(`/api/classes/${id}/children/${zadie}`)).json()) as {
      responses: unknown[];
    };
    expect(record.responses).toHaveLength(2);
    // Sent again to the new class, what is there is known and not refused.
    const again = await browser.send('POST', `/api/classes/${id}/record`, {
      sittings: [],
      responses: [rowFor(zadie, { response_id: 'r2', sitting: 'both' })],
    });
    expect(await again.json()).toEqual({ accepted: [], already: ['r2'], refused: [] });
    expect(
      (
        await browser.send('PUT', `${path}/children/${ivo}`, {
          classId: id.replace(/.$/, (last) => (last === '0' ? '1' : '0')),
        })
      ).status,
    ).toBe(404);
  });
});

describe('a teacher of one class', () => {
  /** A school with a second class, and a teacher who has the first alone. */
  async function withTeacher() {
    const lead = harness.browser();
    const { classId, path, children } = await setUp(lead);
    const { id } = (await (await lead.send('POST', '/api/school/classes', { name: 'Curlew' })).json()) as {
      id: string;
    };
    const other = `/api/classes/${id}`;
    const teacher = await invited(harness, lead, { classes: [classId] });
    return { lead, teacher, path, other, otherId: id, zadie: children.get('Zadie')! };
  }

  it('moves no child into a class that is not theirs; its lead does', async () => {
    const { lead, teacher, path, other, otherId, zadie } = await withTeacher();
    expect((await teacher.send('PUT', `${path}/children/${zadie}`, { classId: otherId })).status).toBe(404);
    expect([names(await viewOf(lead, path)), names(await viewOf(lead, other))]).toEqual([['Ivo', 'Odo', 'Zadie'], []]);
    expect((await lead.send('PUT', `${path}/children/${zadie}`, { classId: otherId })).status).toBe(204);
  });

  it('is handed no file of a child of another class, by whichever of the two addresses', async () => {
    const { lead, teacher, path, other, otherId, zadie } = await withTeacher();
    await answers(lead, path, [['r1', zadie, 'alone']]);
    for (const file of ['record.json', 'responses.csv'])
      expect([file, (await teacher.get(`${path}/children/${zadie}/${file}`)).status]).toEqual([file, 200]);
    await lead.send('PUT', `${path}/children/${zadie}`, { classId: otherId });
    for (const file of ['record.json', 'responses.csv'])
      for (const at of [path, other]) {
        const answer = await teacher.get(`${at}/children/${zadie}/${file}`);
        expect([file, at, answer.status, (await answer.text()).includes('Zadie')]).toEqual([file, at, 404, false]);
      }
  });
});

describe('the classes of a school', () => {
  it('at the end of a year children go on with their records, and the old class is put away with whoever stays', async () => {
    const browser = harness.browser();
    const { classId, path, children } = await setUp(browser);
    await answers(browser, path, [['r1', children.get('Zadie')!, 's1']]);
    const wish = { name: 'Heron', children: [children.get('Zadie'), children.get('Odo')] };
    const { id } = (await (await browser.send('POST', `/api/school/classes/${classId}/roll-over`, wish)).json()) as {
      id: string;
    };
    const me = (await (await browser.get('/api/me')).json()) as { classes: { name: string }[] };
    expect(me.classes.map((c) => c.name)).toEqual(['Heron']);
    const view = await viewOf(browser, `/api/classes/${id}`);
    expect(view.children.map((c) => [c.nickname, c.lastAskedAt !== null, c.routinesUsed])).toEqual([
      ['Odo', false, []],
      ['Zadie', true, ['flash-and-say']],
    ]);
    expect((await viewOf(browser, path)).away.map((c) => c.nickname)).toEqual(['Ivo']);
    // A name that is taken changes nothing.
    expect(
      (await browser.send('POST', `/api/school/classes/${id}/roll-over`, { name: 'Sandpiper', children: [] })).status,
    ).toBe(409);
    expect(names(await viewOf(browser, `/api/classes/${id}`))).toHaveLength(2);
  });

  it('are added, renamed and put away; only an empty one is deleted', async () => {
    const browser = harness.browser();
    const { classId } = await setUp(browser);
    const { id } = (await (await browser.send('POST', '/api/school/classes', { name: 'Curlew' })).json()) as {
      id: string;
    };
    expect((await browser.send('POST', '/api/school/classes', { name: 'Sandpiper' })).status).toBe(409);
    expect((await browser.send('PUT', `/api/school/classes/${id}`, { name: 'Heron' })).status).toBe(204);
    expect((await browser.send('PUT', `/api/school/classes/${id}`, { archived: true })).status).toBe(204);
    const views = (await (await browser.get('/api/school/classes')).json()) as {
      name: string;
      archived: boolean;
      children: number;
    }[];
    expect(views.map((v) => [v.name, v.archived, v.children])).toEqual([
      ['Heron', true, 0],
      ['Sandpiper', false, 3],
    ]);
    expect((await browser.send('DELETE', `/api/school/classes/${classId}`, {})).status).toBe(409);
    expect((await browser.send('DELETE', `/api/school/classes/${id}`, {})).status).toBe(204);
    expect((await browser.send('DELETE', `/api/school/classes/${id}`, {})).status).toBe(404);
  });
});

describe('the record of past weeks', () => {
  it('is judged from what was there then, and anew when it is put right; stepping back leaves later answers out', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const zadie = children.get('Zadie')!;
    const days = ['2026-11-03', '2026-11-04', '2026-11-05', '2026-11-17', '2026-11-18', '2026-11-19', '2026-11-20'];
    const responses = days.flatMap((day, i) =>
      [0, 1].map((n) =>
        rowFor(zadie, {
          response_id: `${day} ${n}`,
          shown_at: `${day}T09:00:0${n}.000Z`,
          response_ms: i < 3 ? 6000 : 1100,
          observed: i < 3 ? 'counted' : 'knew',
        }),
      ),
    );
    await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses });
    const past = async () => {
      for (;;) {
        const state = (await (await browser.get(`${path}/children/${zadie}/over-time`)).json()) as {
          weeks: { week: string; words: Record<string, string> }[];
          pending: number;
        };
        if (state.pending === 0) return state.weeks.map((w) => [w.week, w.words['show:7:frame-fives']]);
        await new Promise((done) => setTimeout(done, 20));
      }
    };
    expect(await past()).toEqual([
      ['2026-11-02', 'counts'],
      ['2026-11-16', expect.not.stringMatching(/^counts$/)],
    ]);
    const then = (await (await browser.get(`${path}/children/${zadie}?until=2026-11-04`)).json()) as {
      responses: unknown[];
      readings: { responses: number }[];
    };
    expect([then.responses.length, then.readings[0]?.responses]).toEqual([4, 4]);
    expect((await browser.get(`${path}/children/${zadie}?until=yesterday`)).status).toBe(400);
    await browser.send('POST', `${path}/corrections`, {
      responses: responses.slice(0, 6).map((r) => r.response_id),
      change: { what: 'void', reason: 'spoiled' },
    });
    expect((await past())[0]).toEqual(['2026-11-02', undefined]);
  });
});
