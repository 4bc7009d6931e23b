import { CLASS_BEFORE, MODEL_VERSION, type ClassValues, type ReadingSettings } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { ClassFit, ResponseEntity } from '../db/entities';
import { classOrChild, type ClassKey, type Which } from '../db/keys';
import { timeZoneOf } from '../db/timeZone';

/** What a class is judged with. */
export interface Basis {
  readonly values: ClassValues;
  readonly settings: ReadingSettings;
}

/** What a class has in common, as it was learned last. */
export interface Fit {
  readonly values: ClassValues;
  /** Null = not learned yet, and judged as any class. */
  readonly fittedAt: Date | null;
  /** It was learned by another version of the model, or the record has grown by a quarter since. */
  readonly behind: boolean;
  /** Responses there are now. */
  readonly responses: number;
}

/** Growth of the record after which a class is learned again. */
const GROWN = 1.25;

export async function fitOf(em: EntityManager, { schoolId, classId }: ClassKey): Promise<Fit> {
  const responses = await em.count(ResponseEntity, { schoolId, classId });
  const stored = await em.findOne(ClassFit, { schoolId, classId }, { disableIdentityMap: true });
  if (stored?.modelVersion !== MODEL_VERSION)
    return { values: CLASS_BEFORE, fittedAt: null, behind: responses > 0, responses };
  return {
    values: stored.values,
    fittedAt: stored.fittedAt,
    behind: responses > GROWN * stored.responses,
    responses,
  };
}

/** What a class is judged with besides: where its school stands. */
export const settingsOf = async (em: EntityManager, { schoolId }: ClassKey): Promise<ReadingSettings> => ({
  timeZone: await timeZoneOf(em, schoolId),
});

/** Whether two fingerprints differ in nothing but when the class was learned: the child answered nothing in between. */
export function isSameButForClass(one: string, other: string): boolean {
  const [a, b] = [one, other].map((text) => (JSON.parse(text) as unknown[]).with(FITTED_AT, null));
  return JSON.stringify(a) === JSON.stringify(b);
}
/** Place of the class's values in a fingerprint. */
const FITTED_AT = 1;

/**
 * By child id: fingerprint of the responses, settings, model version and class values that the readings must be made from. Responses are added and corrected: how many of both there are,
 * and the newest arrival, tell them apart.
 */
export async function fingerprints(
  em: EntityManager,
  which: Which,
  { fittedAt }: Pick<Fit, 'fittedAt'>,
  settings: ReadingSettings,
): Promise<Map<string, string>> {
  const { where, values } = classOrChild(which, 'r');
  const rows: { child_id: string; count: string; corrected: string; last: Date }[] = await em.execute(
    `select all_of.child_id, all_of.count, coalesce(put_right.n, 0) as corrected, all_of.last
     from (select r.child_id, count(*) as count, max(r.received_at) as last from response r where ${where} group by r.child_id) all_of
     left join (
       select r.child_id, count(*) as n from correction c join response r on r.school_id = c.school_id and r.id = c.response_id where ${where} group by r.child_id
     ) put_right on put_right.child_id = all_of.child_id`,
    [...values, ...values],
  );
  return new Map(
    rows.map((row) => [
      row.child_id,
      JSON.stringify([MODEL_VERSION, fittedAt, settings, row.count, row.corrected, row.last]),
    ]),
  );
}
