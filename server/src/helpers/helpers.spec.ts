import { ROUTES, type GroupSheetView, type HelperLink, type HelperSheet, type LogPage } from '@vane/contract';
import { filledPath, SET_UP, setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { SITTING, rowFor } from '../testing/rows';

let harness: Harness;
let teacher: Browser;
let made: Awaited<ReturnType<typeof setUp>>;
beforeEach(async () => {
  harness = await startHarness();
  teacher = harness.browser();
  made = await setUp(teacher);
});
afterEach(() => harness.close());

const idOf = (nickname: string): string => made.children.get(nickname) ?? '';
/** Odo and Ivo at the pairs of five; Zadie is no part of it. */
async function sheetFor(browser = teacher): Promise<string> {
  const asked = {
    [idOf('Odo')]: [
      { fact: '2+3', form: 'picture' },
      { fact: '1+?=5', form: 'remembered' },
    ],
    [idOf('Ivo')]: [{ fact: '4+1', form: 'symbols' }],
  };
  const answer = await browser.send('POST', `${made.path}/group-sheets`, {
    children: [idOf('Odo'), idOf('Ivo')],
    facts: ['2+3', '1+?=5', '4+1'],
    session: { needs: [{ need: 'pairs', whole: 5 }], opener: 'flash-and-say', minutes: 6, asked },
  });
  expect(answer.status).toBe(201);
  return ((await answer.json()) as GroupSheetView).code;
}
async function linkTo(code: string): Promise<{ token: string; link: HelperLink }> {
  const answer = await teacher.send('POST', `${made.path}/group-sheets/${code}/link`, {});
  const link = (await answer.json()) as HelperLink;
  return { link, token: link.link.split('#')[1] ?? '' };
}
async function helped(): Promise<{ code: string; helper: Browser; link: HelperLink }> {
  const code = await sheetFor();
  const { token, link } = await linkTo(code);
  const helper = harness.browser('198.51.100.7');
  expect((await helper.send('POST', '/api/helper/open', { token })).status).toBe(204);
  return { code, helper, link };
}
const sheetAs = async (browser: Browser): Promise<HelperSheet> =>
  (await (await browser.get('/api/helper/sheet')).json()) as HelperSheet;

describe('a helper with a day’s link', () => {
  it('sees the group, its questions and how this class says them, and no word of what anybody knows', async () => {
    await harness.orm.em.fork().execute(`update child set supports = '["no-flash"]' where nickname = 'Ivo'`);
    const { helper, link } = await helped();
    expect(link.qr).toContain('<svg');
    const sheet = await sheetAs(helper);
    expect(sheet.children).toEqual([
      {
        id: idOf('Odo'),
        nickname: 'Odo',
        asks: [
          { fact: '2+3', form: 'picture' },
          { fact: '1+?=5', form: 'remembered' },
        ],
        exposureMs: 750,
      },
      // Nothing is flashed for this one.
      { id: idOf('Ivo'), nickname: 'Ivo', asks: [{ fact: '4+1', form: 'symbols' }], exposureMs: null },
    ]);
    expect(sheet).toMatchObject({ session: { opener: 'flash-and-say', minutes: 6 }, given: [] });
    expect(JSON.stringify(sheet)).not.toContain('Zadie');
  });

  it('is let through to no other route', async () => {
    const { helper, code } = await helped();
    const forAnybody =
      /^\w+ \/(health|clock|door|set-up|sign-in|sign-out|join|forgotten|reset|board\/pair|helper|service\/open)/;
    const places: Record<string, string> = { classId: made.classId, childId: idOf('Odo'), code, form: 'json' };
    const closed = Object.keys(ROUTES).filter((name) => !forAnybody.test(name));
    expect(closed.length).toBeGreaterThan(60);
    for (const name of closed) {
      const [method = '', route = ''] = name.split(' ');
      const path = filledPath(route, places, made.classId);
      const answer = await (method === 'GET' ? helper.get(path) : helper.send(method as 'POST', path, {}));
      expect([name, answer.status]).toEqual([name, 401]);
    }
  });

  it('cannot date an answer outside its day, and sees nothing of a class that was put away', async () => {
    const { helper } = await helped();
    const answers = ['1999-01-01T00:00:00Z', '2190-01-01T00:00:00Z'].map((at, place) => {
      return { child: idOf('Odo'), place, given: '5', counted: false, at };
    });
    expect((await helper.send('POST', '/api/helper/answers', { answers })).status).toBe(200);
    const { rows } = (await (await teacher.get(`${made.path}/log`)).json()) as LogPage;
    const now = harness.clock.toISOString();
    expect(rows.map(({ shown_at }) => shown_at)).toEqual([now, now]);
    await teacher.send('PUT', `/api/school/classes/${made.classId}`, { archived: true });
    expect((await helper.get('/api/helper/sheet')).status).toBe(401);
  });

  it('sends what the children said: once, without times, with the help that was given', async () => {
    const { helper, code } = await helped();
    const at = harness.clock.toISOString();
    const answers = [
      { child: idOf('Odo'), place: 0, given: '5', counted: false, at },
      { child: idOf('Ivo'), place: 0, given: '4', counted: true, at },
    ];
    for (const status of [200, 200])
      expect((await helper.send('POST', '/api/helper/answers', { answers, sent_at: at })).status).toBe(status);
    const log = (await (await teacher.get(`${made.path}/log`)).json()) as LogPage;
    expect(log.rows).toHaveLength(2);
    expect(log.rows.find((row) => row.nickname === 'Odo')).toMatchObject({
      routine: 'group-sheet',
      fact: '2+3',
      outcome: 'correct',
      aid: 'picture',
      response_ms: null,
    });
    expect(log.rows.find((row) => row.nickname === 'Ivo')).toMatchObject({
      fact: '4+1',
      outcome: 'wrong',
      aid: 'none',
      observed: 'counted',
    });
    expect((await sheetAs(helper)).given).toEqual([
      { child: idOf('Odo'), place: 0 },
      { child: idOf('Ivo'), place: 0 },
    ]);
    const [sheet] = (await (await teacher.get(`${made.path}/group-sheets`)).json()) as GroupSheetView[];
    expect(sheet).toMatchObject({ code });
    expect(sheet?.keyedAt).not.toBeNull();
  });

  it('answers for nobody who is not on the sheet, and for no question that is not', async () => {
    const { helper } = await helped();
    const at = harness.clock.toISOString();
    const one = { child: idOf('Odo'), place: 0, given: '5', counted: false, at };
    for (const change of [{ child: idOf('Zadie') }, { place: 2 }])
      expect((await helper.send('POST', '/api/helper/answers', { answers: [{ ...one, ...change }] })).status).toBe(404);
    expect((await helper.send('POST', '/api/helper/answers', { answers: [{ ...one, given: '11' }] })).status).toBe(400);
  });

  it('is shut out when the day is over, the link is ended or made anew, or its adult has no class any more', async () => {
    const code = await sheetFor();
    const open = async (token: string): Promise<number> =>
      (await harness.browser().send('POST', '/api/helper/open', { token })).status;
    const first = await linkTo(code);
    const second = await linkTo(code);
    expect([await open(first.token), await open(second.token), await open('guessed-and-guessed-again')]).toEqual([
      401, 204, 401,
    ]);

    const helper = harness.browser();
    await helper.send('POST', '/api/helper/open', { token: second.token });
    expect((await helper.get('/api/helper/sheet')).status).toBe(200);
    // The school's day: midnight in London.
    expect(second.link.until).toBe('2026-11-26T00:00:00.000Z');
    harness.clock = new Date('2026-11-26T00:00:00Z');
    expect((await helper.get('/api/helper/sheet')).status).toBe(401);
    harness.clock = new Date('2026-11-25T09:00:00Z');
    expect((await teacher.send('DELETE', `${made.path}/group-sheets/${code}/link`, {})).status).toBe(204);
    expect((await helper.get('/api/helper/sheet')).status).toBe(401);

    const third = await linkTo(code);
    await harness.orm.em.fork().execute(`update adult set role = 'teacher'`);
    expect(await open(third.token)).toBe(204);
    await harness.orm.em.fork().execute('delete from class_adult');
    expect(await open(third.token)).toBe(401);
  });

  it('loses sight of a child who is erased or put away', async () => {
    const { helper, code } = await helped();
    await teacher.send('DELETE', `${made.path}/children/${idOf('Ivo')}`, {});
    expect((await sheetAs(helper)).children.map(({ nickname }) => nickname)).toEqual(['Odo']);
    const stored: { session: string }[] = await harness.orm.em
      .fork()
      .execute('select session::text as session from group_sheet where code = ?', [code]);
    expect(stored[0]?.session).not.toContain(idOf('Ivo'));
    await teacher.send('PUT', `${made.path}/children/${idOf('Odo')}`, { archived: true });
    expect((await sheetAs(helper)).children).toEqual([]);
  });
});

describe('a sheet of a planned session', () => {
  it('asks only its own children, and only what stands on it', async () => {
    const session = { needs: [{ need: 'seeing' }], opener: null, minutes: 4 };
    const own = [{ fact: '2+3', form: 'symbols' }];
    const send = (asked: object): Promise<Response> =>
      teacher.send('POST', `${made.path}/group-sheets`, {
        children: [idOf('Odo')],
        facts: ['2+3'],
        session: { ...session, asked },
      });
    expect((await send({ [idOf('Odo')]: own })).status).toBe(201);
    expect((await send({ [idOf('Odo')]: own, [idOf('Ivo')]: own })).status).toBe(400);
    expect((await send({})).status).toBe(400);
    expect((await send({ [idOf('Odo')]: [{ fact: '2+4', form: 'symbols' }] })).status).toBe(400);
  });

  it('is the same page when it is asked for again, until somebody has used it or the day is over', async () => {
    const first = await sheetFor();
    expect(await sheetFor()).toBe(first);
    await teacher.send('PUT', `${made.path}/group-sheets/${first}/keyed`, {});
    const second = await sheetFor();
    expect(second).not.toBe(first);
    harness.clock = new Date(harness.clock.getTime() + 86_400_000);
    await teacher.send('POST', '/api/sign-in', { email: SET_UP.email, password: SET_UP.password });
    expect([first, second]).not.toContain(await sheetFor());
  });

  it('has children of its own class alone', async () => {
    const session = { needs: [{ need: 'seeing' }], opener: null, minutes: 4, asked: { [made.classId]: [] } };
    const answer = await teacher.send('POST', `${made.path}/group-sheets`, {
      children: [made.classId],
      facts: ['2+3'],
      session: { ...session, asked: { [made.classId]: [{ fact: '2+3', form: 'symbols' }] } },
    });
    expect(answer.status).toBe(404);
  });

  it('leaves the record of others as it is', async () => {
    await teacher.send('POST', `${made.path}/record`, { sittings: [SITTING], responses: [rowFor(idOf('Zadie'))] });
    const { helper } = await helped();
    const at = harness.clock.toISOString();
    const answers = [{ child: idOf('Odo'), place: 0, given: '5', counted: false, at }];
    await helper.send('POST', '/api/helper/answers', { answers });
    const log = (await (await teacher.get(`${made.path}/log`)).json()) as LogPage;
    expect(log.rows.map(({ nickname }) => nickname).sort()).toEqual(['Odo', 'Zadie']);
  });
});
