import { toResponse, type OlderWeek, type OverTime } from '@vane/contract';
import { MODEL_VERSION, placeOf, type ReadingWord } from '@vane/core';
import type { InferEntity } from '@mikro-orm/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { ClassKey } from '../db/keys';
import type { Deps } from '../request/context';
import { WeekReading } from '../db/entities';
import { recordOf } from '../record/store';
import { dateStarts } from '../db/timeZone';
import type { Readings } from './readings';
import { classOrChild, type Which } from '../db/keys';
import { logged } from '../problems/logged';

const WEEK_DAYS = 7;

interface WantedWeek {
  readonly child: string;
  /** The Monday, YYYY-MM-DD. */
  readonly week: string;
  readonly fingerprint: string;
}

/**
 * What the record said at the end of each past week in which a child was asked: judged from the answers until then, as if nothing had come after, and kept with a
 * fingerprint of them. A year of a class is a thousand judgements: they are made in the background, and whoever asks is told how many are still to come.
 */
export class Weeks {
  /** Classes at work just now; a failure is told to the next who asks. */
  readonly #atWork = new Map<string, Promise<void>>();
  readonly #failed = new Map<string, Error>();
  #closed = false;

  constructor(
    private readonly deps: Pick<Deps, 'orm' | 'judge' | 'log'>,
    private readonly readings: Readings,
  ) {}

  /** Waits for the week that is being judged; what is left is judged when somebody asks again. */
  async close(): Promise<void> {
    this.#closed = true;
    await Promise.all(this.#atWork.values());
  }

  async of(which: Which): Promise<OverTime> {
    const name = `${which.schoolId}/${which.classId}/${which.childId ?? ''}`;
    const failure = this.#failed.get(name);
    this.#failed.delete(name);
    if (failure !== undefined) throw failure;
    const em = this.deps.orm.em.fork();
    const { wanted, stored } = await this.#state(em, which);
    const current = stored.flatMap(({ help, ...w }) =>
      // A week from before places were kept is made again.
      help && wanted.get(`${w.childId} ${w.week}`)?.fingerprint === w.fingerprint ? [{ ...w, help }] : [],
    );
    for (const w of current) wanted.delete(`${w.childId} ${w.week}`);
    if (wanted.size > 0 && !this.#atWork.has(name)) {
      const before = new Map(stored.map((w) => [`${w.childId} ${w.week}`, w]));
      const work = this.#judge(
        which,
        [...wanted.values()].map((w) => ({ ...w, older: olderOf(before.get(`${w.child} ${w.week}`), w.fingerprint) })),
      )
        .catch((error: unknown) => {
          this.deps.log.error({ error: logged(error), classId: which.classId }, 'past weeks could not be judged');
          this.#failed.set(name, error instanceof Error ? error : new Error(String(error)));
        })
        .finally(() => this.#atWork.delete(name));
      this.#atWork.set(name, work);
    }
    const weeks = current.map((w) => ({
      child: w.childId,
      week: w.week,
      words: w.words,
      workingNumber: w.workingNumber ?? null,
      help: w.help,
      older: w.older ?? null,
    }));
    return { weeks, pending: wanted.size };
  }

  async #state(em: EntityManager, which: Which) {
    const { settings } = await this.readings.basis(em, which);
    const wanted = new Map(
      (await weeksAsked(em, which, settings.timeZone, [MODEL_VERSION, settings])).map((w) => [
        `${w.child} ${w.week}`,
        w,
      ]),
    );
    const stored = await em.find(
      WeekReading,
      { ...which },
      { orderBy: { week: 'asc', childId: 'asc' }, disableIdentityMap: true },
    );
    return { wanted, stored };
  }

  async #judge(
    { schoolId, classId }: ClassKey,
    wanted: readonly (WantedWeek & { readonly older: OlderWeek | null })[],
  ): Promise<void> {
    const em = this.deps.orm.em.fork();
    const { values, settings } = await this.readings.basis(em, { schoolId, classId });
    for (const child of new Set(wanted.map((w) => w.child))) {
      const responses = (await recordOf(em, { schoolId, classId, childId: child })).map(toResponse);
      for (const { week, fingerprint, older } of wanted.filter((w) => w.child === child)) {
        if (this.#closed) return;
        const end = dateStarts(week, settings.timeZone, WEEK_DAYS).getTime();
        const [judged] = await this.deps.judge.judge(
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
  }
}

/** Parts of a fingerprint, as `weeksAsked` makes it: the version of the judgement first. */
const partsOf = (fingerprint: string): unknown[] => JSON.parse(fingerprint) as unknown[];

/** What an older version of the judgement said of the same answers by the same settings: so that a new version can be told apart from a child who moved. */
function olderOf(stored: InferEntity<typeof WeekReading> | undefined, fingerprint: string): OlderWeek | null {
  if (!stored) return null;
  const [[was, ...before], [is, ...now]] = [partsOf(stored.fingerprint), partsOf(fingerprint)];
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
