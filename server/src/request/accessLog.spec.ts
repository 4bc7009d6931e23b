import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setUp, startHarness, type Harness } from '../testing/harness';
import { Metrics } from './metrics';
import { pino } from 'pino';

describe('what the server writes down of its answers', () => {
  let harness: Harness;
  let folder: string;
  const lines: string[] = [];
  const metrics = new Metrics(null);
  beforeAll(async () => {
    // With the pages, whose route is for every path.
    folder = mkdtempSync(join(tmpdir(), 'vane-pages-'));
    writeFileSync(join(folder, 'index.html'), '<vane-root></vane-root>');
    harness = await startHarness({
      webRoot: folder,
      metrics,
      log: pino({ level: 'info' }, { write: (line) => void lines.push(line) }),
    });
  });
  afterAll(async () => {
    await harness.close();
    rmSync(folder, { recursive: true });
  });

  it('is the pattern of the route, how it went and how long it took: nobody’s name, id or address', async () => {
    const browser = harness.browser();
    const { path, children } = await setUp(browser);
    lines.length = 0;
    const answer = await browser.get(`${path}/children/${children.get('Ivo')}?until=2026-11-01`, {
      'x-request-id': 'Ivo',
    });
    await browser.get(`${path}/children/nobody`);
    expect(lines.map((line) => JSON.parse(line) as object)).toMatchObject([
      {
        method: 'GET',
        route: '/api/classes/:classId/children/:childId',
        status: 200,
        requestId: answer.headers.get('x-request-id'),
      },
      { method: 'GET', route: '/api/classes/:classId/children/:childId', status: 404 },
    ]);
    const [, , , , classId = ''] = path.split('/');
    for (const secret of ['Ivo', children.get('Ivo') ?? '', classId, 'keeper@saltmarsh.example', '2026-11-01'])
      if (secret !== '') expect(lines.join('')).not.toContain(secret);
  });

  it('is counted by route and status, for whoever looks after the machine', async () => {
    const told = await metrics.answer(new Request('http://127.0.0.1/metrics'));
    expect(told.headers.get('content-type')).toContain('text/plain');
    const text = await told.text();
    expect(text).toContain(
      'vane_answer_seconds_count{method="GET",route="/api/classes/:classId/children/:childId",status="404"} 1',
    );
    expect(text).toContain('process_cpu_seconds_total');
    expect((await metrics.answer(new Request('http://127.0.0.1/'))).status).toBe(404);
  });
});
