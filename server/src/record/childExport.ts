import type { RecordRow, SittingRow } from '@vane/contract';
import { MODEL_VERSION, type Reading } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { ClassKey } from '../db/keys';
import { Child, Correction, Note, Overrule, Sitting } from '../db/entities';
import { RequestProblem } from '../problems/problem';
import { supportFile } from '../classes/support';
import { recordOf } from './store';

/** Everything stored about one child, as exported: an open format (docs/formats.md). */
interface ChildFile {
  readonly format: 'vane-child';
  readonly version: 3;
  readonly made_at: string;
  readonly child: string;
  readonly sittings: readonly SittingRow[];
  readonly responses: readonly RecordRow[];
  readonly corrections: readonly object[];
  readonly model: string;
  readonly readings: readonly Reading[];
  readonly overrules: readonly object[];
  readonly notes: readonly object[];
  /** Adjustments for the child; null = nothing is noted. */
  readonly support: object | null;
  /** What is said at the door, where a teacher has changed it. */
  readonly door: string;
}

/** Collects a child's whole record. Other children are named nowhere in it: a correction that gave an answer to or from another child says only that. */
export async function childFile(
  em: EntityManager,
  key: ClassKey,
  childId: string,
  readings: readonly Reading[],
  now: Date,
): Promise<ChildFile> {
  const child = await em.findOne(Child, { ...key, id: childId });
  if (!child) throw new RequestProblem('not-found');
  const rows = await recordOf(em, { ...key, childId });
  const sittings = await em.find(
    Sitting,
    { schoolId: key.schoolId, id: { $in: [...new Set(rows.map((r) => r.sitting))] } },
    { orderBy: { startedAt: 'asc' } },
  );
  const corrections = await em.find(
    Correction,
    { ...key, responseId: { $in: rows.map((r) => r.response_id) } },
    { orderBy: { madeAt: 'asc' } },
  );
  const overrules = await em.find(Overrule, { ...key, childId }, { orderBy: { madeAt: 'asc' } });
  const notes = await em.find(Note, { ...key, childId }, { orderBy: { madeAt: 'asc' } });
  const who = (id: string): string => (id === childId ? child.nickname : 'another child');
  return {
    format: 'vane-child',
    version: 3,
    made_at: now.toISOString(),
    child: child.nickname,
    sittings: sittings.map((s) => ({
      id: s.id,
      routine: s.routine,
      started_at: s.startedAt.toISOString(),
      answer_mode: s.answerMode,
      settings: s.settings ?? null,
    })),
    responses: rows.map((row) => ({ ...row, child: child.nickname })),
    corrections: corrections.map((c) => ({
      response_id: c.responseId,
      what: c.what,
      before: { ...c.before, childId: undefined, child: who(c.before.childId) },
      after: { ...c.after, childId: undefined, child: who(c.after.childId) },
      by: c.adultName,
      made_at: c.madeAt.toISOString(),
    })),
    model: MODEL_VERSION,
    readings: readings.map((reading) => ({ ...reading, child: child.nickname })),
    overrules: overrules.map((o) => ({
      fact: o.fact,
      reading: o.reading,
      reason: o.reason,
      by: o.adultName,
      made_at: o.madeAt.toISOString(),
      removed_at: o.removedAt?.toISOString() ?? null,
    })),
    notes: notes.map((n) => ({ text: n.text, by: n.adultName, made_at: n.madeAt.toISOString() })),
    support: supportFile(child),
    door: child.door,
  };
}
