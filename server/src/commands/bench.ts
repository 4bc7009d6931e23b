import {
  answersUntil,
  classValues,
  CONDITIONS,
  DEFAULT_READING_SETTINGS,
  judgeChild,
  judgeChildren,
  judgeClass,
  makeChild,
  planDay,
  seeded,
  type Condition,
} from '@vane/core';
import { toRow } from '@vane/contract';
import { v7 } from 'uuid';
import { addChildren } from '../classes/children';
import { Child, School, SchoolClass } from '../db/entities';
import { openDatabase } from '../db/orm';
import { addToRecord } from '../record/store';
import { classOf, UNTIL } from './benchClass';
import { planFigures } from './benchPlan';
import { quality, wordsOverWeeks } from './benchQuality';
import { capacityFigures } from './benchSchools';

/** Measures what runs on the server and prints the figures as one line of JSON; scripts/bench.mjs adds the browser's and writes them down. */
const SEEDS = [7, 19, 31, 43];
const OPTIONS = { settings: DEFAULT_READING_SETTINGS };

function timed<T>(work: () => T): { ms: number; result: T } {
  const began = performance.now();
  const result = work();
  return { ms: performance.now() - began, result };
}
const middle = (values: readonly number[]): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? 0;

function speed(): object {
  const demo = classOf(7, 24, 6).responses;
  const year = classOf(11, 30, 84).responses;
  judgeClass(demo, OPTIONS);
  const own = demo.filter((r) => r.child === 'child-0');
  const values = classValues(demo);
  const yearMs = timed(() => judgeClass(year, OPTIONS)).ms;
  const peakMb = process.resourceUsage().maxRSS / 1024;
  return {
    demoRows: demo.length,
    demoMs: middle([1, 2, 3].map(() => timed(() => judgeClass(demo, OPTIONS)).ms)),
    yearRows: year.length,
    yearMs,
    yearAgainMs: middle([1, 2, 3].map(() => timed(() => judgeClass(year, OPTIONS)).ms)),
    peakMb,
    childMs: middle(Array.from({ length: 21 }, () => timed(() => judgeChild('child-0', own, values, OPTIONS)).ms)),
  };
}

const SETTLING = CONDITIONS;
const SETTLING_CHILDREN = 12;
/** Enough for nearly every child: where many have not settled by then, both ways look alike. */
const MOST_ANSWERS = 320;

/** Answers needed until nine tenths of the facts within ten are read rightly, planned and shuffled. */
function settling(condition: Condition): object {
  const of = (chosen: 'planned' | 'shuffled'): object => {
    const needed = Array.from({ length: SETTLING_CHILDREN }, (_, i) => {
      const child = makeChild(`child-${i}`, condition, seeded(SEEDS[0]! * 1009 + i));
      return answersUntil(child, chosen, seeded(i), 0.9, MOST_ANSWERS);
    });
    return {
      middle: middle(needed),
      mean: needed.reduce((a, b) => a + b, 0) / needed.length,
      open: needed.filter((n) => n >= MOST_ANSWERS).length,
    };
  };
  return {
    condition,
    children: SETTLING_CHILDREN,
    most: MOST_ANSWERS,
    planned: of('planned'),
    shuffled: of('shuffled'),
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
  const sittings = simulated.sittings.map((s) => ({
    id: s.id,
    routine: 'bench',
    started_at: now.toISOString(),
    answer_mode: s.answerMode,
    settings: null,
  }));
  await addToRecord(em, { key, sittings, responses: [] }, now);
  const rows = simulated.responses.map((r) => ({ ...toRow(r), child: ids.get(r.child) ?? '' }));
  const batches = Array.from({ length: Math.ceil(rows.length / 200) }, (_, i) => rows.slice(i * 200, (i + 1) * 200));
  const connection = em.getConnection();
  const rate = (ms: number): number => (1000 * rows.length) / ms;
  const clear = async (): Promise<void> =>
    void (await connection.execute('delete from response where school_id = ?', [key.schoolId], 'run'));

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
    for (const batch of batches)
      await orm.em.fork().transactional((tx) => addToRecord(tx, { key, sittings: [], responses: batch }, now));
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

/** Children of a class and the weeks they were asked for: once, ten and a hundred times each. */
const SIZES = [
  [3, 8],
  [30, 8],
  [300, 8],
  [30, 1],
  [30, 84],
] as const;

/** What judging and planning cost as classes and records grow. */
function growth(): object {
  judgeClass(classOf(7, 24, 6).responses, OPTIONS);
  const sizes = SIZES.map(([children, weeks]) => {
    const { responses } = classOf(11, children, weeks);
    const learned = timed(() => classValues(responses));
    const all = timed(() => judgeChildren(responses, learned.result, OPTIONS));
    const own = responses.filter((r) => r.child === 'child-0');
    const asked = new Map<string, Map<string, number>>();
    for (const r of responses)
      asked.set(r.child, (asked.get(r.child) ?? new Map<string, number>()).set(r.fact, r.shownAt));
    const day = all.result.map(({ estimate: { child, halfLifeDays }, readings }) => {
      const lastAsked = asked.get(child) ?? new Map<string, number>();
      return { child, readings, lastAsked, lastAskedAt: Math.max(...lastAsked.values()), halfLife: halfLifeDays };
    });
    return {
      children,
      answers: Math.round(responses.length / children),
      responses: responses.length,
      classMs: learned.ms,
      allMs: all.ms,
      childMs: middle(
        Array.from({ length: 9 }, () => timed(() => judgeChild('child-0', own, learned.result, OPTIONS)).ms),
      ),
      planMs: timed(() =>
        planDay({ children: day, now: UNTIL, timeZone: 'UTC', aim: 'practise', adults: 1, minutes: 20, group: 4 }),
      ).ms,
    };
  });
  return { sizes };
}

function databaseUrl(): string {
  const url = process.env['DATABASE_URL'];
  if (!url) throw new Error('DATABASE_URL is not set: use "npm run bench"');
  return url;
}

const readings = async (): Promise<object> => ({ speed: speed(), ingest: await ingest(databaseUrl()) });

const PARTS: Readonly<Record<string, () => object | Promise<object>>> = {
  readings,
  growth,
  plan: planFigures,
  capacity: () => capacityFigures(databaseUrl()),
  quality: () => ({ quality: quality(), words: wordsOverWeeks() }),
  settling: () => SETTLING.map(settling),
};
const report = await PARTS[process.argv[2] ?? 'readings']!();
process.stdout.write(`${JSON.stringify(report)}\n`);
