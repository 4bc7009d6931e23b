import type { MikroORM } from '@mikro-orm/postgresql';

/** Does something when no other process is at it any more. */
export const inTurn = <T>(orm: MikroORM, name: string, act: () => Promise<T>): Promise<T> =>
  orm.em.fork().transactional(async (tx) => {
    await tx.execute('select pg_advisory_xact_lock(hashtextextended(?, 0))', [name]);
    return act();
  });

/** Does something unless another process is at it. The lock is a transaction's: it goes with a server that dies, and needs no connection of its own kind. @returns whether it was done */
export const oneAtATime = (orm: MikroORM, name: string, act: () => Promise<unknown>): Promise<boolean> =>
  orm.em.fork().transactional(async (tx) => {
    const [got] = await tx.execute<{ mine: boolean }[]>(
      'select pg_try_advisory_xact_lock(hashtextextended(?, 0)) as mine',
      [name],
    );
    if (got?.mine === true) await act();
    return got?.mine === true;
  });
