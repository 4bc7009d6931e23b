import { jest } from '@jest/globals';
import { SET_UP, setUp, startHarness, type Browser, type Harness } from '../testing/harness';
import { addressOf, isOwnHost } from './address';
import { trim } from '../school/trim';

/** What somebody who guesses can do, and what it must not do to others. */
let harness: Harness;
beforeEach(async () => {
  harness = await startHarness();
});
afterEach(async () => {
  jest.restoreAllMocks();
  await harness.close();
});

const signIn = (browser: Browser, change: { email?: string; password?: string } = {}): Promise<Response> =>
  browser.send('POST', '/api/sign-in', { email: SET_UP.email, password: SET_UP.password, ...change });
const statuses = async (tries: readonly Promise<Response>[]): Promise<number[]> =>
  (await Promise.all(tries)).map(({ status }) => status);
const many = <T>(count: number, one: (i: number) => T): T[] => Array.from({ length: count }, (_, i) => one(i));
/** Counts of tries go by the machine's own clock. */
const later = (minutes: number): void => {
  const then = Date.now() + minutes * 60_000;
  jest.spyOn(Date, 'now').mockReturnValue(then);
};

describe('guessing at an account', () => {
  it('is over after eight wrong passwords, whether anybody has the address or not, and begins anew after a while', async () => {
    await setUp(harness.browser());
    for (const email of [SET_UP.email, 'nobody@saltmarsh.example']) {
      const tries: number[] = [];
      for (let i = 0; i < 9; i++) tries.push((await signIn(harness.browser(), { email, password: 'wrong' })).status);
      expect(tries).toEqual([...many(8, () => 401), 429]);
    }
    expect((await signIn(harness.browser('198.51.100.9'))).status).toBe(429);
    later(16);
    expect((await signIn(harness.browser('198.51.100.9'))).status).toBe(200);
  });

  it('does not shut out its owner on a device that they signed in on before', async () => {
    const own = harness.browser();
    await setUp(own);
    await own.send('POST', '/api/sign-out', {});
    for (const at of many(20, (i) => `198.51.100.${i}`)) await signIn(harness.browser(at), { password: 'wrong' });
    expect((await signIn(harness.browser())).status).toBe(429);
    expect((await signIn(own)).status).toBe(200);
  });

  it('is no easier from such a device than from another', async () => {
    const own = harness.browser();
    await setUp(own);
    const tries: number[] = [];
    for (let i = 0; i < 11; i++) tries.push((await signIn(own, { password: 'wrong' })).status);
    expect(tries).toEqual([...many(10, () => 401), 429]);
  });

  it('is no easier with many tries at once', async () => {
    await setUp(harness.browser());
    const tried = await statuses(many(40, (i) => signIn(harness.browser(`198.51.100.${i}`), { password: 'wrong' })));
    expect(tried.filter((status) => status === 401)).toHaveLength(8);
  });

  it('from one address ends for all accounts, and for that address alone', async () => {
    await setUp(harness.browser());
    const tried: number[] = [];
    for (let i = 0; i < 62; i++)
      tried.push((await signIn(harness.browser('198.51.100.1'), { email: `n${i}@saltmarsh.example` })).status);
    expect([tried.indexOf(429), tried.at(-1)]).toEqual([60, 429]);
    expect((await signIn(harness.browser('198.51.100.2'))).status).toBe(200);
  });

  it('leaves counts behind that two servers share', async () => {
    await setUp(harness.browser());
    const other = await harness.another();
    try {
      for (let i = 0; i < 8; i++) await signIn(harness.browser(), { password: 'wrong' });
      expect((await signIn(other.browser())).status).toBe(429);
    } finally {
      await other.close();
    }
  });

  it('a hundred times at once does not keep others waiting until it is done', async () => {
    await setUp(harness.browser('203.0.113.1'));
    const flood = many(100, (i) => signIn(harness.browser('198.51.100.1'), { email: `n${i}@saltmarsh.example` }));
    const honest = signIn(harness.browser('203.0.113.2'));
    // A dozen may wait at a time, and a few more come as these are done; all others are refused at once.
    expect((await statuses(flood)).filter((status) => status === 401).length).toBeLessThanOrEqual(30);
    expect((await honest).status).toBe(200);
  });
});

describe('guessing from inside', () => {
  it('at the old password is over after five tries', async () => {
    const browser = harness.browser();
    await setUp(browser);
    const change = (old: string) =>
      browser.send('PUT', '/api/me/password', { old, password: 'other-boats-other-ropes' });
    const tried = await statuses(many(8, (i) => change(`wrong ${i}`)));
    expect(tried.filter((status) => status === 422)).toHaveLength(5);
    expect((await change(SET_UP.password)).status).toBe(429);
    later(16);
    expect((await change(SET_UP.password)).status).toBe(204);
  });

  it('letters to a new password are few, and the answer tells nobody who is here', async () => {
    await setUp(harness.browser());
    for (const email of [SET_UP.email, 'nobody@saltmarsh.example']) {
      const asked: number[] = [];
      for (let i = 0; i < 4; i++) {
        asked.push((await harness.browser().send('POST', '/api/forgotten', { email })).status);
        // Each letter is out before the next is asked for: the next takes back a link whose letter still waits.
        if (email === SET_UP.email) await harness.posted(Math.min(i + 1, 3));
      }
      expect(asked).toEqual([204, 204, 204, 429]);
    }
    expect(await harness.posted(3)).toHaveLength(3);
  });
});

describe('a new password', () => {
  it('is no common one, and not made of the names around it', async () => {
    const set = async (password: string): Promise<string> => {
      const answer = await harness.browser().send('POST', '/api/set-up', { ...SET_UP, password });
      return ((await answer.json()) as { code?: string }).code ?? 'taken';
    };
    for (const bad of ['password1234', 'qwertyqwerty', '123456789012', 'aaaaaaaaaaaa', 'harbour keeper'])
      expect([bad, await set(bad)]).toEqual([bad, 'weak-password']);
    expect(await set('saltmarsh2026')).toBe('weak-password');
    expect(await set(SET_UP.password)).toBe('taken');
  });
});

describe('an address', () => {
  it('is the proxy’s word where there is one, and otherwise the connection’s', () => {
    const of = (remoteAddress: string, forwarded: string, proxied: boolean): string =>
      addressOf(
        {
          env: { incoming: { socket: { remoteAddress } } },
          req: { header: () => forwarded },
        } as never,
        proxied,
      );
    expect(of('192.0.2.1', '198.51.100.7, 203.0.113.5', false)).toBe('192.0.2.1');
    expect(of('127.0.0.1', '198.51.100.7, 203.0.113.5', true)).toBe('203.0.113.5');
    expect(of('::ffff:192.0.2.1', '', false)).toBe('192.0.2.1');
    expect(of('2001:db8:1:2:3:4:5:6', '', false)).toBe(of('2001:db8:1:2:ffff::9', '', false));
    expect(of('2001:db8:1:2:3:4:5:6', '', false)).not.toBe(of('2001:db8:1:3::1', '', false));
    expect(of('127.0.0.1', 'nonsense', true)).toBe('unknown');
  });

  it('of Vane is one of its names or in numbers; any other name is answered with nothing of Vane', async () => {
    const names = new Set(['vane.example']);
    for (const host of ['vane.example', 'vane.example:8263', '127.0.0.1:8263', '[::1]:8263', '192.168.1.5'])
      expect([host, isOwnHost(host, names)]).toEqual([host, true]);
    for (const host of ['evil.example', 'vane.example.evil.example', '', 'a b', '127.0.0.1.evil.example'])
      expect([host, isOwnHost(host, names)]).toEqual([host, false]);
    const browser = harness.browser();
    await setUp(browser);
    const answer = await browser.get('/api/me', { host: 'evil.example' });
    expect([answer.status, ((await answer.json()) as { code: string }).code]).toEqual([421, 'wrong-host']);
    expect((await browser.get('/api/me', { host: 'vane.example' })).status).toBe(200);
  });
});

it('no statement is prepared by name: a pooler that gives out connections by the transaction has it nowhere', async () => {
  await signIn(harness.browser());
  await signIn(harness.browser(), { password: 'wrong' });
  const knex = harness.orm.em.getConnection().getKnex();
  const named = await Promise.all(
    Array.from(
      { length: 4 },
      async () => (await knex.raw<{ rows: object[] }>('select name from pg_prepared_statements')).rows,
    ),
  );
  expect(named.flat()).toEqual([]);
});

describe('what has had its time', () => {
  it('goes, and what is still of use stays', async () => {
    const browser = harness.browser();
    const { path } = await setUp(browser);
    await browser.send('POST', `${path}/screens`, {});
    await browser.send('POST', '/api/forgotten', { email: SET_UP.email });
    await harness.posted(1);
    await signIn(harness.browser(), { password: 'wrong' });
    const em = harness.orm.em.fork();
    const counts = async (): Promise<Record<string, number>> => {
      const tables = ['sign_in', 'adult_link', 'rate_limit', 'known_device', 'screen', 'audit'];
      const [row] = await em.execute<Record<string, number>[]>(
        `select ${tables.map((table) => `(select count(*)::int from ${table}) as ${table}`).join(', ')}`,
      );
      return row!;
    };
    await signIn(harness.browser());
    const before = await counts();
    for (const [table, count] of Object.entries(before)) expect([table, count > 0]).toEqual([table, true]);
    await trim(em, harness.clock);
    expect(await counts()).toEqual(before);
    const inDays = (days: number): Date => new Date(harness.clock.getTime() + days * 86_400_000);
    // Counts of tries go by the machine's own clock, which may be later than the test's.
    await em.execute('update rate_limit set expire = ?', [inDays(1).getTime()]);
    await trim(em, inDays(2));
    expect(await counts()).toEqual({
      ...before,
      sign_in: 0,
      adult_link: 0,
      rate_limit: 0,
      screen: 0,
    });
    // A clock that is years ahead for one start takes nothing that could not be missed.
    await trim(em, inDays(800));
    expect(await counts()).toMatchObject({ known_device: before['known_device'], audit: before['audit'] });
    for (let days = 60; days <= 800; days += 60) await trim(em, inDays(days));
    await trim(em, inDays(800));
    expect(await counts()).toMatchObject({ known_device: 0, audit: 0 });
  });
});
