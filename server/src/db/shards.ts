import type { EntityManager, MikroORM } from '@mikro-orm/postgresql';
import type { Logger } from 'pino';
import { CannotStart } from '../problems/cannotStart';
import { Readers } from './readers';

/** A database in which whole schools live. */
export interface Shard {
  readonly name: string;
  readonly orm: MikroORM;
  /** For long reads. */
  readonly readers: Readers;
  readonly url: string;
  /** Where LISTEN works. */
  readonly listenUrl: string;
}

/** The shard that holds the directory too, and the counts of tries and the work under way of all. */
export const FIRST = 'first';
/** The directory names a shard that this process was not told of. */
export class UnknownShard extends CannotStart {}

/** So many schools are remembered with where they live. */
const MOST_KNOWN = 20_000;

/** Something belongs to a school that lives here. */
interface OfSchool {
  readonly schoolId: string;
}

/** The databases of this Vane, and in which of them a school lives: a school that the directory does not name lives in the first. */
export class Shards {
  readonly #known = new Map<string, Shard>();

  constructor(readonly all: readonly [first: Shard, ...Shard[]]) {}

  get first(): Shard {
    return this.all[0];
  }

  /** @throws UnknownShard */
  named(name: string): Shard {
    const found = this.all.find((shard) => shard.name === name);
    if (!found) throw new UnknownShard(`A school lives in the database "${name}", which VANE_SHARDS does not name.`);
    return found;
  }

  /** Where a school lives, as far as this process knows: one that has moved since is not found there. */
  of(schoolId: string): Promise<Shard> {
    const known = this.#known.get(schoolId);
    return known ? Promise.resolve(known) : this.again(schoolId);
  }

  /** The same, asked of the directory. */
  async again(schoolId: string): Promise<Shard> {
    if (this.all.length === 1) return this.first;
    const [entry] = await this.first.orm.em
      .fork()
      .execute<{ shard: string }[]>('select shard from directory where school_id = ?', [schoolId]);
    const shard = this.named(entry?.shard ?? FIRST);
    if (this.#known.size >= MOST_KNOWN) this.#known.clear();
    this.#known.set(schoolId, shard);
    return shard;
  }

  /** By school, the names of the shards that the directory has. */
  async directory(): Promise<ReadonlyMap<string, string>> {
    const entries = await this.first.orm.em
      .fork()
      .execute<{ school_id: string; shard: string }[]>('select school_id, shard from directory');
    return new Map(entries.map(({ school_id, shard }) => [school_id, shard]));
  }

  /** Whether a school that was found in a shard has left it. */
  async left(schoolId: string, shard: Shard): Promise<boolean> {
    return (await this.again(schoolId)) !== shard;
  }

  async em(schoolId: string): Promise<EntityManager> {
    return (await this.of(schoolId)).orm.em.fork();
  }

  /** For long reads. */
  async reader(schoolId: string): Promise<EntityManager> {
    return (await this.of(schoolId)).readers.em();
  }

  /**
   * Looks in all shards for what names no school, such as an address or a code that was typed. Of a school that is just being moved there are two for a moment: what is found counts where
   * the school lives. A shard that does not answer is an error only where the others have nothing.
   */
  async find<T extends OfSchool>(look: (em: EntityManager) => Promise<T | null | undefined>): Promise<Found<T> | null> {
    const looked = await Promise.allSettled(
      this.all.map(async (shard) => ({ shard, found: await look(shard.orm.em.fork()) })),
    );
    for (const one of looked) {
      if (one.status === 'rejected') continue;
      const { shard, found } = one.value;
      if (found && !(await this.left(found.schoolId, shard))) return { shard, found };
    }
    const failed = looked.find((one) => one.status === 'rejected');
    if (failed) throw failed.reason;
    return null;
  }

  /** Looks for something where its school lives, and once more where that has moved meanwhile. @param schoolId null = it names none, as before there was more than one shard */
  async at<T>(schoolId: string | null, look: (shard: Shard) => Promise<T | null>): Promise<Found<T> | null> {
    if (schoolId === null || this.all.length === 1) return withShard(this.first, await look(this.first));
    const shard = await this.of(schoolId);
    const found = withShard(shard, await look(shard));
    if (found !== null) return found;
    const now = await this.again(schoolId);
    return now === shard ? null : withShard(now, await look(now));
  }

  async close(): Promise<void> {
    await Promise.all(this.all.map(({ orm, readers }) => Promise.all([readers.close(), orm.close()])));
  }
}

/** What was found, and where. */
export interface Found<T> {
  readonly shard: Shard;
  readonly found: T;
}
const withShard = <T>(shard: Shard, found: T | null): Found<T> | null => (found === null ? null : { shard, found });

/** A database with its readers. */
export const shardOf = (
  name: string,
  orm: MikroORM,
  {
    url,
    listenUrl = url,
    standby = null,
  }: { readonly url: string; readonly listenUrl?: string | undefined; readonly standby?: MikroORM | null },
  log: Logger,
): Shard => ({ name, orm, readers: new Readers(orm, standby, log), url, listenUrl });

/** Something of each shard's own, made when it is first wanted. */
export function perShard<T>(make: (shard: Shard) => T): (shard: Shard) => T {
  const made = new Map<Shard, T>();
  return (shard) => {
    const one = made.get(shard) ?? make(shard);
    made.set(shard, one);
    return one;
  };
}
