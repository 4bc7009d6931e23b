import type { EntityManager } from '@mikro-orm/postgresql';
import { readFile, rename, writeFile } from 'node:fs/promises';
import * as z from 'zod';
import { eraseChild } from '../classes/children';
import { ALSO_CLOSED } from '../db/closed';
import { Adult, Child, Import } from '../db/entities';
import { audit } from '../request/audit';
import { SERVICE } from './schools';

/** What was deleted for good, by its id alone. */
const erasedId = z.object({
  school_id: z.uuid(),
  what: z.enum(['school', 'adult', 'child', 'import', 'sitting']),
  id: z.string(),
  at: z.iso.datetime({ offset: true }),
});
export type ErasedId = z.infer<typeof erasedId>;

/** What a database remembers. */
export const erasedIn = (em: EntityManager): Promise<ErasedId[]> =>
  em.execute<ErasedId[]>(
    `select school_id, what, id, to_char(at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') as at from erased order by at, id`,
  );

/** What a file remembers, a line each; null = there is no file. Lines that cannot be read are passed over: the others count all the same. */
export async function erasedInFile(file: string): Promise<ErasedId[] | null> {
  const text = await readFile(file, 'utf8').catch(() => null);
  if (text === null) return null;
  return text.split('\n').flatMap((line) => {
    const [school_id, what, id, at] = line.split(',');
    const read = erasedId.safeParse({ school_id, what, id, at });
    return read.success ? [read.data] : [];
  });
}

/** Those that are in none of the tables: what came again on purpose is struck off. */
const stillGone = (em: EntityManager, all: readonly ErasedId[]): Promise<ErasedId[]> =>
  em.execute<ErasedId[]>(
    `select w.* from json_to_recordset(?) as w(school_id uuid, what text, id text, at text)
     where not case w.what
       when 'school' then exists (select 1 from school t where t.id::text = w.id)
       when 'adult' then exists (select 1 from adult t where t.school_id = w.school_id and t.id::text = w.id)
       when 'child' then exists (select 1 from child t where t.school_id = w.school_id and t.id::text = w.id)
       when 'import' then exists (select 1 from import t where t.school_id = w.school_id and t.id::text = w.id)
       else exists (select 1 from sitting t where t.school_id = w.school_id and t.id = w.id) end`,
    [JSON.stringify(all)],
  );

/** Each once. */
export const together = (...lists: readonly (readonly ErasedId[])[]): ErasedId[] => [
  ...new Map(lists.flat().map((one) => [`${one.school_id} ${one.what} ${one.id}`, one])).values(),
];

/** Keeps the list outside the database too, so that it outlives that. What the file knows from an earlier database stays. */
export async function keepErased(em: EntityManager, file: string): Promise<void> {
  const all = await stillGone(em, together((await erasedInFile(file)) ?? [], await erasedIn(em)));
  if (all.length === 0) return;
  const whole = `${file}.making`;
  const lines = all.map((one) => `${one.school_id},${one.what},${one.id},${one.at}\n`);
  await writeFile(whole, lines.join(''), { mode: 0o600 });
  await rename(whole, file);
}

/** A school's own answers of an import that was taken back. */
async function eraseImport(em: EntityManager, { school_id: schoolId, id }: ErasedId): Promise<number> {
  await em.execute('delete from response where school_id = ? and import_id = ?', [schoolId, id]);
  await em.execute(
    `delete from sitting s where s.school_id = ? and s.import_id = ?
     and not exists (select 1 from response r where r.school_id = s.school_id and r.sitting_id = s.id)`,
    [schoolId, id],
  );
  return em.nativeDelete(Import, { schoolId, id });
}

/** A deleted child, with all that is deleted with it. */
async function eraseChildOf(em: EntityManager, { school_id: schoolId, id }: ErasedId, now: Date): Promise<number> {
  const child = await em.findOne(Child, { schoolId, id });
  if (!child) return 0;
  const responses = await eraseChild(em, { schoolId, classId: child.classId }, id);
  await audit(em, { schoolId, ...SERVICE }, now, 'child deleted', `with ${responses} responses, again after a restore`);
  return 1;
}

/** Deletes in a database that was read from a backup what was deleted after that had been made, but for whole schools. @returns how many children, adults and imports */
export async function eraseAgain(em: EntityManager, all: readonly ErasedId[], now: Date): Promise<number> {
  return em.transactional(async (tx) => {
    await tx.execute(ALSO_CLOSED);
    let gone = 0;
    for (const one of all) {
      const { school_id: schoolId, id } = one;
      if (one.what === 'adult') gone += await tx.nativeDelete(Adult, { schoolId, id });
      else if (one.what === 'child') gone += await eraseChildOf(tx, one, now);
      else if (one.what === 'import') gone += await eraseImport(tx, one);
      else if (one.what === 'sitting')
        await tx.execute(
          `delete from sitting s where s.school_id = ? and s.id = ?
           and not exists (select 1 from response r where r.school_id = s.school_id and r.sitting_id = s.id)`,
          [schoolId, id],
        );
    }
    await tx.execute(
      `insert into erased (school_id, what, id, at) select school_id, what, id, at
       from json_to_recordset(?) as w(school_id uuid, what text, id text, at timestamptz) on conflict do nothing`,
      [JSON.stringify(all)],
    );
    return gone;
  });
}
