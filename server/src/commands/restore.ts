import { UnderscoreNamingStrategy } from '@mikro-orm/core';
import { access } from 'node:fs/promises';
import type { EntityManager } from '@mikro-orm/postgresql';
import pg from 'pg';
import {
  at,
  BackupTrouble,
  connected,
  databaseOf,
  demandVanes,
  drop,
  listed,
  readInto,
  rowsIn,
  type Digest,
} from '../backup/dump';
import { ALSO_CLOSED } from '../db/closed';
import { anySchool } from '../db/demoSchool';
import { ENTITIES } from '../db/entities';
import { connect, MIGRATION_NAMES, openDatabase } from '../db/orm';
import { unworkable } from '../db/workable';
import { eraseAgain, erasedIn, erasedInFile, keepErased, together, type ErasedId } from '../school/erased';
import { removeRows } from '../school/schoolFile';

/**
 * `./vane restore FILE`: reads a backup into a new database, looks whether it is one of this Vane's, and only then puts it in the place of the present one, which
 * stays under a name of its own, however many restores follow.
 */
const [file, ...rest] = process.argv.slice(2);
const url = process.env['DATABASE_URL'];
if (!url || file === undefined || rest.length > 0) {
  process.stderr.write('usage: ./vane restore FILE\n');
  process.exit(2);
}
const name = databaseOf(url);
const fresh = `${name}_restored`;
const server = at(url, 'postgres');

/** What speaks against putting this in the place of a school's data; null when nothing does. */
function faultOf(found: Digest, migrations: readonly string[]): string | null {
  const naming = new UnderscoreNamingStrategy();
  const tables = ENTITIES.map(({ meta }) => meta.tableName ?? naming.classToTableName(meta.className));
  const missing = tables.filter((table) => !(table in found));
  const newer = migrations.filter((one) => !MIGRATION_NAMES.includes(one));
  if (!('vane_migration' in found) || !('response' in found)) return 'this is a backup, but not one of Vane';
  if (newer.length > 0) return `it was made by a newer Vane (${newer.join(', ')}): use that one`;
  if (migrations.length === MIGRATION_NAMES.length && missing.length > 0)
    return `it is damaged: it has no ${missing.join(', ')}`;
  if (migrations.length === 0 || migrations.some((one, i) => one !== MIGRATION_NAMES[i]))
    return `it is damaged: its migrations are ${migrations.join(', ') || 'none'}`;
  if ((found['school']?.rows ?? 0) === 0) return 'there is no school in it';
  return null;
}

/** By what somebody comes in. */
const ENTRIES = ['sign_in', 'adult_link', 'helper_link', 'screen', 'known_device'];

/** Nobody comes in by what a backup remembers: everybody signs in anew, by the password they have now where they are still here, and links are made anew. */
async function endEntries(client: pg.Client): Promise<void> {
  await client.query(`begin; ${ALSO_CLOSED}`);
  const { rows } = await client.query<{ name: string }>(
    `select name from unnest($1::text[]) name where to_regclass('public.' || name) is not null`,
    [ENTRIES],
  );
  for (const { name: table } of rows) await client.query(`delete from ${table}`);
  const present = await connected(url!, async (now) => {
    const there = await now.query<{ there: boolean }>("select to_regclass('public.adult') is not null as there");
    if (there.rows[0]?.there !== true) return [];
    return (await now.query<object>('select school_id, id, password_hash from adult')).rows;
  });
  await client.query(
    `update adult a set password_hash = p.password_hash from json_to_recordset($1) as p(school_id uuid, id uuid, password_hash text)
     where a.school_id = p.school_id and a.id = p.id`,
    [JSON.stringify(present)],
  );
  await client.query('commit');
}

/** What was deleted since the backup was made is deleted again. @returns what is to be said of it */
async function eraseSince(): Promise<string> {
  const file = process.env['VANE_ERASED_FILE'] ?? null;
  const [restored, present] = [await openDatabase(at(url!, fresh)), await connect(url!)];
  try {
    const known = await presentList(present.em.fork());
    const kept = file === null ? null : await erasedInFile(file);
    const all = together(await erasedIn(restored.em.fork()), known ?? [], kept ?? []);
    await connected(at(url!, fresh), async (client) => {
      await client.query('begin');
      for (const { what, id } of all) if (what === 'school') await removeRows(client, id);
      await client.query('commit');
    });
    const gone = await eraseAgain(restored.em.fork(), all, new Date());
    if (file !== null) await keepErased(restored.em.fork(), file);
    if (known === null && kept === null)
      return 'What was deleted after this backup was made is not known here: delete it again.';
    const leaderless = await restored.em
      .fork()
      .execute<{ id: string; name: string }[]>(
        `select id, name from school s where not exists (select 1 from adult a where a.school_id = s.id and a.role = 'lead')`,
      );
    return [
      ...(gone > 0 ? [`${gone} children, adults and imports that were deleted since are deleted here too.`] : []),
      ...leaderless.map(({ id, name }) => `${name} has no lead now: ./vane school invite ${id} makes a link for one.`),
    ].join(' ');
  } finally {
    await restored.close();
    await present.close();
  }
}

/** What the database that is replaced remembers; null = nothing, as it is from before there was a list, or new and of no school. */
async function presentList(em: EntityManager): Promise<ErasedId[] | null> {
  const [table] = await em.execute<{ there: boolean }[]>(`select to_regclass('public.erased') is not null as there`);
  return table?.there && (await anySchool(em)) ? erasedIn(em) : null;
}

/** The name under which the present database is kept: one that no earlier one has. */
async function freeName(client: pg.Client): Promise<string> {
  const { rows } = await client.query<{ datname: string }>('select datname from pg_database');
  const taken = new Set(rows.map((row) => row.datname));
  for (let n = 1; ; n++) if (!taken.has(`${name}_before_restore_${n}`)) return `${name}_before_restore_${n}`;
}

try {
  await access(file);
  demandVanes(listed(file));
  await drop(server, fresh);
  const found = await readInto(server, fresh, file);
  const fault = await connected(at(url, fresh), async (client) => {
    const migrations =
      'vane_migration' in found
        ? (await client.query<{ name: string }>('select name from vane_migration order by id')).rows.map((r) => r.name)
        : [];
    // What this version cannot work with must not come back by a backup either.
    return (
      faultOf(found, migrations) ??
      unworkable(async <T>(sql: string) => (await client.query(sql)).rows as T[], MIGRATION_NAMES)
    );
  });
  if (fault !== null) {
    await drop(server, fresh);
    throw new BackupTrouble(fault);
  }
  await connected(at(url, fresh), (client) => endEntries(client));
  const erased = await eraseSince();
  const before = await connected(server, async (client) => {
    const users = await client.query<{ n: string }>(
      "select count(*) as n from pg_stat_activity where datname = $1 and backend_type = 'client backend'",
      [name],
    );
    if (Number(users.rows[0]?.n ?? 0) > 0) throw new BackupTrouble(`somebody is using the database: stop Vane first`);
    const kept = await freeName(client);
    // In one step: at no moment is there no database, which a start would take for a new Vane.
    await client.query('begin');
    await client.query(`alter database ${pg.escapeIdentifier(name)} rename to ${pg.escapeIdentifier(kept)}`);
    await client.query(`alter database ${pg.escapeIdentifier(fresh)} rename to ${pg.escapeIdentifier(name)}`);
    await client.query('commit');
    return kept;
  });
  const { response, child, school } = found;
  process.stdout.write(
    `Restored ${rowsIn(found)} rows from ${file}: ${school?.rows ?? 0} schools, ${child?.rows ?? 0} children, ${response?.rows ?? 0} responses. Everybody signs in anew, and links are made anew.${erased === '' ? '' : ` ${erased}`} What was there before is kept as the database ${before}.\n`,
  );
} catch (error) {
  process.stderr.write(
    `Nothing was restored, and nothing was changed: ${error instanceof Error ? error.message : String(error)}\n`,
  );
  process.exitCode = 1;
}
