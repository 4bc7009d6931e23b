import pg from 'pg';
import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import { setTimeout as wait } from 'node:timers/promises';
import { isDatabaseDown } from '../problems/databaseDown';
import { logged } from '../problems/logged';
import { JOBS_SCHEMA, keyOf, type JobData, type JobName, type Jobs, type WorkUnderWay } from './jobs';

/** How each kind of work is done: for how long at most, how soon it is looked for, how often it is tried again, and when it is done by itself. */
interface Terms {
  /** Work that is not done by then was its worker's last: another takes it, s. */
  readonly longest: number;
  readonly lookEvery: number;
  readonly tries: number;
  readonly cron?: string;
}
const TERMS: Readonly<Record<JobName, Terms>> = {
  judge: { longest: 60, lookEvery: 0.5, tries: 3 },
  weeks: { longest: 60, lookEvery: 1, tries: 3 },
  // A post that is away for a quarter of an hour loses nothing.
  letter: { longest: 60, lookEvery: 0.5, tries: 8 },
  trim: { longest: 900, lookEvery: 10, tries: 2, cron: '23 * * * *' },
  count: { longest: 3600, lookEvery: 10, tries: 2, cron: '41 3 * * *' },
  backup: { longest: 3600, lookEvery: 10, tries: 2, cron: '*/10 * * * *' },
};
const NAMES = Object.keys(TERMS) as JobName[];
/** Before the first of the tries that follow a failure, s; each later one waits twice as long. */
const TRY_AGAIN = 2;
const DATABASE_AGAIN_MS = 500;
/** Longest wait for work under way when a server is told to stop, ms. */
const LONGEST_STOP_MS = 8_000;

/** Context passed to a job handler. */
interface Doing {
  /** It will not be tried again when it fails. */
  readonly last: boolean;
  /** For what is still to be done afterwards. */
  readonly jobs: Jobs;
}
/** What is done, by its name. */
export type Work = {
  readonly [K in JobName]?: (data: JobData[K], doing: Doing) => Promise<void>;
};

/** Statements to a database that may be away: they wait for it, until the end. */
class PatientDatabase implements PgBoss.Db {
  readonly #pool: pg.Pool;
  #closed = false;

  constructor(url: string) {
    this.#pool = new pg.Pool({ connectionString: url, max: 3, connectionTimeoutMillis: 15_000 });
    // An idle connection that breaks is replaced with the next statement.
    this.#pool.on('error', () => undefined);
  }
  async executeSql(text: string, values: unknown[]): Promise<{ rows: unknown[] }> {
    for (;;) {
      // This process is ending: a piece of work that ends now is not ticked off, and is done again by another, since nobody hears of an answer any more.
      if (this.#closed) return new Promise(() => undefined);
      try {
        return await this.#pool.query(text, values);
      } catch (error) {
        if (!this.#closed && !isDatabaseDown(error)) throw error;
        await wait(DATABASE_AGAIN_MS);
      }
    }
  }
  close(): Promise<void> {
    this.#closed = true;
    return this.#pool.end();
  }
}

/** Work on PostgreSQL's tables, by pg-boss: any process may ask for it, and any that was made with `work` does it. */
export class BossJobs implements Jobs {
  readonly #database: PatientDatabase;
  readonly #boss: PgBoss;
  readonly #workers = new Map<JobName, string>();
  readonly #asking = new Set<string>();

  private constructor(
    url: string,
    private readonly log: Logger,
    does: boolean,
  ) {
    this.#database = new PatientDatabase(url);
    this.#boss = new PgBoss({
      db: this.#database,
      schema: JOBS_SCHEMA,
      supervise: does,
      schedule: does,
      maintenanceIntervalSeconds: 10,
      archiveCompletedAfterSeconds: 60,
      archiveFailedAfterSeconds: 86_400,
      deleteAfterDays: 2,
    });
    this.#boss.on('error', (error) => log.error({ error: logged(error) }, 'work under way'));
  }

  /** @param work what this process does; null = it only asks. */
  static async open(url: string, log: Logger, work: Work | null): Promise<BossJobs> {
    const jobs = new BossJobs(url, log, work !== null);
    await jobs.#boss.start();
    for (const name of NAMES) {
      const { longest, tries } = TERMS[name];
      // Of work with the same key one piece waits at most.
      const policy = {
        policy: 'short',
        retryLimit: tries,
        retryDelay: TRY_AGAIN,
        retryBackoff: true,
        expireInSeconds: longest,
      } as const;
      await jobs.#boss.createQueue(name, { name, ...policy });
      await jobs.#boss.updateQueue(name, { name, ...policy });
      if (work?.[name]) await jobs.#take(name, work[name] as (data: object, doing: Doing) => Promise<void>);
    }
    return jobs;
  }

  async #take(name: JobName, act: (data: object, doing: Doing) => Promise<void>): Promise<void> {
    const { lookEvery, cron } = TERMS[name];
    if (cron !== undefined) await this.#boss.schedule(name, cron);
    const worker = await this.#boss.work<object>(
      name,
      { pollingIntervalSeconds: lookEvery, includeMetadata: true },
      async ([job]) => {
        if (!job) return;
        const done = await act(job.data, { last: job.retryCount >= job.retryLimit, jobs: this }).then(
          () => true,
          (error: unknown) => {
            this.log.error({ error: logged(error), job: name, tried: job.retryCount + 1 }, 'work failed');
            return false;
          },
        );
        // The queue's table gets no error of the database's: those hold children's answers.
        if (!done) throw new Error('the log of the server that did it says why');
        // More may have come meanwhile.
        this.#boss.notifyWorker(worker);
      },
    );
    this.#workers.set(name, worker);
  }

  ask<K extends JobName>(name: K, data: JobData[K], afterMs = 0): void {
    const key = keyOf(data);
    const asked = `${name} ${key}`;
    // What waits for the database is asked for once.
    if (this.#asking.has(asked)) return;
    this.#asking.add(asked);
    void this.#boss
      .send(name, data, { singletonKey: key, startAfter: afterMs / 1000 })
      .then(() => {
        const own = this.#workers.get(name);
        if (own !== undefined && afterMs === 0) this.#boss.notifyWorker(own);
      })
      .catch((error: unknown) => this.log.error({ error: logged(error), job: name }, 'work could not be asked for'))
      .finally(() => this.#asking.delete(asked));
  }

  async ofSchool(schoolId: string): Promise<WorkUnderWay[]> {
    const { rows } = await this.#database.executeSql(
      `select data ->> 'classId' as "classId", name as what, case state when 'active' then 'under-way' else 'waiting' end as state,
         case state when 'active' then started_on else created_on end as since
       from ${JOBS_SCHEMA}.job where name in ('judge', 'weeks') and state < 'completed' and data ->> 'schoolId' = $1 order by since`,
      [schoolId],
    );
    return rows as WorkUnderWay[];
  }

  async close(): Promise<void> {
    await this.#boss.stop({ graceful: true, timeout: LONGEST_STOP_MS });
    await this.#database.close();
  }
}
