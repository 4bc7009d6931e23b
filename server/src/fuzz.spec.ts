import fc, { LONG } from '@vane/core/testing/property';
import { rowFor, setUp, SITTING, startHarness, type Harness } from './testing/harness';

const SEED = 8263;
const RUNS = LONG ? 400 : 25;

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

/** What nobody in their right mind would send. */
const nonsense = fc.oneof(
  fc.constantFrom<unknown>(
    null,
    '',
    [],
    {},
    true,
    -1,
    0.5,
    1e308,
    '\u0000',
    '\ud800',
    '\u202e',
    '💧'.repeat(30),
    'x'.repeat(5000),
    "'; drop table child; --",
    '../../etc/passwd',
    '2026-13-45',
  ),
  fc.uuid(),
  fc.json().map((text) => JSON.parse(text) as unknown),
  fc.string({ unit: 'binary', maxLength: 40 }),
  fc
    .nat({ max: 6 })
    .map((depth) => Array.from({ length: depth }).reduce<unknown>((inner) => ({ inner: [inner] }), 'deep')),
);

/** A good body with one place, at any depth, replaced, taken out or added to. */
const spoiled = (good: object) =>
  fc.tuple(fc.nat(), nonsense, fc.constantFrom('replace', 'remove', 'add', 'whole')).map(([at, bad, how]) => {
    if (how === 'whole') return bad;
    const body = JSON.parse(JSON.stringify(good)) as Record<string, unknown>;
    const places: [Record<string, unknown>, string][] = [];
    const walk = (node: unknown): void => {
      if (typeof node !== 'object' || node === null) return;
      for (const key of Object.keys(node)) {
        places.push([node as Record<string, unknown>, key]);
        walk((node as Record<string, unknown>)[key]);
      }
    };
    walk(body);
    const place = places[at % Math.max(1, places.length)];
    if (!place) return bad;
    if (how === 'add') body['strange'] = bad;
    else if (how === 'remove') delete place[0][place[1]];
    else place[0][place[1]] = bad;
    return body;
  });

describe('every route', () => {
  it('answers nonsense with a problem, never with a failure, and never with another school’s rows', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const odo = children.get('Odo') ?? '';
    await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses: [rowFor(odo)] });
    // Another school, with a name that must never come out.
    const em = harness.orm.em.fork();
    const other = {
      school: '0197b000-0000-7000-8000-000000000001',
      class: '0197b000-0000-7000-8000-000000000002',
      child: '0197b000-0000-7000-8000-000000000003',
    };
    await em.execute(`insert into school (id, name, created_at) values ('${other.school}', 'Elsewhere', now())`);
    await em.execute(
      `insert into class (school_id, id, name, created_at) values ('${other.school}', '${other.class}', 'Elsewhere', now())`,
    );
    await em.execute(
      `insert into child (school_id, id, class_id, nickname, created_at) values ('${other.school}', '${other.child}', '${other.class}', 'Elsewhere', now())`,
    );

    const routes: readonly (readonly ['POST' | 'PUT' | 'DELETE', string, object])[] = [
      ['POST', '/api/sign-in', { email: 'a@b.example', password: 'x' }],
      [
        'POST',
        '/api/set-up',
        { school: 'S', className: 'C', name: 'N', email: 'a@b.example', password: 'long enough here', children: ['A'] },
      ],
      ['POST', '/api/join', { token: 'x'.repeat(32), name: 'N', password: 'long enough here' }],
      ['POST', '/api/forgotten', { email: 'a@b.example' }],
      ['POST', '/api/reset', { token: 'x'.repeat(32), password: 'long enough here' }],
      ['POST', '/api/board/pair', { code: 'ABC234' }],
      ['PUT', '/api/board/stage', { seq: 1, state: {} }],
      ['POST', '/api/me/unlock', { pin: '1234' }],
      ['PUT', '/api/me/password', { old: 'x', password: 'long enough here' }],
      ['POST', `${path}/record`, { sittings: [SITTING], responses: [rowFor(odo, { response_id: 'f1' })] }],
      ['POST', `${path}/corrections`, { responses: ['r1'], change: { what: 'child', child: other.child } }],
      ['PUT', `${path}/carpet`, { layout: 'five', exposureMs: 500, answerMode: 'tap', shows: 5, zeroToo: false }],
      ['POST', `${path}/children`, { nicknames: ['Fenn'] }],
      ['PUT', `${path}/children/${odo}`, { classId: other.class }],
      ['PUT', `${path}/children/${other.child}`, { nickname: 'Mine' }],
      ['POST', `${path}/children/${odo}/overrules`, { fact: '3+4', reading: 'knows', reason: 'because' }],
      ['POST', `${path}/notes`, { child: other.child, text: 'hello' }],
      ['POST', `${path}/screens`, {}],
      ['POST', `${path}/prints`, { what: 'home-sheet', child: other.child }],
      ['POST', `${path}/cards.zip`, { what: 'dominoes', numbers: [2] }],
      ['POST', `${path}/group-sheets`, { children: [other.child], facts: ['3+4'] }],
      ['POST', `${path}/import?write=yes`, {}],
      ['POST', '/api/school/roster?write=yes', {}],
      ['POST', '/api/school/archive?write=yes', { format: 'vane-class', version: 1, class: {}, children: [] }],
      ['DELETE', `${path}/imports/${other.child}`, {}],
      ['PUT', `${path}/screens/${other.child}`, { seq: 1, state: { trial: 1 } }],
      ['POST', '/api/school/classes', { name: 'X' }],
      ['POST', '/api/school/invites', { name: 'N', email: 'n@b.example', role: 'teacher', classes: [other.class] }],
      ['PUT', '/api/school/keep', { keepMonths: 12 }],
      ['PUT', `/api/school/adults/${other.child}`, { classes: [other.class] }],
      ['POST', `/api/school/classes/${other.class}/roll-over`, { name: 'Y', children: [other.child] }],
      ['DELETE', `/api/classes/${other.class}/children/${other.child}`, {}],
    ];
    let cases = 0;
    const sound = async (answer: Response, what: unknown): Promise<void> => {
      cases++;
      const text = await answer.text();
      expect([what, answer.status, answer.status < 500]).toEqual([what, answer.status, true]);
      expect(text).not.toContain('Elsewhere');
      if (answer.status >= 400) expect(answer.headers.get('content-type')).toContain('application/problem+json');
    };
    for (const [method, route, good] of routes) {
      await fc.assert(
        fc.asyncProperty(spoiled(good), async (body) =>
          sound(await browser.send(method, route, JSON.stringify(body) ?? ''), [method, route, body]),
        ),
        { seed: SEED, numRuns: RUNS },
      );
      for (const raw of ['', '{', 'null', '[1,', '"\u0000"', '{"__proto__":{"role":"lead"}}'])
        await sound(await browser.send(method, route, raw), [method, route, raw]);
    }
    const gets = [
      '',
      '/log',
      '/readings',
      '/over-time',
      `/children/${odo}`,
      `/children/${other.child}`,
      `/children/${other.child}/record.json`,
    ];
    const queries = [
      '',
      '?offset=-1',
      '?offset=1e9',
      '?offset=%00',
      '?child=%00',
      '?from=2026-99-99',
      '?fact=%25_%5C',
      '?until=%00',
      '?only=all',
      '?until=0000-01-01',
    ];
    for (const base of [path, `/api/classes/${other.class}`, '/api/classes/nobody', '/api/classes/%00'])
      for (const get of gets)
        for (const query of queries) await sound(await browser.get(`${base}${get}${query}`), [base, get, query]);
    await forged(sound);
    const still: { n: string }[] = await em.execute(
      `select count(*) as n from child where school_id = '${other.school}' and nickname = 'Elsewhere'`,
    );
    expect(Number(still[0]?.n)).toBe(1);
    process.stdout.write(`\n${cases} requests made of nonsense, seed ${SEED}: none failed\n`);
  }, 180_000);

  /** Cookies that nobody was given. */
  async function forged(sound: (answer: Response, what: unknown) => Promise<void>): Promise<void> {
    for (const token of ['', 'x', 'x'.repeat(4000), '%00', encodeURIComponent('💧'), "' or 1=1 --"]) {
      const answer = await harness.app.request('/api/me', { headers: { cookie: `vane_sign_in=${token}` } });
      expect(answer.status).toBe(401);
      await sound(answer, token);
    }
  }
});
