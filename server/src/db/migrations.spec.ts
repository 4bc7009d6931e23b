import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { pino } from 'pino';
import { judgeHere } from '../threads/judgeThreads';
import { Readings } from '../judging/readings';
import { administer, urlOf } from '../testing/databases';
import { JobsHere } from '../testing/jobsHere';
import { workOf } from '../work';
import { MIGRATION_NAMES, openDatabase } from './orm';
import { openedDatabase } from './database';

/**
 * A migration that has run on anybody's database is never edited again: it would not run there a second time, and two databases of the same version would differ. What has to change is a
 * migration of its own, with a line of its own here.
 */
const WRITTEN: Record<string, string> = {
  Migration0001FirstLight: 'ad69c7604ada1f25',
  Migration0002ClassAndOverrule: 'ab6fb164de82a9ac',
  Migration0003Corrections: '9d1f753b338a10c9',
  Migration0004People: 'eca52bb15a7dd645',
  Migration0005Adults: '75fdc961eb25ab3e',
  Migration0006Screens: '306e5606c820f566',
  Migration0007Papers: 'bbfbb2042a9ef9d0',
  Migration0008AsWritten: '573568f4c40fe44d',
  Migration0009Guessing: '639b62f36424c907',
  Migration0010SchoolDays: '37f542f69e64fc01',
  Migration0011HowTheySaidIt: '991aba4bda6bd92e',
  Migration0012PlaceAndSupport: '24271aeb720aa36d',
  Migration0013Helpers: 'f7eed80a60acbf61',
  Migration0014WhoMarked: '89dff38ffe08aea4',
  Migration0015WorkThatFailed: '7509c4b3c0296743',
  Migration0016BySchool: '1b1aaa3263dce936',
  Migration0017Directory: '9e4c6f488f069861',
  Migration0018Service: 'a3a97dbbb3ba20c0',
  Migration0019OneDatabase: '396982201074cd1b',
  Migration0020OneClass: '3c3eb661d7af4d4c',
  Migration0021OneRule: 'c7a7262838aaddab',
};

describe('migrations', () => {
  it('are all written down here, in order', () => expect(Object.keys(WRITTEN)).toEqual(MIGRATION_NAMES));

  it.each(Object.entries(WRITTEN))('%s is as it was written', (name, hash) => {
    const text = readFileSync(join(import.meta.dirname, 'migrations', `${name}.ts`));
    expect(createHash('sha256').update(text).digest('hex').slice(0, 16)).toBe(hash);
  });
});

/** Every column of every table, with its type and whether it may be empty. */
const shapeOf = async (url: string): Promise<string[]> => {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const { rows } = await client.query<{ line: string }>(
      `select concat_ws(' ', table_name, column_name, data_type, is_nullable) as line from information_schema.columns
       where table_schema = 'public' order by 1`,
    );
    return rows.map(({ line }) => line);
  } finally {
    await client.end();
  }
};

describe('a database of an earlier Vane', () => {
  const FIXTURES = readdirSync(join(import.meta.dirname, 'fixtures')).map((name) => name.replace('.sql', ''));
  const made: string[] = [];
  afterAll(() =>
    administer(async (client) => {
      for (const name of made) await client.query(`drop database if exists ${name} with (force)`);
    }),
  );

  it('is there from the first commit on', () => expect(FIXTURES).toEqual(['2863d6c', '5e8951a', 'e880239']));

  it.each(FIXTURES)(
    'of %s is brought up to date, keeps its answers and is judged',
    async (commit) => {
      const [name, fresh] = [`up_${commit}_${process.pid}`, `up_fresh_${commit}_${process.pid}`];
      made.push(name, fresh);
      await administer(async (client) => {
        for (const one of made.slice(-2)) await client.query(`create database ${one}`);
      });
      const client = new pg.Client({ connectionString: urlOf(name) });
      await client.connect();
      await client.query(readFileSync(join(import.meta.dirname, 'fixtures', `${commit}.sql`), 'utf8'));
      await client.end();

      const orm = await openDatabase(urlOf(name));
      await (await openDatabase(urlOf(fresh))).close();
      try {
        expect(await shapeOf(urlOf(name))).toEqual(await shapeOf(urlOf(fresh)));
        const now = (): Date => new Date('2026-11-25T09:00:00Z');
        const key = {
          schoolId: '0197c000-0000-7000-8000-000000000001',
          classId: '0197c000-0000-7000-8000-000000000002',
        };
        const database = openedDatabase(orm, { url: urlOf(name) }, pino({ level: 'silent' }));
        const jobs = new JobsHere(workOf({ database, judge: judgeHere, now, backups: null, post: null }));
        const current = await new Readings({ database, judge: judgeHere, jobs, now }).current(key);
        expect(current.readings.map((r) => [r.fact, r.responses])).toEqual([['3+4', 4]]);
        expect(current.estimates).toHaveLength(1);
        // What is of no class, as a roster is, can be taken in too.
        await orm.em
          .fork()
          .execute(
            `insert into import (school_id, id, class_id, made_at, adult_name, what, added) values (?, ?, null, now(), 'Mate', 'a roster', 0)`,
            [key.schoolId, '0197c000-0000-7000-8000-0000000000ff'],
          );
      } finally {
        await orm.close();
      }
      // Twenty migrations, twice: a busy machine has taken more than a minute.
    },
    180_000,
  );
});
