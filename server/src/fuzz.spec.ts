import fc, { LONG } from '@vane/core/testing/property';
import { setUp, SET_UP, startHarness, type Harness } from './testing/harness';
import { rowFor, SITTING } from './testing/rows';
import {
  changes,
  ELSEWHERE,
  OTHER,
  OTHER_ROWS,
  QUERIES,
  questions,
  RAW,
  spoiled,
  type World,
} from './testing/nonsense';

const SEED = 8263;
// More would be told to wait, for so many wrong passwords.
const RUNS = LONG ? 25 : 3;

let harness: Harness;
beforeAll(async () => {
  harness = await startHarness();
});
afterAll(() => harness.close());

describe('every route', () => {
  it('answers nonsense with a problem, never with a failure, and never with another school’s rows', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    const odo = children.get('Odo') ?? '';
    await browser.send('POST', `${path}/record`, { sittings: [SITTING], responses: [rowFor(odo)] });
    const em = harness.orm.em.fork();
    for (const row of OTHER_ROWS) await em.execute(row);
    const world: World = { path, child: odo, other: OTHER };
    let cases = 0;
    const sound = async (answer: Response, what: unknown): Promise<void> => {
      cases++;
      const text = await answer.text();
      expect([what, answer.status, answer.status < 500]).toEqual([what, answer.status, true]);
      expect(text).not.toContain(ELSEWHERE);
      if (answer.status >= 400) expect(answer.headers.get('content-type')).toContain('application/problem+json');
    };
    const { email, password } = SET_UP;
    const signIn = (): Promise<Response> => browser.send('POST', '/api/sign-in', { email, password });
    for (const [method, route, good] of changes(world)) {
      expect([route, (await signIn()).status]).toEqual([route, 200]);
      await fc.assert(
        fc.asyncProperty(spoiled(good), async (body) =>
          sound(await browser.send(method, route, JSON.stringify(body) ?? ''), [method, route, body]),
        ),
        { seed: SEED, numRuns: RUNS },
      );
      for (const raw of RAW) await sound(await browser.send(method, route, raw), [method, route, raw]);
    }
    await signIn();
    // Every question, each in some ways; all ways of all of them are `npm run fuzz`.
    for (const [i, question] of questions(world).entries())
      for (const query of QUERIES.filter((_, j) => question.startsWith('/api') && (i + j) % 4 === 0))
        await sound(await browser.get(question + query), [question, query]);
    await forged(sound);
    const still: { n: string }[] = await em.execute(
      `select count(*) as n from child where school_id = '${OTHER.school}' and nickname = '${ELSEWHERE}'`,
    );
    expect(Number(still[0]?.n)).toBe(1);
    process.stdout.write(`\n${cases} requests made of nonsense, seed ${SEED}: none failed\n`);
  }, 180_000);

  /** Forged cookies. */
  async function forged(sound: (answer: Response, what: unknown) => Promise<void>): Promise<void> {
    for (const token of ['', 'x', 'x'.repeat(4000), '%00', encodeURIComponent('💧'), "' or 1=1 --"]) {
      const answer = await harness.browser().get('/api/me', { cookie: `vane_sign_in=${token}` });
      expect(answer.status).toBe(401);
      await sound(answer, token);
    }
  }
});
