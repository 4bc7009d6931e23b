import pg from 'pg';
import { CannotStart } from '../problems/cannotStart';
import { administer, urlOf } from '../testing/databases';
import { openDatabase } from './orm';

const name = `workable_${process.pid}`;
const other = '0197c000-0000-7000-8000-0000000000aa';
const does = async (sql: string, values: unknown[] = []): Promise<unknown[]> => {
  const client = new pg.Client({ connectionString: urlOf(name) });
  await client.connect();
  try {
    return (await client.query(sql, values)).rows as unknown[];
  } finally {
    await client.end();
  }
};
const opened = async (as?: string): Promise<string> => {
  try {
    await (await openDatabase(urlOf(name), as === undefined ? {} : { as })).close();
    return 'open';
  } catch (error) {
    if (!(error instanceof CannotStart)) throw error;
    return error.message;
  }
};
beforeEach(() => administer((client) => client.query(`create database ${name}`)));
afterEach(() => administer((client) => client.query(`drop database ${name} with (force)`)));

describe('a database of a newer Vane', () => {
  it('is left alone where its tables are no longer this program’s, and used where they are', async () => {
    expect(await opened()).toBe('open');
    const [{ oldest }] = (await does('select oldest from compatible')) as [{ oldest: string }];
    await does("insert into vane_migration (name) values ('Migration0098Column')");
    await does("insert into compatible values ('Migration0098Column', $1)", [oldest]);
    expect(await opened()).toBe('open');
    await does("insert into compatible values ('Migration0099Shape', 'Migration0099Shape')");
    expect(await opened()).toMatch(/a newer Vane has changed its tables \(Migration0099Shape\).*start the newer one/);
  });
});

describe('a database of a Vane that kept schools in several', () => {
  const before = 'Migration0018Service';
  it('is refused with the schools that live elsewhere, or are on their way, and nothing is changed', async () => {
    expect(await opened(before)).toBe('open');
    await does('insert into directory values ($1, $2)', [other, 'second']);
    await does(
      "insert into school (id, name, time_zone, created_at, moving_at) values ($1, 'Saltmarsh', 'Europe/London', now(), now())",
      ['0197c000-0000-7000-8000-0000000000bb'],
    );
    const said = await opened();
    for (const part of [
      `the school ${other} lives in the database "second"`,
      'Saltmarsh is just being moved',
      'docs/running.md',
    ])
      expect(said).toContain(part);
    expect(await does('select school_id from directory')).toHaveLength(1);
    await does('delete from directory');
    expect(await opened()).toMatch(/Saltmarsh is just being moved/);
    await does('update school set moving_at = null');
    expect(await opened()).toBe('open');
  });
});
