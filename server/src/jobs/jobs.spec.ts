import { pino } from 'pino';
import type { ClassReadings } from '@vane/contract';
import { judgeHere, type Judge } from '../threads/judgeThreads';
import { setUp, startHarness, type Harness } from '../testing/harness';
import { rowFor, SITTING } from '../testing/rows';
import { Judging } from '../judging/judging';
import { workOf } from '../work';
import { BossJobs, type Work } from './bossJobs';

const KEY = { schoolId: '0197c000-0000-7000-8000-000000000001', classId: '0197c000-0000-7000-8000-000000000002' };
const OTHER = { ...KEY, classId: '0197c000-0000-7000-8000-000000000003' };
const later = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

let harness: Harness;
const opened: BossJobs[] = [];
async function open(work: Work | null): Promise<BossJobs> {
  const url = harness.orm.config.get('clientUrl') ?? '';
  const jobs = await BossJobs.open(url, pino({ level: 'silent' }), work);
  opened.push(jobs);
  return jobs;
}
beforeEach(async () => {
  harness = await startHarness();
});
afterEach(async () => {
  await Promise.all(opened.splice(0).map((jobs) => jobs.close()));
  await harness.orm.em.fork().execute('drop schema if exists vane_jobs cascade');
  await harness.close();
});

/** What is neither done nor given up. */
const jobsLeft = (): Promise<object[]> =>
  harness.orm.em
    .fork()
    .execute("select name, state from vane_jobs.job where name = 'judge' and state in ('created', 'retry', 'active')");

/** Work that is counted, and goes on as it is told. */
function counted(act: (key: string) => Promise<void> = () => Promise.resolve()): { done: string[]; work: Work } {
  const done: string[] = [];
  return {
    done,
    work: {
      judge: async ({ classId }) => {
        done.push(classId);
        await act(classId);
      },
    },
  };
}

async function until(true_: () => boolean, ms = 20_000): Promise<void> {
  for (const end = Date.now() + ms; !true_(); await later(20)) if (Date.now() > end) throw new Error('never');
}

// The queue is asked every few seconds: most of this is waiting.
describe('work that any server can take @long', () => {
  it('is asked for by one process and done once by another, however often it is asked for before it begins', async () => {
    const asking = await open(null);
    for (let i = 0; i < 5; i++) asking.ask('judge', KEY);
    asking.ask('judge', OTHER);
    await later(300);
    asking.ask('judge', KEY);
    await later(300);
    const { done, work } = counted();
    await open(work);
    await until(() => done.length === 2);
    // As long as the queue takes to be asked again.
    await later(1500);
    expect(done.sort()).toEqual([KEY.classId, OTHER.classId]);
  });

  it('that comes while the same is being done is done afterwards', async () => {
    const asking = await open(null);
    let go = (): void => undefined;
    const held = new Promise<void>((resolve) => (go = resolve));
    const { done, work } = counted(() => held);
    await open(work);
    asking.ask('judge', KEY);
    await until(() => done.length === 1);
    asking.ask('judge', KEY);
    // While it is being done, and not beside it.
    await later(1500);
    expect(done).toEqual([KEY.classId]);
    go();
    await until(() => done.length === 2);
    await later(1500);
    expect(done).toEqual([KEY.classId, KEY.classId]);
  });

  it('is taken by another where its worker is lost, and at once where somebody asks again', async () => {
    const asking = await open(null);
    asking.ask('judge', KEY);
    await later(300);
    // As a worker leaves it that was killed when it had begun, a minute ago.
    await harness.orm.em
      .fork()
      .execute("update vane_jobs.job set state = 'active', started_on = now() - interval '59 s'");
    const { done, work } = counted();
    await open(work);
    asking.ask('judge', KEY);
    await until(() => done.length === 1, 3000);
    const first = Date.now();
    await until(() => done.length === 2, 30_000);
    expect(done).toEqual([KEY.classId, KEY.classId]);
    // What was lost is found when it is overdue, and not before.
    expect(Date.now() - first).toBeGreaterThan(500);
    // It is ticked off a moment after it was done.
    for (let tries = 0; tries < 100 && (await jobsLeft()).length > 0; tries++) await later(50);
    expect(await jobsLeft()).toEqual([]);
  }, 40_000);

  it('that ends after its server had to stop is nobody’s error, and is done again by another', async () => {
    let end = (): void => undefined;
    const { done, work } = counted(() => new Promise<void>((ended) => (end = ended)));
    const heard: unknown[] = [];
    const log = pino({ level: 'warn' }, { write: (line) => void heard.push(line) });
    const unhandled = (error: unknown): void => void heard.push(error);
    process.on('unhandledRejection', unhandled);
    const url = harness.orm.config.get('clientUrl') ?? '';
    const stopping = await BossJobs.open(url, log, work);
    stopping.ask('judge', KEY);
    await until(() => done.length === 1);
    await stopping.close();
    end();
    await later(300);
    process.off('unhandledRejection', unhandled);
    expect(heard).toEqual([]);
    expect(await jobsLeft()).toHaveLength(1);
  });

  it('is tried again when it fails, later and later, and says which try is the last', async () => {
    const asking = await open(null);
    const lasts: boolean[] = [];
    await open({
      judge: (_, { last }) => {
        lasts.push(last);
        return Promise.reject(new Error('a child’s answer'));
      },
    });
    asking.ask('judge', KEY);
    await until(() => lasts.length === 4, 40_000);
    expect(lasts).toEqual([false, false, false, true]);
    const rows: { output: unknown }[] = await harness.orm.em.fork().execute('select output from vane_jobs.job');
    expect(JSON.stringify(rows)).not.toContain('answer');
  }, 60_000);
});

describe('readings', () => {
  it('of a class are learned once, whoever wants them at the same time', async () => {
    const learned: number[] = [];
    const judge: Judge = {
      ...judgeHere,
      learn: async (responses) => {
        learned.push(responses.length);
        await later(100);
        return judgeHere.learn(responses);
      },
    };
    const browser = harness.browser();
    const { path, children, classId } = await setUp(browser);
    await browser.send('POST', `${path}/record`, {
      sittings: [SITTING],
      responses: [rowFor(children.get('Odo') ?? '')],
    });
    const [school] = await harness.orm.em.fork().execute<{ id: string }[]>('select id from school');
    const key = { schoolId: school?.id ?? '', classId };
    const judging = new Judging({ orm: harness.orm, judge, now: () => harness.clock });
    const both = await Promise.all([1, 2].map(() => judging.basis(harness.orm.em.fork(), key)));
    expect(learned).toEqual([1]);
    expect(both[0]?.fittedAt).toEqual(both[1]?.fittedAt);
  });

  it('are shown as they are while they are judged elsewhere, and nobody waits', async () => {
    let go = (): void => undefined;
    const held = new Promise<void>((resolve) => (go = resolve));
    const judge: Judge = { ...judgeHere, judge: (...all) => held.then(() => judgeHere.judge(...all)) };
    const jobs = await open(
      workOf({ database: harness.database, judge, now: () => harness.clock, backups: null, post: null }),
    );
    const web = await harness.another({ jobs });
    const browser = web.browser();
    const { path, children } = await setUp(browser);
    const readings = async (): Promise<ClassReadings> =>
      (await (await browser.get(`${path}/readings`)).json()) as ClassReadings;
    expect(await readings()).toMatchObject({ judging: 'done', readings: [] });
    await browser.send('POST', `${path}/record`, {
      sittings: [SITTING],
      responses: [rowFor(children.get('Odo') ?? '')],
    });
    expect(await readings()).toMatchObject({ judging: 'under-way', readings: [] });
    go();
    let now = await readings();
    for (let tries = 0; now.judging !== 'done' && tries < 200; tries++) {
      await later(50);
      now = await readings();
    }
    expect(now.readings).toHaveLength(1);
    await web.close();
  });

  it('that could not be judged are told of, to the lead too, and tried again after a minute', async () => {
    let broken = true;
    const judge: Judge = {
      ...judgeHere,
      judge: (...all) => (broken ? Promise.reject(new Error('broken')) : judgeHere.judge(...all)),
    };
    const own = await startHarness({ judge });
    const browser = own.browser();
    const { path, children } = await setUp(browser);
    await browser.send('POST', `${path}/record`, {
      sittings: [SITTING],
      responses: [rowFor(children.get('Odo') ?? '')],
    });
    const readings = async (): Promise<ClassReadings> =>
      (await (await browser.get(`${path}/readings`)).json()) as ClassReadings;
    const work = async (): Promise<unknown> => (await browser.get('/api/school/work')).json();
    expect(await readings()).toMatchObject({ judging: 'failed', readings: [] });
    expect(await work()).toMatchObject([{ className: 'Sandpiper', what: 'judge', state: 'failed' }]);
    // A file is not made from what is not there.
    expect((await browser.get(`${path}/readings.csv`)).status).toBe(500);
    broken = false;
    expect(await readings()).toMatchObject({ judging: 'failed' });
    own.clock = new Date(own.clock.getTime() + 61_000);
    expect(await readings()).toMatchObject({ judging: 'done' });
    expect(await work()).toEqual([]);
    await own.close();
  });
});
