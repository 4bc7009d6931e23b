import type { OpenedScreen } from '@vane/contract';
import { invited, setUp, startHarness, type Browser, type Harness } from '../testing/harness';

let harness: Harness;
beforeEach(async () => {
  harness = await startHarness();
});
afterEach(() => harness.close());

const make = async (browser: Browser, path: string): Promise<OpenedScreen> =>
  (await (await browser.send('POST', `${path}/screens`, {})).json()) as OpenedScreen;
const pair = (browser: Browser, code: string): Promise<Response> => browser.send('POST', '/api/board/pair', { code });
const tell = (browser: Browser, path: string, seq: number, state: object): Promise<Response> =>
  browser.send('PUT', path, { seq, state });

/** The events of a stream, one after the other. */
async function* events(answer: Response): AsyncGenerator<{ event: string; data: string }> {
  const reader = (answer.body as ReadableStream<Uint8Array>).getReader();
  let text = '';
  for (;;) {
    const { value, done } = await reader.read();
    if (done) return;
    text += new TextDecoder().decode(value);
    for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
      const lines = text.slice(0, end).split('\n');
      text = text.slice(end + 2);
      const field = (name: string): string =>
        lines.find((line) => line.startsWith(`${name}: `))?.slice(name.length + 2) ?? '';
      yield { event: field('event'), data: field('data') };
    }
  }
}

describe('two screens', () => {
  it('are joined from another device by an address and its QR code, where another device can reach this Vane', async () => {
    const alone = await startHarness({ publicUrl: 'http://127.0.0.1:8263' });
    const adult = alone.browser();
    expect((await make(adult, (await setUp(adult)).path)).join).toBeNull();
    await alone.close();
    const room = await startHarness({ publicUrl: 'https://192.168.1.20:8263' });
    const teacher = room.browser();
    const made = await setUp(teacher);
    const { join, code } = await make(teacher, made.path);
    expect(join?.address).toBe('https://192.168.1.20:8263/board');
    expect(join?.qr).toMatch(/^<svg /);
    expect(code).not.toBe('');
    await room.close();
  });

  it('are joined by a code that works once and for ten minutes, and however it is written', async () => {
    const adult = harness.browser();
    const { path } = await setUp(adult);
    const { code } = await make(adult, path);
    expect(code).toMatch(/^[A-HJKMNP-Z2-9]{6}$/);
    const board = harness.browser();
    expect((await board.get('/api/board/stage')).status).toBe(401);
    expect((await pair(board, 'WRONG1')).status).toBe(401);
    expect((await pair(board, ` ${code.slice(0, 3).toLowerCase()}-${code.slice(3)} `)).status).toBe(204);
    expect((await board.get('/api/board/stage')).status).toBe(200);
    expect((await pair(harness.browser(), code)).status).toBe(401);
    const late = await make(adult, path);
    harness.clock = new Date(harness.clock.getTime() + 10 * 60_000 + 1);
    expect((await pair(harness.browser(), late.code)).status).toBe(401);
  });

  it('cannot be found by trying codes, and who tries keeps no board elsewhere from its code', async () => {
    const adult = harness.browser();
    const { path } = await setUp(adult);
    const { code } = await make(adult, path);
    const tries: number[] = [];
    for (let i = 0; i < 32; i++) tries.push((await pair(harness.browser(), `TRY${100 + i}`)).status);
    expect(tries.slice(-2)).toEqual([429, 429]);
    expect((await pair(harness.browser(), code)).status).toBe(429);
    expect((await pair(harness.browser('198.51.100.2'), code)).status).toBe(204);
  });

  it('give the board nothing but its own sitting', async () => {
    const adult = harness.browser();
    const { path, children } = await setUp(adult);
    const { id, code } = await make(adult, path);
    const board = harness.browser();
    await pair(board, code);
    for (const closed of [
      '/api/me',
      path,
      `${path}/log`,
      `${path}/children/${children.get('Odo')}`,
      `${path}/screens/${id}/events`,
      '/api/school',
    ])
      expect([closed, (await board.get(closed)).status]).toEqual([closed, 401]);
    expect((await tell(board, `${path}/screens/${id}`, 1, {})).status).toBe(401);
    const other = harness.browser();
    expect((await tell(other, `${path}/screens/${id}`, 1, {})).status).toBe(401);
  });

  it('hear each other at once, the newest state alone, and again after the link was away', async () => {
    const adult = harness.browser();
    const { path } = await setUp(adult);
    const { id, code } = await make(adult, path);
    const board = harness.browser();
    await pair(board, code);
    const there = events(await board.get('/api/board/events'));
    const here = events(await adult.get(`${path}/screens/${id}/events`));
    const next = async (from: typeof there): Promise<unknown> => {
      const found = await from.next();
      return JSON.parse((found.value as { data: string }).data);
    };
    await tell(adult, `${path}/screens/${id}`, 3, { trial: 1 });
    expect(await next(there)).toEqual({ seq: 3, state: { trial: 1 } });
    // What comes late or twice changes nothing.
    await tell(adult, `${path}/screens/${id}`, 2, { trial: 0 });
    await tell(adult, `${path}/screens/${id}`, 3, { trial: 9 });
    await tell(adult, `${path}/screens/${id}`, 4, { trial: 2 });
    expect(await next(there)).toEqual({ seq: 4, state: { trial: 2 } });
    await tell(board, '/api/board/stage', 1, { news: ['shown'] });
    expect(await next(here)).toEqual({ seq: 1, state: { news: ['shown'] } });
    await there.return(undefined);
    const again = events(await board.get('/api/board/events'));
    expect(await next(again)).toEqual({ seq: 4, state: { trial: 2 } });
    expect((await adult.send('DELETE', `${path}/screens/${id}`, {})).status).toBe(204);
    expect((await again.next()).value).toEqual({ event: 'ended', data: '' });
    expect((await tell(board, '/api/board/stage', 2, {})).status).toBe(401);
  });

  it('hear each other across two servers on one database', async () => {
    const adult = harness.browser();
    const { path } = await setUp(adult);
    const { id, code } = await make(adult, path);
    const other = await harness.another();
    const board = other.browser();
    await pair(board, code);
    const there = events(await board.get('/api/board/events'));
    await tell(adult, `${path}/screens/${id}`, 1, { trial: 1 });
    expect((await there.next()).value).toMatchObject({ event: 'state', data: '{"seq":1,"state":{"trial":1}}' });
    await other.close();
  });

  it('of another class cannot be written to, followed or ended, though the id is known', async () => {
    const lead = harness.browser();
    const { path } = await setUp(lead);
    const { id } = (await (await lead.send('POST', '/api/school/classes', { name: 'Curlew' })).json()) as {
      id: string;
    };
    const other = `/api/classes/${id}`;
    const screen = await make(lead, path);
    await tell(lead, `${path}/screens/${screen.id}`, 1, { trial: 1 });
    expect((await tell(lead, `${other}/screens/${screen.id}`, 2, { trial: 9 })).status).toBe(404);
    expect((await lead.send('DELETE', `${other}/screens/${screen.id}`, {})).status).toBe(404);
    const board = harness.browser();
    await pair(board, screen.code);
    await tell(board, '/api/board/stage', 1, { news: ['shown'] });
    const there = events(await lead.get(`${other}/screens/${screen.id}/events`));
    expect((await there.next()).value).toEqual({ event: 'ended', data: '' });
    const here = events(await lead.get(`${path}/screens/${screen.id}/events`));
    expect((await here.next()).value).toMatchObject({ event: 'state' });
  });

  it('are followed no longer than the class is the adult’s, and not on a locked device', async () => {
    const lead = harness.browser();
    const { path, classId } = await setUp(lead);
    const tern = await lead.send('POST', '/api/school/classes', { name: 'Tern' });
    const { id: other } = (await tern.json()) as { id: string };
    const mate = await invited(harness, lead, { classes: [classId, other] });
    const { adult } = (await (await mate.get('/api/me')).json()) as { adult: { id: string } };
    const { id, code } = await make(lead, path);
    const board = harness.browser();
    await pair(board, code);
    await tell(board, '/api/board/stage', 1, { news: [] });
    const [theirs, own] = await Promise.all(
      [mate, lead].map(async (who) => events(await who.get(`${path}/screens/${id}/events`))),
    );
    for (const stream of [theirs!, own!]) expect((await stream.next()).value).toMatchObject({ event: 'state' });
    await lead.send('PUT', `/api/school/adults/${adult.id}`, { classes: [other] });
    expect((await theirs!.next()).value).toMatchObject({ event: 'ended' });
    await lead.send('PUT', '/api/me/pin', { pin: '4711' });
    await tell(board, '/api/board/stage', 2, { news: [] });
    expect((await own!.next()).value).toMatchObject({ event: 'state' });
    await lead.send('POST', '/api/me/lock', {});
    expect((await own!.next()).value).toMatchObject({ event: 'ended' });
  });

  it('are followed no longer than the sign-in lasts', async () => {
    const adult = harness.browser();
    const { path } = await setUp(adult);
    const { id, code } = await make(adult, path);
    const board = harness.browser();
    await pair(board, code);
    await tell(board, '/api/board/stage', 1, { news: [] });
    const here = events(await adult.get(`${path}/screens/${id}/events`));
    expect((await here.next()).value).toMatchObject({ event: 'state' });
    await adult.send('POST', '/api/me/sign-out-everywhere', {});
    expect((await here.next()).value).toEqual({ event: 'ended', data: '' });
    expect((await here.next()).done).toBe(true);
  });
});
