import type { ImportResult, ImportSum, ImportView } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { audit } from '../request/audit';
import type { Env } from '../request/context';
import { Import } from '../db/entities';
import { RequestProblem } from '../problems/problem';

type Adult = Env['Variables']['adult'];

/** Thrown to leave a look without a trace. */
class OnlyLooked extends Error {
  constructor(readonly sum: ImportSum) {
    super('only looked');
  }
}

interface Kept extends Omit<ImportView, 'by' | 'madeAt'> {
  readonly adultName: string;
  readonly madeAt: Date;
}
const toView = ({ id, what, added, adultName: by, madeAt }: Kept): ImportView => ({
  id,
  what,
  added,
  by,
  madeAt: madeAt.toISOString(),
});

/**
 * Takes a file in, all of it or nothing, and keeps who did and when, so that it can be taken back; or only looks what it would do. `act` is given the id to mark
 * everything new with, and does the same either way: after a look it is all undone.
 */
export async function takeIn(
  em: EntityManager,
  adult: Adult,
  wish: { readonly write: boolean; readonly what: string; readonly classId: string | null; readonly now: Date },
  act: (em: EntityManager, importId: string) => Promise<ImportSum>,
): Promise<ImportResult> {
  const { write, what, classId, now } = wish;
  try {
    return await em.transactional(async (tx) => {
      const importId = v7();
      const sum = await act(tx, importId);
      if (!write) throw new OnlyLooked(sum);
      if (sum.fresh === 0) return { ...sum, imported: null };
      const row = {
        schoolId: adult.schoolId,
        id: importId,
        classId,
        madeAt: now,
        adultName: adult.name,
        what,
        added: sum.fresh,
      };
      await tx.insert(Import, row);
      await audit(tx, adult, now, 'imported', `${sum.fresh} of ${what}`);
      return { ...sum, imported: toView(row) };
    });
  } catch (error) {
    if (error instanceof OnlyLooked) return { ...error.sum, imported: null };
    throw error;
  }
}

/** Recent imports of a class or of the whole school, newest first. */
export async function importsOf(em: EntityManager, schoolId: string, classId: string | null): Promise<ImportView[]> {
  const found = await em.find(Import, { schoolId, classId }, { orderBy: { madeAt: 'desc', id: 'desc' }, limit: 20 });
  return found.map(toView);
}

/**
 * Undoes an import: its answers with their corrections, its sittings, and its children and classes that have no other data. Returns the number of answers deleted.
 */
export async function takeBack(
  em: EntityManager,
  adult: Adult,
  id: string,
  classId: string | null,
  now: Date,
): Promise<number> {
  const { schoolId } = adult;
  return em.transactional(async (tx) => {
    const found = await tx.findOne(Import, { schoolId, id, classId });
    if (!found) throw new RequestProblem('not-found');
    const by = [schoolId, id];
    await tx.execute(
      'delete from correction c using response r where c.school_id = ? and r.school_id = c.school_id and r.id = c.response_id and r.import_id = ?',
      by,
    );
    const gone: { n: string }[] = await tx.execute(
      'with gone as (delete from response where school_id = ? and import_id = ? returning 1) select count(*) as n from gone',
      by,
    );
    await tx.execute(
      `delete from sitting s where s.school_id = ? and s.import_id = ?
       and not exists (select 1 from response r where r.school_id = s.school_id and r.sitting_id = s.id)`,
      by,
    );
    await tx.execute(
      `delete from child c where c.school_id = ? and c.import_id = ?
       and not exists (select 1 from response r where r.school_id = c.school_id and r.child_id = c.id)`,
      by,
    );
    await tx.execute(
      `delete from class k where k.school_id = ? and k.import_id = ?
       and not exists (select 1 from child c where c.school_id = k.school_id and c.class_id = k.id)`,
      by,
    );
    await tx.nativeDelete(Import, { schoolId, id });
    await audit(tx, adult, now, 'import taken back', `${found.added} of ${found.what}`);
    return Number(gone[0]?.n ?? 0);
  });
}
