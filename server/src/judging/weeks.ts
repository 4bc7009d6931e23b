import { toResponse, type OlderWeek, type OverTime } from '@vane/contract';
import { MODEL_VERSION, placeOf, type ReadingSettings, type ReadingWord } from '@vane/core';
import type { InferEntity } from '@mikro-orm/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { WeekReading } from '../db/entities';
import { classOrChild, type Which } from '../db/keys';
import { oneAtATime } from '../db/oneAtATime';
import { dateStarts } from '../db/timeZone';
import { keyOf } from '../jobs/jobs';
import { RequestProblem } from '../problems/problem';
import { recordOf } from '../record/store';
import type { Deps } from '../request/context';
import { settingsOf } from './basis';
import { failedJustNow } from './failures';
import type { Judging, JudgingDeps } from './judging';

/** Longest time one job judges past weeks, ms. */
const SLICE_MS = 4000;
const WEEK_DAYS = 7;

interface WantedWeek {
  readonly child: string;
  /** The Monday, YYYY-MM-DD. */
  readonly week: string;
  readonly fingerprint: string;
}

/**
 * What the record said at the end of each past week in which a child was asked: judged from the answers until then, as if nothing had come after, and kept with a
 * fingerprint of them. A year of a class is a thousand judgements: they are made elsewhere, and whoever asks is told how many are still to come.
 */
export class Weeks {
  constructor(private readonly deps: Pick<Deps, 'database' | 'jobs' | 'now'>) {}

  async of(which: Which): Promise<OverTime> {
    const em = await this.deps.database.readers.em();
    const { current, behind } = await stateOf(em, which, await settingsOf(em, which));
    if (behind.length > 0) {
      if (await failedJustNow(em, which, 'weeks', this.deps.now())) throw new RequestProblem('not-judged');
      this.deps.jobs.ask('weeks', which);
    }
    const weeks = current.map((w) => ({
      child: w.childId,
      week: w.week,
      words: w.words,
      workingNumber: w.workingNumber ?? null,
      help: w.help,
      older: w.older ?? null,
    }));
    return { weeks, pending: behind.length };
  }
}

/** Judges past weeks of a class or of one child that are behind, newest first, for a while. @returns whether any are left; null where another server is at it */
export async function judgeWeeks(deps: JudgingDeps, judging: Judging, which: Which): Promise<boolean | null> {
  let left = false;
  const { schoolId, classId } = which;
  const done = await oneAtATime(deps.orm, `weeks ${keyOf({ schoolId, classId })}`, async () => {
    const em = deps.orm.em.fork();
    const { values, settings } = await judging.basis(em, which);
    const { behind } = await stateOf(em, which, settings);
    const until = performance.now() + SLICE_MS;
    for (const child of new Set(behind.map((w) => w.child))) {
      const responses = (await recordOf(em, { schoolId, classId, childId: child })).map(toResponse);
      for (const { week, fingerprint, older } of behind.filter((w) => w.child === child)) {
        // What comes next may be more urgent, and a server that stops waits no longer than this.
        left = performance.now() > until;
        if (left) return;
        const end = dateStarts(week, settings.timeZone, WEEK_DAYS).getTime();
        const [judged] = await deps.judge.judge(
          responses.filter((r) => r.shownAt < end),
          values,
          { settings },
        );
        const readings = (judged?.readings ?? []).filter((r) => r.responses > 0);
        const words = Object.fromEntries(readings.map((r): [string, ReadingWord] => [r.fact, r.reading]));
        const place = placeOf(readings);
        await em.upsert(WeekReading, {
          schoolId,
          childId: child,
          week,
          classId,
          fingerprint,
          words,
          workingNumber: place.number,
          help: place.help,
          older,
        });
        em.clear();
      }
    }
  });
  return done ? left : null;
}

/** Weeks that are kept as they have to be, and those that are behind. */
async function stateOf(em: EntityManager, which: Which, settings: ReadingSettings) {
  const wanted = new Map(
    (await weeksAsked(em, which, settings.timeZone, [MODEL_VERSION, settings])).map((w) => [`${w.child} ${w.week}`, w]),
  );
  const stored = await em.find(
    WeekReading,
    { ...which },
    { orderBy: { week: 'asc', childId: 'asc' }, disableIdentityMap: true },
  );
  const before = new Map(stored.map((w) => [`${w.childId} ${w.week}`, w]));
  const current = stored.flatMap(({ help, ...w }) =>
    // A week from before places were kept is made again.
    help && wanted.get(`${w.childId} ${w.week}`)?.fingerprint === w.fingerprint ? [{ ...w, help }] : [],
  );
  for (const w of current) wanted.delete(`${w.childId} ${w.week}`);
  const behind = [...wanted.values()].map((w) => ({
    ...w,
    older: olderOf(before.get(`${w.child} ${w.week}`), w.fingerprint),
  }));
  return { current, behind };
}

/** Parts of a fingerprint, as `weeksAsked` makes it: the version of the judgement first. */
const fingerprintParts = (fingerprint: string): unknown[] => JSON.parse(fingerprint) as unknown[];

/** What an older version of the judgement said of the same answers by the same settings: so that a new version can be told apart from a child who moved. */
function olderOf(stored: InferEntity<typeof WeekReading> | undefined, fingerprint: string): OlderWeek | null {
  if (!stored) return null;
  const [[was, ...before], [is, ...now]] = [fingerprintParts(stored.fingerprint), fingerprintParts(fingerprint)];
  if (JSON.stringify(before) !== JSON.stringify(now)) return null;
  if (was === is) return stored.older ?? null;
  return { modelVersion: String(was), workingNumber: stored.workingNumber ?? null, words: stored.words };
}

/** The weeks in which each child was asked, newest first, with what their readings have to be made from. */
async function weeksAsked(
  em: EntityManager,
  which: Which,
  timeZone: string,
  by: readonly unknown[],
): Promise<WantedWeek[]> {
  const { where, values } = classOrChild(which, 'r');
  const rows: { child_id: string; week: string; count: string; corrected: string; last: Date }[] = await em.execute(
    `select r.child_id, to_char(date_trunc('week', r.shown_at at time zone ?), 'YYYY-MM-DD') as week,
       count(distinct r.id) as count, count(c.id) as corrected, max(r.received_at) as last
     from response r left join correction c on c.school_id = r.school_id and c.response_id = r.id
     where ${where} group by 1, 2 order by 1, 2`,
    [timeZone, ...values],
  );
  const weeks: WantedWeek[] = [];
  let so = { child: '', count: 0, corrected: 0, last: 0 };
  for (const row of rows) {
    if (row.child_id !== so.child) so = { child: row.child_id, count: 0, corrected: 0, last: 0 };
    so = {
      child: so.child,
      count: so.count + Number(row.count),
      corrected: so.corrected + Number(row.corrected),
      last: Math.max(so.last, new Date(row.last).getTime()),
    };
    weeks.push({
      child: so.child,
      week: row.week,
      fingerprint: JSON.stringify([...by, so.count, so.corrected, so.last]),
    });
  }
  return weeks.reverse();
}
