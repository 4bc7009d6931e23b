import type { EntityManager } from '@mikro-orm/postgresql';
import pg from 'pg';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import { pipeline } from 'node:stream/promises';
import { connected } from '../backup/dump';
import { DEMO_SCHOOL_ID } from '../db/demoSchool';
import { School } from '../db/entities';
import { rightsChanged } from '../db/notices';
import { oneAtATime } from '../db/oneAtATime';
import { FIRST, type Shard, type Shards } from '../db/shards';
import { SchoolTrouble } from './openSchool';

/** What a move carried. */
export interface Moved {
  readonly rows: number;
  /** How long nobody could use the school, ms. */
  readonly closedMs: number;
}

/** PostgreSQL's word for two who wait for each other (appendix A of its manual): one of them is sent away, and may try again. */
const DEADLOCK = '40P01';
const TRIES = 5;

/** A table with rows of a school. */
interface Table {
  readonly name: string;
  /** As they stand in a statement. */
  readonly columns: string;
}

/** Tables that refer to a school, directly or through others; none before those that it refers to. */
export async function tablesOf(client: pg.Client): Promise<Table[]> {
  const { rows } = await client.query<Table>(
    `with recursive refers as (
       select distinct coalesce(pg_partition_root(conrelid)::oid, conrelid) as own, coalesce(pg_partition_root(confrelid)::oid, confrelid) as other
       from pg_constraint where contype = 'f' and connamespace = 'public'::regnamespace),
     deep as (select 'school'::regclass::oid as own, 0 as depth union all select r.own, d.depth + 1 from refers r join deep d on d.own = r.other)
     select own::regclass::text as name,
       (select string_agg(quote_ident(attname), ', ' order by attname) from pg_attribute where attrelid = own and attnum > 0 and not attisdropped) as columns
     from deep group by own order by max(depth), own::regclass::text`,
  );
  return rows;
}

const ofSchool = ({ name }: Table, schoolId: string): string =>
  `${name} where ${name === 'school' ? 'id' : 'school_id'} = ${pg.escapeLiteral(schoolId)}`;

/** How many rows, and a sum over their contents that does not depend on their order. */
async function sumOf(client: pg.Client, table: Table, schoolId: string): Promise<{ rows: number; sum: string }> {
  const { rows } = await client.query<{ rows: number; sum: string }>(
    `select count(*)::int as rows, coalesce(sum(hashtextextended(row(${table.columns})::text, 0)), 0)::text as sum from ${ofSchool(table, schoolId)}`,
  );
  return rows[0] ?? { rows: 0, sum: '' };
}

async function remove(client: pg.Client, tables: readonly Table[], schoolId: string): Promise<void> {
  for (const table of tables.toReversed()) await client.query(`delete from ${ofSchool(table, schoolId)}`);
}

const migrationsOf = async (client: pg.Client): Promise<string> =>
  (await client.query<{ name: string }>('select name from vane_migration order by name')).rows
    .map(({ name }) => name)
    .join();

/**
 * Carries a school's rows over in one step on each side. Whatever writes to it meanwhile has either been committed before its row or the rows it refers to are locked here, and is carried, or
 * finds them gone afterwards, and fails: what was acknowledged is never left behind. The target is committed first: should this end in between, the school still is where the directory says.
 */
async function carry(source: pg.Client, target: pg.Client, schoolId: string): Promise<number> {
  if ((await migrationsOf(source)) !== (await migrationsOf(target)))
    throw new SchoolTrouble('The two databases were made by different versions of Vane: start Vane once with both.');
  await source.query('begin');
  await target.query('begin');
  const tables = await tablesOf(source);
  for (const table of tables)
    await source.query(`select count(*) from (select 1 from ${ofSchool(table, schoolId)} for update) locked`);
  let rows = 0;
  for (const table of tables) {
    await pipeline(
      source.query(copyTo(`copy (select ${table.columns} from ${ofSchool(table, schoolId)}) to stdout`)),
      target.query(copyFrom(`copy ${table.name} (${table.columns}) from stdin`)),
    );
    const [there, here] = [await sumOf(source, table, schoolId), await sumOf(target, table, schoolId)];
    if (there.rows !== here.rows || there.sum !== here.sum)
      throw new Error(`${table.name}: ${there.rows} rows were read and ${here.rows} written, or others`);
    rows += here.rows;
  }
  await target.query('commit');
  await remove(source, tables, schoolId);
  await source.query('commit');
  return rows;
}

/** Does it again where PostgreSQL sent it away for the sake of somebody who waited for it. */
async function carryOver(from: Shard, to: Shard, schoolId: string): Promise<number> {
  for (let tried = 1; ; tried++) {
    try {
      // A connection that is closed before its commit leaves nothing.
      return await connected(from.url, (source) => connected(to.url, (target) => carry(source, target, schoolId)));
    } catch (error) {
      if (!(error instanceof pg.DatabaseError) || error.code !== DEADLOCK || tried === TRIES) throw error;
    }
  }
}

const writeDown = (em: EntityManager, schoolId: string, { name }: Shard): Promise<unknown> =>
  name === FIRST
    ? em.execute('delete from directory where school_id = ?', [schoolId])
    : em.execute('insert into directory values (?, ?) on conflict (school_id) do update set shard = excluded.shard', [
        schoolId,
        name,
      ]);

const setMoving = ({ orm }: Shard, id: string, movingAt: Date | null): Promise<unknown> =>
  orm.em.fork().nativeUpdate(School, { id }, { movingAt });

/** The shards in which a school's rows lie; whether it is open there. */
async function placesOf(shards: Shards, id: string): Promise<Map<Shard, { readonly open: boolean }>> {
  const places = new Map<Shard, { readonly open: boolean }>();
  for (const shard of shards.all) {
    const school = await shard.orm.em.fork().findOne(School, { id });
    if (school) places.set(shard, { open: !school.movingAt });
  }
  return places;
}

async function move(shards: Shards, schoolId: string, to: Shard, now: () => Date): Promise<Moved> {
  const places = await placesOf(shards, schoolId);
  const said = await shards.again(schoolId);
  const [anywhere] = places.keys();
  const from = places.has(said) ? said : anywhere;
  if (!from) throw new SchoolTrouble(`There is no school ${schoolId}.`);
  const directory = shards.first.orm.em.fork();
  // What a move left that ended in between: only the directory was not told, or what was carried had not been taken away where it came from.
  if (from !== said) await writeDown(directory, schoolId, from);
  for (const [other, { open }] of places) {
    if (other === from) continue;
    // What is only a copy was never open.
    if (open)
      throw new SchoolTrouble(
        `This school lies in two databases, as after a restore: ${from.name} is the one that is used, and ${other.name} may hold more. Look at both; nothing was changed.`,
      );
    await connected(other.url, async (client) => remove(client, await tablesOf(client), schoolId));
  }
  const began = performance.now();
  try {
    if (from === to) return { rows: 0, closedMs: 0 };
    await setMoving(from, schoolId, now());
    const rows = await carryOver(from, to, schoolId);
    await writeDown(directory, schoolId, to);
    // Whoever follows something there asks again.
    await rightsChanged(from.orm.em.fork());
    await setMoving(to, schoolId, null);
    return { rows, closedMs: performance.now() - began };
  } finally {
    // Where it did not go: it is open again.
    await setMoving(from, schoolId, null);
  }
}

/**
 * Moves a school to another shard, while it is used: for the seconds that it takes, nothing of it is answered. A move that broke off is carried on by the next.
 * @throws SchoolTrouble in words for whoever runs Vane
 */
export async function moveSchool(shards: Shards, schoolId: string, to: Shard, now: () => Date): Promise<Moved> {
  if (schoolId === DEMO_SCHOOL_ID) throw new SchoolTrouble('The demo stays where it is.');
  let moved: Moved | null = null;
  await oneAtATime(shards.first.orm, `moving ${schoolId}`, async () => {
    moved = await move(shards, schoolId, to, now);
  });
  if (moved === null) throw new SchoolTrouble('This school is being moved already.');
  return moved;
}
