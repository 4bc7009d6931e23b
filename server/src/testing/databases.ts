import pg from 'pg';
import { MIGRATION_NAMES, openDatabase } from '../db/orm';

/** Databases in the tests' cluster, which scripts/test.mjs starts. */
const base = process.env['VANE_TEST_DATABASE_URL'];
let made = 0;

/** Runs statements on the cluster itself, and ends. Names are made here, never by input. */
export async function administer(work: (client: pg.Client) => Promise<unknown>): Promise<void> {
  if (!base) throw new Error('VANE_TEST_DATABASE_URL is not set: run the tests with "npm test"');
  const client = new pg.Client({ connectionString: base });
  await client.connect();
  try {
    await work(client);
  } finally {
    await client.end();
  }
}

export const urlOf = (database: string): string => {
  const url = new URL(base ?? '');
  url.pathname = `/${database}`;
  return url.href;
};

/** A database whose tables are made: migrated once by whichever test comes first, and copied by all others. */
const TEMPLATE = `vane_migrated_${MIGRATION_NAMES.length}`;
const TEMPLATE_LOCK = 8263;

async function ensureTemplate(client: pg.Client): Promise<void> {
  const there = async (): Promise<boolean> =>
    (await client.query('select 1 from pg_database where datname = $1', [TEMPLATE])).rows.length > 0;
  if (await there()) return;
  await client.query('select pg_advisory_lock($1)', [TEMPLATE_LOCK]);
  if (await there()) return;
  // Under another name until it is whole: a copy of half a template would be worse than none.
  await client.query(`create database ${TEMPLATE}_making`);
  await (await openDatabase(urlOf(`${TEMPLATE}_making`))).close();
  await client.query(`alter database ${TEMPLATE}_making rename to ${TEMPLATE}`);
}

/** Databases of this process that nobody is using. A file of tests takes over those of the files before it: to empty one is a hundred times quicker than to make one. */
const idle: string[] = [];

/** Everything but which migrations have run, and what can work with them. */
async function empty(database: string): Promise<void> {
  const client = new pg.Client({ connectionString: urlOf(database) });
  await client.connect();
  try {
    const { rows } = await client.query<{ name: string }>(
      `select quote_ident(relname) as name from pg_class
       where relnamespace = 'public'::regnamespace and relkind in ('r', 'p') and not relispartition and relname not in ('vane_migration', 'compatible')`,
    );
    // Without the checks of foreign keys, whose order would have to be kept.
    const deletes = rows.map(({ name }) => `delete from ${name}`);
    await client.query(['set session_replication_role = replica', ...deletes].join(';'));
  } finally {
    await client.end();
  }
}

/** An empty database with Vane's tables, to be given back by its name. */
export async function takeDatabase(): Promise<string> {
  const free = idle.pop();
  const name = free ?? `t_${process.pid}_${made++}`;
  if (free === undefined)
    await administer(async (client) => {
      await ensureTemplate(client);
      const there = await client.query('select 1 from pg_database where datname = $1', [name]);
      if (there.rows.length === 0) await client.query(`create database ${name} template ${TEMPLATE}`);
    });
  await empty(name);
  return name;
}

export const giveBack = (database: string): void => void idle.push(database);
