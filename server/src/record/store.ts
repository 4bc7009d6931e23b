import type { BatchResult, RecordRow, SittingRow } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { ClassKey } from '../classes/children';
import { Child, ResponseEntity, Sitting, type ResponseRowEntity } from '../db/entities';

/** A response as a row of the record, its child named by id. */
export const toRecordRow = (r: ResponseRowEntity): RecordRow => ({
  response_id: r.id,
  child: r.childId,
  sitting: r.sittingId,
  shown_at: r.shownAt.toISOString(),
  kind: r.kind,
  fact: r.fact,
  answer_mode: r.answerMode,
  exposure_ms: r.exposureMs ?? null,
  response_ms: r.responseMs ?? null,
  given: r.given,
  outcome: r.outcome,
  observed: r.observed,
  aid: r.aid,
  void: r.void,
  flags: r.flags,
  quality: r.quality ?? null,
  extra: r.extra,
});

const toEntity = (row: RecordRow, key: ClassKey, receivedAt: Date) => ({
  ...key,
  id: row.response_id,
  childId: row.child,
  sittingId: row.sitting,
  shownAt: new Date(row.shown_at),
  kind: row.kind,
  fact: row.fact,
  answerMode: row.answer_mode,
  exposureMs: row.exposure_ms,
  responseMs: row.response_ms,
  given: row.given,
  outcome: row.outcome,
  observed: row.observed,
  aid: row.aid,
  void: row.void,
  flags: row.flags,
  quality: row.quality,
  extra: row.extra,
  receivedAt,
});

/** Rows of one insert: below PostgreSQL's 65,535 parameters with room to spare. */
const CHUNK = 500;

/** Adds sittings that are not there yet. */
export async function addSittings(em: EntityManager, key: ClassKey, sittings: readonly SittingRow[]): Promise<void> {
  for (let i = 0; i < sittings.length; i += CHUNK) {
    const rows = sittings.slice(i, i + CHUNK).map((s) => ({
      ...key,
      id: s.id,
      routine: s.routine,
      startedAt: new Date(s.started_at),
      answerMode: s.answer_mode,
      settings: s.settings,
    }));
    await em.createQueryBuilder(Sitting).insert(rows).onConflict(['schoolId', 'id']).ignore().execute();
  }
}

async function refusals(em: EntityManager, key: ClassKey, rows: readonly RecordRow[]): Promise<(row: RecordRow) => string | null> {
  const children = new Set((await em.find(Child, { ...key }, { fields: ['id'] })).map((c) => c.id));
  const sittings = new Set((await em.find(Sitting, { ...key, id: { $in: [...new Set(rows.map((r) => r.sitting))] } }, { fields: ['id'] })).map((s) => s.id));
  return (row) => {
    if (!children.has(row.child)) return 'this child is not in the class';
    return sittings.has(row.sitting) ? null : 'its sitting is not in the class';
  };
}

/**
 * Adds responses to the record, each once however often it is sent. The first one stays: a second row under the same id changes nothing.
 * Children are named by id. Rows that do not belong are refused by name; the others are kept.
 */
export async function addResponses(em: EntityManager, key: ClassKey, rows: readonly RecordRow[], now: Date): Promise<BatchResult> {
  const wanted = new Map(rows.map((row) => [row.response_id, row]));
  const refused: { id: string; reason: string }[] = [];
  const known = await em.find(ResponseEntity, { schoolId: key.schoolId, id: { $in: [...wanted.keys()] } }, { fields: ['id', 'classId'] });
  for (const { id, classId } of known) {
    wanted.delete(id);
    if (classId !== key.classId) refused.push({ id, reason: 'another class has a response of this id' });
  }
  const refusal = await refusals(em, key, [...wanted.values()]);
  for (const row of wanted.values()) {
    const reason = refusal(row);
    if (reason === null) continue;
    wanted.delete(row.response_id);
    refused.push({ id: row.response_id, reason });
  }
  const fresh = [...wanted.values()];
  for (let i = 0; i < fresh.length; i += CHUNK) {
    const chunk = fresh.slice(i, i + CHUNK).map((row) => toEntity(row, key, now));
    await em.createQueryBuilder(ResponseEntity).insert(chunk).onConflict(['schoolId', 'id']).ignore().execute();
  }
  em.clear();
  return {
    accepted: fresh.map((row) => row.response_id),
    already: known.filter((k) => k.classId === key.classId).map((k) => k.id),
    refused,
  };
}

/** Pages through a class's responses in the order in which they were shown, without holding them all. */
export async function* responsesOf(em: EntityManager, key: ClassKey, pageSize = 2000): AsyncGenerator<RecordRow[]> {
  let after: { shownAt: Date; id: string } | null = null;
  for (;;) {
    const page: ResponseRowEntity[] = await em.find(
      ResponseEntity,
      after === null ? { ...key } : { ...key, $or: [{ shownAt: { $gt: after.shownAt } }, { shownAt: after.shownAt, id: { $gt: after.id } }] },
      { orderBy: { shownAt: 'asc', id: 'asc' }, limit: pageSize, disableIdentityMap: true },
    );
    if (page.length > 0) yield page.map(toRecordRow);
    const last = page[page.length - 1];
    if (page.length < pageSize || !last) return;
    after = last;
  }
}
