import type { MikroORM } from '@mikro-orm/postgresql';
import { createHash } from 'node:crypto';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import { RequestProblem } from '../problems/problem';

/**
 * Limits: points in a window of seconds for one key. Tries that succeed are given back, so that these are wrong ones. A school sits behind one address: what is counted by
 * address is generous. An account may be tried from anywhere; its owner's known devices have a count of their own and are not shut out by others.
 */
const RULES = {
  'sign-in-account': { points: 8, duration: 900 },
  'sign-in-address': { points: 60, duration: 900 },
  'sign-in-device': { points: 10, duration: 900 },
  'old-password': { points: 5, duration: 900 },
  link: { points: 60, duration: 900 },
  'letter-account': { points: 3, duration: 3600 },
  'letter-address': { points: 30, duration: 3600 },
  'letter-school': { points: 200, duration: 86_400 },
  pair: { points: 30, duration: 60 },
  'set-up': { points: 10, duration: 900 },
} as const satisfies Record<string, { readonly points: number; readonly duration: number }>;
type Rule = keyof typeof RULES;

/** Keys are stored hashed: the table shows no address and no name. */
const hashed = (key: string): string => createHash('sha256').update(key).digest('hex');

const inWords = (ms: number): string =>
  ms > 90_000 ? `in ${Math.ceil(ms / 60_000)} minutes` : `in ${Math.max(1, Math.ceil(ms / 1000))} seconds`;

/** What a pool of connections gives out, as knex has it. */
interface Connections {
  acquireConnection(): Promise<{ query(statement: { text: string; values: unknown[] }): Promise<unknown> }>;
  releaseConnection(connection: unknown): Promise<void>;
}

/** The limiter's statements without their names: behind a pooler that gives out connections by the transaction, a statement that was prepared by name is not there the next time. */
const nameless = (orm: MikroORM) => ({
  query: async ({ text, values }: { text: string; values: unknown[] }): Promise<unknown> => {
    const connections = orm.em.getConnection().getKnex().client as Connections;
    const connection = await connections.acquireConnection();
    try {
      return await connection.query({ text, values });
    } finally {
      await connections.releaseConnection(connection);
    }
  },
});

/** Counts of tries, kept in the database: all servers share them. A try counts before it is looked at, so that many at once are no more than a few. */
export class Limits {
  readonly #limiters = new Map<Rule, RateLimiterPostgres>();

  constructor(orm: MikroORM) {
    const storeClient = nameless(orm);
    for (const [rule, { points, duration }] of Object.entries(RULES))
      this.#limiters.set(
        rule as Rule,
        new RateLimiterPostgres({
          storeClient,
          storeType: 'client',
          tableName: 'rate_limit',
          // A migration makes the table, and `trim` empties it.
          tableCreated: true,
          clearExpiredByTimeout: false,
          keyPrefix: rule,
          points,
          duration,
        }),
      );
  }

  /** Counts one try. @throws RequestProblem try-later, where there were too many */
  async count(rule: Rule, key: string): Promise<void> {
    try {
      await this.#of(rule).consume(hashed(key));
    } catch (refused) {
      if (refused instanceof RateLimiterRes)
        throw new RequestProblem('try-later', { detail: inWords(refused.msBeforeNext) });
      throw refused;
    }
  }
  /** The try was a good one. */
  async refund(rule: Rule, key: string): Promise<void> {
    await this.#of(rule).reward(hashed(key));
  }
  /** Resets a key's count after a success. */
  async clear(rule: Rule, key: string): Promise<void> {
    await this.#of(rule).delete(hashed(key));
  }

  #of(rule: Rule): RateLimiterPostgres {
    const limiter = this.#limiters.get(rule);
    if (!limiter) throw new Error(`no limit is called ${rule}`);
    return limiter;
  }
}
