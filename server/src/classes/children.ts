import type { ClassKey } from '../db/keys';
import type { EntityManager } from '@mikro-orm/postgresql';
import { UniqueConstraintViolationException } from '@mikro-orm/core';
import { v7 } from 'uuid';
import { Child } from '../db/entities';
import { lockSchool } from '../db/locks';
import { arrangeWithout } from './arrangements';
import { JOBS_SCHEMA } from '../jobs/jobs';
import { RequestProblem } from '../problems/problem';

/** Adds children by nickname. */
export async function addChildren(
  em: EntityManager,
  key: ClassKey,
  nicknames: readonly string[],
  now: Date,
): Promise<void> {
  if (nicknames.length === 0) return;
  await taken(() =>
    em.insertMany(
      Child,
      nicknames.map((nickname) => ({ ...key, id: v7(), nickname, createdAt: now, archivedAt: null })),
    ),
  );
  await demandRoom(em, key.schoolId);
}

/** For whatever adds children, in its transaction. Of several at once each counts those of the ones before. @throws RequestProblem that the school has more of them now than it may have */
export async function demandRoom(em: EntityManager, schoolId: string): Promise<void> {
  await lockSchool(em, schoolId);
  const [school] = await em.execute<{ full: boolean | null }[]>(
    'select most_children < (select count(*) from child where school_id = ? and archived_at is null) as full from school where id = ?',
    [schoolId, schoolId],
  );
  if (school?.full) throw new RequestProblem('school-full');
}

/** Runs an act and reports a unique name that is already taken. */
export async function taken<T>(act: () => Promise<T>): Promise<T> {
  try {
    return await act();
  } catch (error) {
    if (error instanceof UniqueConstraintViolationException) throw new RequestProblem('name-taken');
    throw error;
  }
}

/** Moves children to another class of the school; their rows follow by the database itself. A sitting goes along when all its children do; one that was shared stays. */
export async function moveChildren(
  em: EntityManager,
  key: ClassKey,
  children: readonly string[],
  toClass: string,
): Promise<void> {
  const { schoolId, classId } = key;
  const moved = await taken(() => em.nativeUpdate(Child, { ...key, id: { $in: [...children] } }, { classId: toClass }));
  if (moved !== children.length) throw new RequestProblem('not-found');
  for (const child of children) await arrangeWithout(em, schoolId, child);
  const which = children.map(() => '?').join(', ');
  await em.execute(
    `update correction c set class_id = ? from response r
     where c.school_id = ? and r.school_id = c.school_id and r.id = c.response_id and r.child_id in (${which})`,
    [toClass, schoolId, ...children],
  );
  await em.execute(
    `update sitting s set class_id = ? where s.school_id = ? and s.class_id = ?
     and exists (select 1 from response r where r.school_id = s.school_id and r.sitting_id = s.id and r.class_id = ?)
     and not exists (select 1 from response r where r.school_id = s.school_id and r.sitting_id = s.id and r.class_id = ?)`,
    [toClass, schoolId, classId, toClass, classId],
  );
  await em.execute(
    `update note n set class_id = s.class_id from sitting s
     where n.school_id = ? and n.class_id = ? and s.school_id = n.school_id and s.id = n.sitting_id and s.class_id <> n.class_id`,
    [schoolId, classId],
  );
}

/** Work on a child that waits, or that was done and is still remembered. */
async function noWorkOn(em: EntityManager, childId: string): Promise<void> {
  for (const table of ['job', 'archive']) {
    const [there] = await em.execute<{ there: boolean }[]>('select to_regclass(?) is not null as there', [
      `${JOBS_SCHEMA}.${table}`,
    ]);
    if (there?.there) await em.execute(`delete from ${JOBS_SCHEMA}.${table} where data ->> 'childId' = ?`, [childId]);
  }
}

/**
 * Erases a child everywhere: answers, readings, overrules, notes, corrections, plans, and what the audit says of it. What stays are counts. Returns how many
 * responses went.
 */
export async function eraseChild(em: EntityManager, key: ClassKey, childId: string): Promise<number> {
  const { schoolId } = key;
  const counted: { sitting_id: string; n: string }[] = await em.execute(
    'select sitting_id, count(*) as n from response where school_id = ? and child_id = ? group by sitting_id',
    [schoolId, childId],
  );
  // A note on a shared sitting may be about this child, so it is deleted too.
  if (counted.length > 0)
    await em.execute(`delete from note where school_id = ? and sitting_id in (${counted.map(() => '?').join(', ')})`, [
      schoolId,
      ...counted.map((row) => row.sitting_id),
    ]);
  const erased = await em.nativeDelete(Child, { ...key, id: childId });
  if (erased === 0) throw new RequestProblem('not-found');
  await noWorkOn(em, childId);
  // An answer that went to the wrong child first says so in its corrections.
  for (const side of ['before', 'after'])
    await em.execute(
      `update correction set ${side} = jsonb_set(${side}, '{childId}', '""') where school_id = ? and ${side} ->> 'childId' = ?`,
      [schoolId, childId],
    );
  await em.execute(`update audit set child_id = null, detail = '' where school_id = ? and child_id = ?`, [
    schoolId,
    childId,
  ]);
  await arrangeWithout(em, schoolId, childId);
  await em.execute(
    `update group_sheet set children = children - ?, session = session #- array['asked', ?]
     where school_id = ? and children @> to_jsonb(?::text)`,
    [childId, childId, schoolId, childId],
  );
  if (counted.length > 0)
    await em.execute(
      `with gone as (
         delete from sitting s where s.school_id = ? and s.id in (${counted.map(() => '?').join(', ')})
         and not exists (select 1 from response r where r.school_id = s.school_id and r.sitting_id = s.id) returning s.id)
       insert into erased (school_id, what, id, at) select ?, 'sitting', id, now() from gone on conflict do nothing`,
      [schoolId, ...counted.map((row) => row.sitting_id), schoolId],
    );
  return counted.reduce((sum, row) => sum + Number(row.n), 0);
}
