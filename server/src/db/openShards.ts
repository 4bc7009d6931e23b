import type { Logger } from 'pino';
import { connect, openDatabase } from './orm';
import { FIRST, shardOf, Shards, type Shard } from './shards';

/** The databases as the environment names them. */
interface Databases {
  readonly DATABASE_URL: string;
  readonly VANE_LISTEN_URL?: string | undefined;
  readonly VANE_STANDBY_URL?: string | undefined;
  readonly VANE_SHARDS: readonly {
    readonly name: string;
    readonly url: string;
    readonly listen?: string | undefined;
    readonly standby?: string | undefined;
  }[];
}

/** Connects to the databases that the environment names, and brings their tables up to date. @throws UnknownShard where a school lives in one that it does not name */
export async function openShards(env: Databases, log: Logger): Promise<Shards> {
  const open = async (name: string, url: string, listenUrl?: string, standbyUrl?: string): Promise<Shard> => {
    const orm = await openDatabase(url);
    const standby = standbyUrl === undefined ? null : await connect(standbyUrl);
    return shardOf(name, orm, { url, listenUrl, standby }, log);
  };
  const first = await open(FIRST, env.DATABASE_URL, env.VANE_LISTEN_URL, env.VANE_STANDBY_URL);
  const others = [];
  for (const { name, url, listen, standby } of env.VANE_SHARDS) others.push(await open(name, url, listen, standby));
  const shards = new Shards([first, ...others]);
  const named = await first.orm.em.fork().execute<{ shard: string }[]>('select distinct shard from directory');
  for (const { shard } of named) shards.named(shard);
  return shards;
}
