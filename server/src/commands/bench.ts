import { auc, brier, calibrationError, DEFAULT_READING_SETTINGS, judgeChild, judgeClass, simulateClass, type Judged01, type SimulatedClass } from '@vane/core';
import { toRow } from '@vane/contract';
import { v7 } from 'uuid';
import { addChildren } from '../classes/children';
import { Child, School, SchoolClass } from '../db/entities';
import { openDatabase } from '../db/orm';
import { addResponses, addSittings } from '../record/store';

/** Measures what runs on the server and prints the figures as one line of JSON; scripts/bench.mjs adds the browser's and writes them down. */
const SEEDS = [7, 19, 31, 43];
const UNTIL = Date.parse('2026-11-25T12:00:00Z');
const OPTIONS = { settings: DEFAULT_READING_SETTINGS };

function classOf(seed: number, children: number, weeks: number): SimulatedClass {
  let made = 0;
  const names = Array.from({ length: children }, (_, i) => `child-${i}`);
  return simulateClass({ seed, names, weeks, until: UNTIL, makeId: () => `r${made++}` });
}

function timed<T>(work: () => T): { ms: number; result: T } {
  const began = performance.now();
  const result = work();
  return { ms: performance.now() - began, result };
}
const middle = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

/** How good the readings are, by seed, shows and number facts apart. */
function quality(seed: number): { seed: number; kind: string; facts: number; brier: number; calibration: number; auc: number }[] {
  const { responses, truth } = classOf(seed, 24, 6);
  const p = new Map(judgeClass(responses, OPTIONS).flatMap(({ readings }) => readings.map((r) => [`${r.child} ${r.fact}`, r.pAutomatic] as const)));
  return ['shows', 'number facts'].map((kind) => {
    const judged = truth
      .filter(({ fact }) => fact.startsWith('show:') === (kind === 'shows'))
      .map(({ child, fact, retrieveShare }): Judged01 => ({ p: p.get(`${child} ${fact}`) ?? 0, truth: retrieveShare >= 0.8 }));
    return { seed, kind, facts: judged.length, brier: brier(judged) ?? NaN, calibration: calibrationError(judged) ?? NaN, auc: auc(judged) ?? NaN };
  });
}

function speed(): object {
  const demo = classOf(7, 24, 6).responses;
  const year = classOf(11, 30, 84).responses;
  judgeClass(demo, OPTIONS);
  const own = demo.filter((r) => r.child === 'child-0');
  const yearMs = timed(() => judgeClass(year, OPTIONS)).ms;
  return {
    demoRows: demo.length,
    demoMs: middle([1, 2, 3].map(() => timed(() => judgeClass(demo, OPTIONS)).ms)),
    yearRows: year.length,
    yearMs,
    peakMb: process.resourceUsage().maxRSS / 1024,
    childMs: middle(Array.from({ length: 21 }, () => timed(() => judgeChild('child-0', own, OPTIONS)).ms)),
  };
}

/** Rows a second through the record's own way in, and through bare prepared inserts of the same rows in the same PostgreSQL, in turn. */
async function ingest(url: string): Promise<{ vane: number; bare: number }> {
  const orm = await openDatabase(url);
  const now = new Date(UNTIL);
  const key = { schoolId: v7(), classId: v7() };
  const em = orm.em.fork();
  await em.insert(School, { id: key.schoolId, name: 'bench', createdAt: now });
  await em.insert(SchoolClass, { schoolId: key.schoolId, id: key.classId, name: 'bench', createdAt: now });
  const simulated = classOf(5, 24, 2);
  await addChildren(em, key, [...new Set(simulated.sittings.map((s) => s.child))], now);
  const ids = new Map((await em.find(Child, key)).map((c) => [c.nickname, c.id]));
  await addSittings(
    em,
    key,
    simulated.sittings.map((s) => ({ id: s.id, routine: 'bench', started_at: now.toISOString(), answer_mode: s.answerMode, settings: null })),
  );
  const rows = simulated.responses.map((r) => ({ ...toRow(r), child: ids.get(r.child) ?? '' }));
  const batches = Array.from({ length: Math.ceil(rows.length / 200) }, (_, i) => rows.slice(i * 200, (i + 1) * 200));
  const connection = em.getConnection();
  const rate = (ms: number): number => (1000 * rows.length) / ms;
  const clear = async (): Promise<void> => void (await connection.execute('delete from response where school_id = ?', [key.schoolId], 'run'));

  const bareOnce = async (): Promise<number> => {
    const began = performance.now();
    for (const r of rows) {
      await connection.execute(
        `insert into response (school_id, id, class_id, child_id, sitting_id, shown_at, kind, fact, answer_mode, exposure_ms, response_ms, given, outcome, observed, aid, void, flags, quality, extra, received_at)
         values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
        // prettier-ignore
        [key.schoolId, r.response_id, key.classId, r.child, r.sitting, r.shown_at, r.kind, r.fact, r.answer_mode, r.exposure_ms, r.response_ms, r.given, r.outcome, r.observed, r.aid, r.void, JSON.stringify(r.flags), null, '{}', now],
        'run',
      );
    }
    return performance.now() - began;
  };
  const vaneOnce = async (): Promise<number> => {
    const began = performance.now();
    for (const batch of batches) await orm.em.fork().transactional((tx) => addResponses(tx, key, batch, now));
    return performance.now() - began;
  };
  const [vane, bare]: [number[], number[]] = [[], []];
  for (let i = 0; i < 3; i++) {
    await clear();
    bare.push(await bareOnce());
    await clear();
    vane.push(await vaneOnce());
  }
  await orm.close();
  return { vane: rate(middle(vane)), bare: rate(middle(bare)) };
}

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set: use "./vane bench"');
const report = { quality: SEEDS.flatMap(quality), speed: speed(), ingest: await ingest(url) };
process.stdout.write(`${JSON.stringify(report)}\n`);
