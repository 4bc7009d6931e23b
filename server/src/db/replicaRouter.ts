import type { EntityManager, MikroORM } from '@mikro-orm/postgresql';
import type { Logger } from 'pino';
import { setTimeout as wait } from 'node:timers/promises';
import { logged } from '../problems/logged';

/** How often, and how soon, a standby is asked again whether it has what was committed, before the primary is read instead. */
const TRIES = 5;
const AGAIN_MS = 20;
/** Pause before a standby that failed is tried again, ms. */
const LEFT_ALONE_MS = 5000;

/**
 * Where long reads go: to a standby, where there is one and it has all that was committed before the question, so that nobody reads what is older than their own last change; else to the
 * primary.
 */
export class ReplicaRouter {
  #again = 0;

  /** @param standby null = there is none */
  constructor(
    private readonly primary: MikroORM,
    private readonly standby: MikroORM | null,
    private readonly log: Logger,
  ) {}

  /** For reading alone. */
  async em(): Promise<EntityManager> {
    const standby = await this.#caughtUp();
    return (standby ?? this.primary).em.fork();
  }

  /** How far the standby is behind, s; null = there is none, or it does not answer. */
  async lag(): Promise<number | null> {
    if (this.standby === null) return null;
    try {
      const [found] = await this.standby.em.fork().execute<{ lag: number | null }[]>(
        // Nothing new to replay is no lag.
        `select case when pg_last_wal_receive_lsn() = pg_last_wal_replay_lsn() then 0
           else extract(epoch from now() - pg_last_xact_replay_timestamp())::float8 end as lag where pg_is_in_recovery()`,
      );
      return found?.lag ?? null;
    } catch (error) {
      this.#failed(error);
      return null;
    }
  }

  async close(): Promise<void> {
    await this.standby?.close();
  }

  async #caughtUp(): Promise<MikroORM | null> {
    if (this.standby === null || performance.now() < this.#again) return null;
    const [now] = await this.primary.em.fork().execute<{ lsn: string }[]>('select pg_current_wal_lsn()::text as lsn');
    try {
      for (let tries = 0; tries < TRIES; tries++) {
        const [found] = await this.standby.em
          .fork()
          .execute<{ there: boolean | null }[]>(
            'select pg_is_in_recovery() and pg_last_wal_replay_lsn() >= ?::pg_lsn as there',
            [now?.lsn ?? ''],
          );
        if (found?.there === true) return this.standby;
        await wait(AGAIN_MS);
      }
    } catch (error) {
      this.#failed(error);
    }
    return null;
  }

  #failed(error: unknown): void {
    this.#again = performance.now() + LEFT_ALONE_MS;
    this.log.warn({ error: logged(error) }, 'the standby does not answer: the primary is read');
  }
}
