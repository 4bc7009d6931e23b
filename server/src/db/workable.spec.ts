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

describe('rows that were left behind in a class of before', () => {
  it('are put into their child’s class, and the school is told; open invitations, of which nobody knows the maker, end', async () => {
    expect(await opened('Migration0019OneDatabase')).toBe('open');
    const [school, old, present, child] = ['b0', 'b1', 'b2', 'b3'].map(
      (end) => `0197c000-0000-7000-8000-0000000000${end}`,
    );
    await does("insert into school (id, name, created_at) values ($1, 'Saltmarsh', now())", [school]);
    for (const [id, name] of [
      [old, 'Curlew'],
      [present, 'Tern'],
    ])
      await does('insert into class (school_id, id, name, created_at) values ($1, $2, $3, now())', [school, id, name]);
    await does("insert into child (school_id, id, class_id, nickname, created_at) values ($1, $2, $3, 'Odo', now())", [
      school,
      child,
      present,
    ]);
    await does(
      "insert into sitting (school_id, id, class_id, routine, started_at, answer_mode) values ($1, 's', $2, 'sums', now(), 'tap')",
      [school, old],
    );
    for (const [id, classId] of [
      ['stranded', old],
      ['right', present],
    ])
      await does(
        `insert into response (school_id, id, class_id, child_id, sitting_id, shown_at, kind, fact, answer_mode, given, outcome, observed, aid, void, flags, extra, received_at)
         values ($1, $2, $3, $4, 's', now(), 'add', '2+3', 'tap', '5', 'correct', '', 'none', '', '[]', '{}', now())`,
        [school, id, classId, child],
      );
    await does(
      `insert into adult_link (school_id, id, token_hash, purpose, name, email, role, classes, expires_at)
       values ($1, $2, 'x', 'join', 'Mate', 'mate@quay.example', 'lead', '[]', now() + interval '1 day')`,
      [school, child],
    );
    expect(await opened()).toBe('open');
    expect(await does('select distinct class_id from response')).toEqual([{ class_id: present }]);
    expect(await does('select what, detail from audit order by what')).toEqual([
      { what: 'invitations ended', detail: 'Mate: please invite them again' },
      { what: 'put right', detail: '1 rows of children who had moved, into their present class' },
    ]);
    expect(await does('select 1 from adult_link')).toEqual([]);
  });
});
