import type { MikroORM } from '@mikro-orm/postgresql';
import pg from 'pg';
import { createReadStream, createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import { at, connected, databaseOf, drop } from '../backup/dump';
import { ALSO_CLOSED } from '../db/closed';
import { DEMO_SCHOOL_ID } from '../db/demoSchool';
import { School } from '../db/entities';
import { rightsChanged } from '../db/notices';
import { MIGRATION_NAMES, openDatabase } from '../db/orm';
import { JOBS_SCHEMA } from '../jobs/jobs';
import { audit } from '../request/audit';
import { removeRows, SchoolReader, writeSchool, type SchoolHead } from './schoolFile';
import { demandNoDemo, schoolNamed, SchoolTrouble, SERVICE } from './schools';

/** A database by its connections and its address: rows go through PostgreSQL's own COPY, which needs a connection of its own. */
interface Here {
  readonly orm: MikroORM;
  readonly url: string;
}

/** What was carried. */
interface Carried {
  readonly name: string;
  readonly rows: number;
}

/** Opens or closes a school. A closed one answers and takes nothing; its devices keep what is marked. */
export const setClosed = ({ orm }: Here, id: string, closedAt: Date | null): Promise<void> =>
  orm.em.fork().transactional(async (tx) => {
    await tx.execute(ALSO_CLOSED);
    await tx.nativeUpdate(School, { id }, { movingAt: closedAt });
    // Whoever follows something asks again.
    await rightsChanged(tx);
  });

/** Waits for whoever was writing when the school was closed: each of them holds a lock on its row to the end of a transaction. */
const writersGone = (client: pg.Client, id: string): Promise<unknown> =>
  client.query(`begin; select 1 from school where id = ${pg.escapeLiteral(id)} for update; commit`);

/**
 * Writes a school to a file, compressed, readable by this user alone.
 * @param close true = the school is closed first and stays so, to be carried elsewhere; false = a copy of it while it is used
 */
export async function exportSchool(here: Here, id: string, file: string, now: Date, close: boolean): Promise<Carried> {
  if (id === DEMO_SCHOOL_ID) throw new SchoolTrouble('The demo is no school: it stays where it is.');
  const { name, movingAt } = await schoolNamed(here.orm.em.fork(), id);
  const part = `${file}.part`;
  try {
    if (close && movingAt === null) {
      const detail = 'the whole school, to be carried elsewhere';
      await audit(here.orm.em.fork(), { schoolId: id, ...SERVICE }, now, 'exported', detail);
      await setClosed(here, id, now);
    }
    const rows = await connected(here.url, async (client) => {
      if (close) await writersGone(client, id);
      let written = 0;
      const all = async function* () {
        written = yield* writeSchool(client, id, now);
      };
      await rm(part, { force: true });
      await pipeline(Readable.from(all()), createGzip(), createWriteStream(part, { mode: 0o600 }));
      return written;
    });
    await rename(part, file);
    return { name, rows };
  } catch (error) {
    await rm(part, { force: true });
    if (close && movingAt === null) await setClosed(here, id, null);
    throw error;
  }
}

const UNIQUE = '23505';

/** Writes a school's rows in one step, and opens it. */
async function readInto(client: pg.Client, reader: SchoolReader, head: SchoolHead): Promise<number> {
  await client.query('begin');
  const there = await client.query('select 1 from school where id = $1', [head.school]);
  if (there.rows.length > 0)
    throw new SchoolTrouble(`${head.name} is already here: "./vane school list" has it, and nothing was changed.`);
  try {
    const rows = await reader.into(client, head);
    await client.query('update school set moving_at = null where id = $1', [head.school]);
    await client.query('commit');
    return rows;
  } catch (error) {
    if (error instanceof pg.DatabaseError && error.code === UNIQUE && error.constraint === 'adult_email')
      throw new SchoolTrouble(
        'An adult of the school already signs in to another school here, under the same address: change one of the two, and write the file again.',
      );
    throw error;
  }
}

/** Reads a file of an earlier Vane into a database of its own, brings that up to date, and carries the school from there. */
async function throughScratch({ url }: Here, reader: SchoolReader, head: SchoolHead, now: Date): Promise<number> {
  const scratch = `${databaseOf(url)}_import_${process.pid}`;
  const there = at(url, scratch);
  await connected(url, (client) => client.query(`create database ${pg.escapeIdentifier(scratch)}`));
  try {
    await (await openDatabase(there, { as: head.migrations.at(-1)! })).close();
    await connected(there, (client) => readInto(client, reader, head));
    await (await openDatabase(there)).close();
    return await connected(there, async (from) => {
      const current = new SchoolReader(writeSchool(from, head.school, now));
      const again = await current.head();
      return connected(url, (client) => readInto(client, current, again));
    });
  } finally {
    await drop(url, scratch);
  }
}

/** Reads a school's file. @throws SchoolTrouble in words for whoever runs Vane; nothing is here then */
export async function importSchool(here: Here, file: string, now: Date): Promise<Carried & { readonly id: string }> {
  await demandNoDemo(here.orm.em.fork());
  const [source, unpacked] = [createReadStream(file), createGunzip()];
  // A file that breaks off ends the reading of it; the reader says where.
  const flowing = pipeline(source, unpacked).catch(() => undefined);
  const reader = new SchoolReader(unpacked);
  try {
    const head = await reader.head();
    const current = head.migrations.length === MIGRATION_NAMES.length;
    const rows = current
      ? await connected(here.url, (client) => readInto(client, reader, head))
      : await throughScratch(here, reader, head, now);
    const { school: id, name } = head;
    await audit(here.orm.em.fork(), { schoolId: id, ...SERVICE }, now, 'imported', 'the whole school, from elsewhere');
    return { id, name, rows };
  } finally {
    source.destroy();
    unpacked.destroy();
    await flowing;
  }
}

/** Takes a school away for good, with everybody and everything in it. @param name as it is called, so that no other is meant */
export async function deleteSchool(here: Here, id: string, name: string): Promise<Carried> {
  const found = await schoolNamed(here.orm.em.fork(), id);
  if (found.name !== name)
    throw new SchoolTrouble(`This school is called "${found.name}", and not "${name}". Nothing was deleted.`);
  if (found.movingAt === null) await setClosed(here, id, new Date());
  const rows = await connected(here.url, async (client) => {
    await writersGone(client, id);
    await client.query('begin');
    const gone = await removeRows(client, id);
    const jobs = await client.query<{ there: boolean }>(
      `select to_regclass('${JOBS_SCHEMA}.job') is not null as there`,
    );
    if (jobs.rows[0]?.there === true)
      await client.query(`delete from ${JOBS_SCHEMA}.job where data->>'schoolId' = $1`, [id]);
    await client.query('commit');
    return gone;
  });
  await rightsChanged(here.orm.em.fork());
  return { name, rows };
}
