import { access } from 'node:fs/promises';
import pg from 'pg';
import { at, BackupTrouble, connected, databaseOf, drop, readInto, rowsIn } from '../backup/dump';
import { MIGRATION_NAMES } from '../db/orm';

/**
 * `./vane restore FILE`: reads a backup into a new database, looks whether it is one of this Vane's, and only then puts it in the place of the present one, which
 * stays under another name until the next restore.
 */
const [file, ...rest] = process.argv.slice(2);
const url = process.env['DATABASE_URL'];
if (!url || file === undefined || rest.length > 0) {
  process.stderr.write('usage: ./vane restore FILE\n');
  process.exit(2);
}
const name = databaseOf(url);
const [fresh, before] = [`${name}_restored`, `${name}_before_restore`];
const server = at(url, 'postgres');
try {
  await access(file);
  await drop(server, fresh);
  const found = await readInto(server, fresh, file);
  const known = await connected(at(url, fresh), async (client) => {
    if (!('vane_migration' in found) || !('response' in found))
      throw new BackupTrouble('this is a backup, but not one of Vane');
    return (await client.query<{ name: string }>('select name from vane_migration')).rows.map((row) => row.name);
  }).catch(async (error: unknown) => {
    await drop(server, fresh);
    throw error;
  });
  const newer = known.filter((one) => !MIGRATION_NAMES.includes(one));
  if (newer.length > 0) {
    await drop(server, fresh);
    throw new BackupTrouble(`it was made by a newer Vane (${newer.join(', ')}): use that one`);
  }
  await connected(server, async (client) => {
    const users = await client.query<{ n: string }>('select count(*) as n from pg_stat_activity where datname = $1', [
      name,
    ]);
    if (Number(users.rows[0]?.n ?? 0) > 0) throw new BackupTrouble(`somebody is using the database: stop Vane first`);
    await client.query(`drop database if exists ${pg.escapeIdentifier(before)}`);
    await client.query(`alter database ${pg.escapeIdentifier(name)} rename to ${pg.escapeIdentifier(before)}`);
    await client.query(`alter database ${pg.escapeIdentifier(fresh)} rename to ${pg.escapeIdentifier(name)}`);
  });
  const { response, child, school } = found;
  process.stdout.write(
    `Restored ${rowsIn(found)} rows from ${file}: ${school?.rows ?? 0} schools, ${child?.rows ?? 0} children, ${response?.rows ?? 0} responses. What was there before is kept as the database ${before}.\n`,
  );
} catch (error) {
  process.stderr.write(
    `Nothing was restored, and nothing was changed: ${error instanceof Error ? error.message : String(error)}\n`,
  );
  process.exitCode = 1;
}
