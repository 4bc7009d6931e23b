import type { LogPage, LogQuery } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { ClassKey } from '../db/keys';
import { Child, Correction, Note } from '../db/entities';
import { dateStarts, timeZoneOf } from '../db/timeZone';
import { recordsById } from './store';

const PAGE = 200;

/** Conditions of a query and the values in them, in order. */
function conditions(
  key: ClassKey,
  { child, routine, fact, from, to, only }: LogQuery,
  timeZone: string,
): { sql: string; values: unknown[] } {
  const parts: [string, ...unknown[]][] = [['r.school_id = ? and r.class_id = ?', key.schoolId, key.classId]];
  if (child) parts.push(['r.child_id = ?', child]);
  if (routine) parts.push(['s.routine = ?', routine]);
  // A fact as it is written, or the beginning of one.
  if (fact) parts.push([`r.fact like ? escape '\\'`, `${fact.replace(/[\\%_]/g, '\\$&')}%`]);
  if (from) parts.push(['r.shown_at >= ?', dateStarts(from, timeZone)]);
  if (to) parts.push(['r.shown_at < ?', dateStarts(to, timeZone, 1)]);
  if (only === 'void') parts.push(["r.void <> ''"]);
  if (only === 'flagged') parts.push(["r.flags <> '[]'::jsonb"]);
  if (only === 'wrong') parts.push(["r.outcome = 'wrong'"]);
  if (only === 'corrected')
    parts.push(['exists (select 1 from correction c where c.school_id = r.school_id and c.response_id = r.id)']);
  return { sql: parts.map(([sql]) => sql).join(' and '), values: parts.flatMap(([, ...values]) => values) };
}

/** A page of the log, newest first, and how many lines there are in all. */
export async function logPage(em: EntityManager, key: ClassKey, query: LogQuery): Promise<LogPage> {
  const { sql, values } = conditions(key, query, await timeZoneOf(em, key.schoolId));
  const source = `from response r join sitting s on s.school_id = r.school_id and s.id = r.sitting_id where ${sql}`;
  const [counted]: { total: string }[] = await em.execute(`select count(*) as total ${source}`, values);
  const found: { id: string; routine: string }[] = await em.execute(
    `select r.id, s.routine ${source} order by r.shown_at desc, r.id desc limit ${PAGE} offset ?`,
    [...values, query.offset],
  );
  const ids = found.map(({ id }) => id);
  const rows = new Map([...(await recordsById(em, key.schoolId, ids))].map(([id, { row }]) => [id, row]));
  const corrections = await em.find(
    Correction,
    { ...key, responseId: { $in: ids } },
    { orderBy: { madeAt: 'asc', id: 'asc' }, disableIdentityMap: true },
  );
  const sittings = [...new Set([...rows.values()].map((row) => row.sitting))];
  const notes = await em.find(
    Note,
    { ...key, sittingId: { $in: sittings } },
    { orderBy: { madeAt: 'asc', id: 'asc' }, disableIdentityMap: true },
  );
  const names = new Map(
    (await em.find(Child, { ...key }, { fields: ['id', 'nickname'] })).map((c) => [c.id, c.nickname]),
  );
  return {
    total: Number(counted?.total ?? 0),
    rows: found.flatMap(({ id, routine }) => {
      const row = rows.get(id);
      if (!row) return [];
      const made = corrections.filter((c) => c.responseId === id);
      const [first, last] = [made[0], made[made.length - 1]];
      const was = first
        ? `${names.get(first.before.childId) ?? ''}: ${first.before.given === '' ? 'no answer' : first.before.given}`
        : '';
      const corrected = last ? { by: last.adultName, at: last.madeAt.toISOString(), was } : null;
      const own = { routine, corrected, notes: notes.filter((n) => n.sittingId === row.sitting).map((n) => n.text) };
      return [{ ...row, nickname: names.get(row.child) ?? '', ...own }];
    }),
  };
}
