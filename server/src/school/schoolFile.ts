import pg from 'pg';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import { once } from 'node:events';
import { finished } from 'node:stream/promises';
import * as z from 'zod';
import { MIGRATION_NAMES } from '../db/orm';
import { ALSO_CLOSED } from '../db/closed';
import { SchoolTrouble } from './schools';

/**
 * A whole school as one stream of lines (docs/formats.md, "A school's file"): a head, then each table as PostgreSQL's own text (COPY), with a count and a sum of what was read. Tables stand
 * before those that refer to them, so that it can be read in one pass.
 */
const head = z.strictObject({
  'vane-school': z.literal(1),
  note: z.string(),
  school: z.uuid(),
  name: z.string(),
  /** What had been done to the tables, by which a reader knows their shape. */
  migrations: z.array(z.string()).min(1),
  written: z.iso.datetime(),
});
export type SchoolHead = z.infer<typeof head>;
const NOTE = 'Holds children’s answers, adults’ addresses and password hashes: keep it as you keep passwords.';
const begun = z.strictObject({ table: z.string(), columns: z.string() });
const counted = z.strictObject({ rows: z.number().int(), sum: z.string() });
const end = z.strictObject({ rows: z.number().int() });
const END_OF_TABLE = '\\.\n';

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

/** How values are written in text, whatever a server is set to. */
const SAME_TEXT = "set local datestyle = 'ISO'; set local timezone = 'UTC'; set local extra_float_digits = 1";

/** How many rows, and a sum over their contents that does not depend on their order. */
async function sumOf(client: pg.Client, table: Table, schoolId: string): Promise<z.infer<typeof counted>> {
  const { rows } = await client.query<z.infer<typeof counted>>(
    `select count(*)::int as rows, coalesce(sum(hashtextextended(row(${table.columns})::text, 0)), 0)::text as sum from ${ofSchool(table, schoolId)}`,
  );
  return rows[0] ?? { rows: 0, sum: '' };
}

const lineOf = (value: object): Buffer => Buffer.from(`${JSON.stringify(value)}\n`);

/** Writes a school as it stands at one moment. @param client with no transaction begun */
export async function* writeSchool(client: pg.Client, schoolId: string, now: Date): AsyncGenerator<Buffer, number> {
  await client.query(`begin isolation level repeatable read read only; ${SAME_TEXT}`);
  const { rows } = await client.query<{ name: string }>('select name from school where id = $1', [schoolId]);
  const migrations = await client.query<{ name: string }>('select name from vane_migration order by name');
  const first: SchoolHead = {
    'vane-school': 1,
    note: NOTE,
    school: schoolId,
    name: rows[0]?.name ?? '',
    migrations: migrations.rows.map(({ name }) => name),
    written: now.toISOString(),
  };
  yield lineOf(first);
  let all = 0;
  for (const table of await tablesOf(client)) {
    yield lineOf({ table: table.name, columns: table.columns });
    yield* client.query(
      copyTo(`copy (select ${table.columns} from ${ofSchool(table, schoolId)}) to stdout`),
    ) as AsyncIterable<Buffer>;
    yield Buffer.from(END_OF_TABLE);
    const sum = await sumOf(client, table, schoolId);
    yield lineOf(sum);
    all += sum.rows;
  }
  yield lineOf({ rows: all });
  await client.query('commit');
  return all;
}

const NEW_LINE = 10;
/** The lines of a stream, each with its end. Not `readline`: to that one some characters of a nickname are ends of a line too. */
async function* linesOf(chunks: AsyncIterable<Buffer>): AsyncGenerator<Buffer, void> {
  let rest: Buffer[] = [];
  for await (const chunk of chunks) {
    let from = 0;
    for (let at = chunk.indexOf(NEW_LINE); at >= 0; at = chunk.indexOf(NEW_LINE, from)) {
      yield Buffer.concat([...rest, chunk.subarray(from, at + 1)]);
      rest = [];
      from = at + 1;
    }
    if (from < chunk.length) rest.push(chunk.subarray(from));
  }
  if (rest.length > 0) yield Buffer.concat(rest);
}

/** A school's file while it is read: a line number for whoever has to be told that it is damaged. */
export class SchoolReader {
  readonly #lines: AsyncGenerator<Buffer, void>;
  #line = 0;

  constructor(chunks: AsyncIterable<Buffer>) {
    this.#lines = linesOf(chunks);
  }

  /** @throws SchoolTrouble that this is no such file, or one of a newer Vane */
  async head(): Promise<SchoolHead> {
    const read = head.safeParse(parsed(await this.#next()));
    if (!read.success) throw new SchoolTrouble('This is not the file of a school that Vane wrote.');
    const newer = read.data.migrations.filter((name) => !MIGRATION_NAMES.includes(name));
    if (newer.length > 0)
      throw new SchoolTrouble(`The file was written by a newer Vane (${newer.join(', ')}): use that one here first.`);
    return read.data;
  }

  /** Writes all rows into a database whose tables have the shape of the file's, in the transaction that is begun there. @returns how many */
  async into(client: pg.Client, { school }: SchoolHead): Promise<number> {
    await client.query(`${ALSO_CLOSED}; ${SAME_TEXT}`);
    const shapes = new Map((await tablesOf(client)).map(({ name, columns }) => [name, columns]));
    let all = 0;
    for (;;) {
      const line = parsed(await this.#next());
      const last = end.safeParse(line);
      if (last.success) {
        if (last.data.rows !== all) throw this.#damaged();
        return all;
      }
      const which = begun.safeParse(line);
      if (!which.success || shapes.get(which.data.table) !== which.data.columns) throw this.#damaged();
      const table: Table = { name: which.data.table, columns: which.data.columns };
      await this.#copy(client, table);
      const wanted = counted.safeParse(parsed(await this.#next()));
      const found = await sumOf(client, table, school);
      if (!wanted.success || wanted.data.rows !== found.rows || wanted.data.sum !== found.sum)
        throw new SchoolTrouble(
          `${table.name}: ${found.rows} rows were read, and others than were written (line ${this.#line} of the file).`,
        );
      all += found.rows;
    }
  }

  async #copy(client: pg.Client, { name, columns }: Table): Promise<void> {
    const into = client.query(copyFrom(`copy ${name} (${columns}) from stdin`));
    const done = finished(into);
    // It is waited for below, and may fail sooner.
    done.catch(() => undefined);
    for (let line = await this.#next(); line.toString() !== END_OF_TABLE; line = await this.#next())
      if (!into.write(line)) await Promise.race([once(into, 'drain'), done]);
    into.end();
    await done;
  }

  async #next(): Promise<Buffer> {
    this.#line++;
    const broken: IteratorResult<Buffer, void> = { value: undefined, done: true };
    const next = await this.#lines.next().catch(() => broken);
    if (next.done === true) throw this.#damaged();
    return next.value;
  }

  readonly #damaged = (): SchoolTrouble =>
    new SchoolTrouble(`The file is damaged or was not written to its end (line ${this.#line}).`);
}

function parsed(line: Buffer): unknown {
  try {
    return JSON.parse(line.toString());
  } catch {
    return null;
  }
}

/** Takes all rows of a school away, in the transaction that is begun there. @returns how many */
export async function removeRows(client: pg.Client, schoolId: string): Promise<number> {
  await client.query(ALSO_CLOSED);
  let all = 0;
  for (const table of (await tablesOf(client)).toReversed())
    all += (await client.query(`delete from ${ofSchool(table, schoolId)}`)).rowCount ?? 0;
  return all;
}
