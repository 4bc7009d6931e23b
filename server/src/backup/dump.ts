import { spawnSync } from 'node:child_process';
import { chmod, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import pg from 'pg';
import { JOBS_SCHEMA } from '../jobs/jobs';

/** A backup or a restore that cannot be done, with the reason for a person. */
export class BackupTrouble extends Error {}

/** PostgreSQL's own programs, on a database: where Vane found them, else those of the path. The password goes by the environment, as everybody on the machine may read a program's arguments. */
function run(program: string, url: string, args: readonly string[]): string {
  const open = new URL(url);
  const password = decodeURIComponent(open.password);
  open.password = '';
  return spoken(program, [`--dbname=${open.href}`, ...args], password === '' ? {} : { PGPASSWORD: password });
}

/** What one of PostgreSQL's programs writes. @throws BackupTrouble with what it says, where it fails */
function spoken(program: string, args: readonly string[], env: Readonly<Record<string, string>> = {}): string {
  const ran = spawnSync(join(process.env['VANE_PG_BIN'] ?? '', program), args, {
    encoding: 'utf8',
    cwd: '/',
    maxBuffer: 64e6,
    env: { ...process.env, ...env },
  });
  if (ran.error)
    throw new BackupTrouble(
      `${program} could not be started (${ran.error.message}): is Debian's package postgresql-client installed?`,
    );
  if (ran.status !== 0) throw new BackupTrouble(`${program} failed:\n${ran.stderr.trim()}`);
  return ran.stdout;
}

/** What a backup says that it holds, before anything in it is run: its entries by kind and name. */
export const listed = (file: string): { kind: string; name: string }[] =>
  [...spoken('pg_restore', ['--list', file]).matchAll(/^\d+; \d+ \d+ ([A-Z][A-Z ]*[A-Z]) (.*)$/gm)].map(
    ([, kind = '', name = '']) => ({ kind, name }),
  );

/** Kinds that a backup of Vane's holds: tables with what belongs to them. */
const KINDS =
  /^(SCHEMA|COMMENT|ACL|TABLE|TABLE DATA|TABLE ATTACH|VIEW|SEQUENCE|SEQUENCE SET|SEQUENCE OWNED BY|DEFAULT|CONSTRAINT|FK CONSTRAINT|INDEX|INDEX ATTACH|FUNCTION|TRIGGER|TYPE)$/;

/** @throws BackupTrouble that a backup holds what Vane's do not: its commands would be run on the way in */
export function demandVanes(entries: readonly { kind: string; name: string }[]): void {
  const has = (table: string): boolean =>
    entries.some(({ kind, name }) => kind === 'TABLE' && name.startsWith(`public ${table} `));
  if (!has('vane_migration') || !has('response')) throw new BackupTrouble('this is a backup, but not one of Vane');
  const foreign = entries.find(({ kind }) => !KINDS.test(kind));
  if (foreign)
    throw new BackupTrouble(`this is a backup, but not one of Vane: it holds ${foreign.kind} ${foreign.name}`);
}

export const at = (url: string, database: string): string => {
  const other = new URL(url);
  other.pathname = `/${database}`;
  return other.href;
};
export const databaseOf = (url: string): string => decodeURIComponent(new URL(url).pathname.slice(1));

export async function connected<T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** By table: how many rows, and a sum over all of their contents that does not depend on their order. */
export type Digest = Readonly<Record<string, { readonly rows: number; readonly sum: string }>>;

export async function digestOf(client: pg.Client): Promise<Digest> {
  const tables = await client.query<{ name: string }>(
    `select relname as name from pg_class where relnamespace = 'public'::regnamespace and relkind in ('r', 'p') and not relispartition order by 1`,
  );
  const digest: Record<string, { rows: number; sum: string }> = {};
  for (const { name } of tables.rows) {
    const found = await client.query<{ rows: string; sum: string }>(
      `select count(*) as rows, coalesce(sum(hashtextextended(t::text, 0)), 0)::text as sum from ${pg.escapeIdentifier(name)} t`,
    );
    digest[name] = { rows: Number(found.rows[0]?.rows ?? 0), sum: found.rows[0]?.sum ?? '' };
  }
  return digest;
}

export const rowsIn = (digest: Digest): number => Object.values(digest).reduce((sum, { rows }) => sum + rows, 0);

/** Writes a database to a file as it is at one moment, and says what was in it then. */
export async function dump(url: string, file: string): Promise<Digest> {
  return connected(url, async (client) => {
    await client.query('begin isolation level repeatable read read only');
    const { rows } = await client.query<{ snapshot: string }>('select pg_export_snapshot() as snapshot');
    const digest = await digestOf(client);
    // Readable by this user only from its first byte: pg_dump writes into the existing file.
    await writeFile(file, '', { mode: 0o600 });
    await chmod(file, 0o600);
    // Work under way is no part of the record: whoever finds something to be judged asks for it again.
    run('pg_dump', url, [
      '--format=custom',
      '--no-owner',
      `--exclude-schema=${JOBS_SCHEMA}`,
      `--snapshot=${rows[0]?.snapshot ?? ''}`,
      `--file=${file}`,
    ]);
    await client.query('commit');
    return digest;
  });
}

/** Restores a file into a new database and counts its rows. A file that cannot be read leaves no database behind. */
export async function readInto(url: string, database: string, file: string): Promise<Digest> {
  await connected(url, (client) => client.query(`create database ${pg.escapeIdentifier(database)}`));
  try {
    run('pg_restore', at(url, database), ['--no-owner', '--exit-on-error', file]);
    return await connected(at(url, database), digestOf);
  } catch (error) {
    await drop(url, database);
    throw error;
  }
}

export const drop = (url: string, database: string): Promise<unknown> =>
  connected(url, (client) => client.query(`drop database if exists ${pg.escapeIdentifier(database)} with (force)`));

/** The tables that differ, with what was wanted and what was found. */
export function differences(wanted: Digest, found: Digest): string[] {
  return [...new Set([...Object.keys(wanted), ...Object.keys(found)])].flatMap((table) => {
    const [a, b] = [wanted[table], found[table]];
    return a?.rows === b?.rows && a?.sum === b?.sum
      ? []
      : [
          `${table}: ${a?.rows ?? 'no table'} rows written, ${b?.rows ?? 'no table'} read back${a?.rows === b?.rows ? ', of other content' : ''}`,
        ];
  });
}
