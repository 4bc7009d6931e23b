import type { MikroORM } from '@mikro-orm/postgresql';
import type { Logger } from 'pino';
import { connect, openDatabase } from './orm';
import { ReplicaRouter } from './replicaRouter';

/** The database of this Vane. */
export interface Database {
  readonly orm: MikroORM;
  /** For long reads. */
  readonly readers: ReplicaRouter;
  readonly url: string;
  /** Where LISTEN works. */
  readonly listenUrl: string;
  close(): Promise<void>;
}

/** As the environment names it. */
interface Named {
  readonly DATABASE_URL: string;
  readonly VANE_LISTEN_URL?: string | undefined;
  readonly VANE_STANDBY_URL?: string | undefined;
}

/** A database that is open, with its readers. */
export function openedDatabase(
  orm: MikroORM,
  { url, listenUrl = url }: { readonly url: string; readonly listenUrl?: string | undefined },
  log: Logger,
  standby: MikroORM | null = null,
): Database {
  const readers = new ReplicaRouter(orm, standby, log);
  return {
    orm,
    readers,
    url,
    listenUrl,
    close: async () => void (await Promise.all([readers.close(), orm.close()])),
  };
}

/** Connects to the database that the environment names, and brings its tables up to date. @throws CannotStart where this program cannot work with it */
export async function openNamed(env: Named, log: Logger): Promise<Database> {
  const orm = await openDatabase(env.DATABASE_URL);
  const standby = env.VANE_STANDBY_URL === undefined ? null : await connect(env.VANE_STANDBY_URL);
  return openedDatabase(orm, { url: env.DATABASE_URL, listenUrl: env.VANE_LISTEN_URL }, log, standby);
}
