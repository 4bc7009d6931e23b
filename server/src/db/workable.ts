import type { MikroORM } from '@mikro-orm/postgresql';
import { CannotStart } from '../problems/cannotStart';

/** A migration, and the oldest program that can still work with what it made: by the newest migration which that one knows. */
export interface Step {
  readonly name: string;
  readonly oldest?: string;
}

type Ask = <T>(sql: string) => Promise<T[]>;

const isThere = async (ask: Ask, table: string): Promise<boolean> =>
  (await ask<{ there: boolean }>(`select to_regclass('public.${table}') is not null as there`))[0]?.there === true;

/** Why this program must leave a database alone; null = nothing speaks against it. `known`: the migrations of this program. */
export async function unworkable(ask: Ask, known: readonly string[]): Promise<string | null> {
  if (await isThere(ask, 'compatible')) {
    const newer = (await ask<Required<Step> & { migration: string }>('select migration, oldest from compatible'))
      .filter(({ migration, oldest }) => !known.includes(migration) && !known.includes(oldest))
      .map(({ migration }) => migration);
    return newer.length === 0
      ? null
      : `a newer Vane has changed its tables (${newer.join(', ')}), and this one would do harm there: start the newer one.`;
  }
  if (!(await isThere(ask, 'directory'))) return null;
  // Of a Vane that kept schools in several databases.
  const elsewhere = await ask<{ id: string; shard: string }>('select school_id as id, shard from directory');
  const moving = await ask<{ name: string }>('select name from school where moving_at is not null');
  const all = [
    ...elsewhere.map(({ id, shard }) => `the school ${id} lives in the database "${shard}"`),
    ...moving.map(({ name }) => `${name} is just being moved`),
  ];
  return all.length === 0
    ? null
    : `${all.join('; ')}. This version keeps all schools of a Vane in one database: move them to "first" with the version before, or make each further database a Vane of its own (docs/running.md, "From several databases to one").`;
}

/** @throws CannotStart */
export async function demandWorkable(orm: MikroORM, known: readonly string[]): Promise<void> {
  const em = orm.em.fork();
  const fault = await unworkable((sql) => em.execute(sql), known);
  if (fault !== null) throw new CannotStart(`The database cannot be used: ${fault}`);
}

/** Writes down, for programs older than this one, which of them can still work with these tables. */
export async function writeSteps(orm: MikroORM, steps: readonly Step[]): Promise<void> {
  const em = orm.em.fork();
  if (!(await isThere((sql) => em.execute(sql), 'compatible'))) return;
  for (const { name, oldest } of steps)
    if (oldest !== undefined)
      await em.execute('insert into compatible values (?, ?) on conflict do nothing', [name, oldest]);
}
