import type { ImportResult, ImportSum, ImportView } from '@vane/contract';
import { LockMode } from '@mikro-orm/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { audit } from '../request/audit';
import type { Env } from '../request/context';
import { eraseChild } from '../classes/children';
import { Erased, Import } from '../db/entities';
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

/** What an undone import took away, and whom it left: by nickname, children who have moved to another class or have something of their own meanwhile. */
interface TakenBack {
  readonly responses: number;
  readonly left: readonly string[];
}

/** Anything that is kept of a child `c` beside its answers and was not there when the import `i` came. */
const HAS_MORE = `(exists (select 1 from note n where n.school_id = c.school_id and n.child_id = c.id and n.made_at > i.made_at)
  or exists (select 1 from overrule o where o.school_id = c.school_id and o.child_id = c.id and o.made_at > i.made_at)
  or exists (select 1 from group_sheet g where g.school_id = c.school_id and g.children @> to_jsonb(c.id::text) and g.made_at > i.made_at)
  or exists (select 1 from setting s where s.school_id = c.school_id and position(c.id::text in s.value::text) > 0)
  or exists (select 1 from audit a where a.school_id = c.school_id and a.child_id = c.id and a.at > i.made_at)
  or c.support_at > i.made_at or c.archived_at > i.made_at)`;

/**
 * Undoes an import: its answers with their corrections, its sittings, and its children and classes of whom nothing else is kept. Of a class's import, answers of children who are in another class
 * now stay, unless a lead takes it back: their teachers know nothing of it.
 */
export async function takeBack(
  em: EntityManager,
  adult: Adult,
  id: string,
  classId: string | null,
  now: Date,
): Promise<TakenBack> {
  const { schoolId } = adult;
  return em.transactional(async (tx) => {
    const found = await tx.findOne(Import, { schoolId, id, classId }, { lockMode: LockMode.PESSIMISTIC_WRITE });
    if (!found) throw new RequestProblem('not-found');
    const by = [schoolId, id];
    // Of the whole school, or of its class alone.
    const reach = [classId === null || adult.role === 'lead', classId ?? id];
    // Whoever moves one of them waits, or has done it.
    await tx.execute(
      `select 1 from child c where c.school_id = ? and (c.import_id = ? or exists
         (select 1 from response r where r.school_id = c.school_id and r.child_id = c.id and r.import_id = ?)) order by c.id for update`,
      [...by, id],
    );
    const moved = await tx.execute<{ nickname: string }[]>(
      `select nickname from child c where c.school_id = ? and not (?::boolean or c.class_id = ?::uuid) and exists
         (select 1 from response r where r.school_id = c.school_id and r.child_id = c.id and r.import_id = ?)`,
      [schoolId, ...reach, id],
    );
    // Corrections go with their responses.
    const gone: { n: string }[] = await tx.execute(
      `with gone as (delete from response where school_id = ? and import_id = ? and (?::boolean or class_id = ?::uuid) returning 1)
       select count(*) as n from gone`,
      [...by, ...reach],
    );
    await tx.execute(
      `delete from sitting s where s.school_id = ? and s.import_id = ?
       and not exists (select 1 from response r where r.school_id = s.school_id and r.sitting_id = s.id)`,
      by,
    );
    const children = await tx.execute<{ id: string; class_id: string; nickname: string; more: boolean }[]>(
      `select c.id, c.class_id, c.nickname, coalesce(${HAS_MORE}, false) as more
       from child c join import i on i.school_id = c.school_id and i.id = c.import_id where c.school_id = ? and c.import_id = ?
       and not exists (select 1 from response r where r.school_id = c.school_id and r.child_id = c.id) order by c.id`,
      by,
    );
    for (const child of children)
      if (!child.more) await eraseChild(tx, { schoolId, classId: child.class_id }, child.id);
    await tx.execute(
      `delete from class k where k.school_id = ? and k.import_id = ?
       and not exists (select 1 from child c where c.school_id = k.school_id and c.class_id = k.id)`,
      by,
    );
    // What is left of it can still be taken back, by a lead.
    if (moved.length === 0) {
      await tx.nativeDelete(Import, { schoolId, id });
      // Not whenever such a row goes: with a class that is empty by now go rows whose answers went along with its children.
      await tx.insert(Erased, { schoolId, what: 'import', id, at: now });
    }
    await audit(tx, adult, now, 'import taken back', `${found.added} of ${found.what}`);
    const kept = children.filter(({ more }) => more).map(({ nickname }) => nickname);
    return {
      responses: Number(gone[0]?.n ?? 0),
      left: [...new Set([...moved.map(({ nickname }) => nickname), ...kept])],
    };
  });
}
