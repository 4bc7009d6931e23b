import { toResponse } from '@vane/contract';
import { CLASS_NEWEST, heldReadings, MODEL_VERSION, workingNumber } from '@vane/core';
import type { EntityManager, MikroORM } from '@mikro-orm/postgresql';
import { ClassFit, Judgement, ReadingEntity } from '../db/entities';
import type { ClassKey } from '../db/keys';
import { inTurn, oneAtATime } from '../db/oneAtATime';
import { keyOf } from '../jobs/jobs';
import { recordRows } from '../record/store';
import type { Judge } from '../threads/judgeThreads';
import { fingerprints, fitOf, isSameButForClass, settingsOf, type Basis, type Fit } from './basis';
import { storedReadings } from './storedReadings';

/** What judging is made with. */
export interface JudgingDeps {
  readonly orm: MikroORM;
  readonly judge: Judge;
  readonly now: () => Date;
}

/**
 * Makes stored readings current: a pure function of responses, settings, model version and what the class has in common, kept child by child with a fingerprint of all four. Children whose
 * fingerprint no longer fits are judged again. One server at a time judges a class.
 */
export class Judging {
  constructor(private readonly deps: JudgingDeps) {}

  /** Judges the children of a class who have no current reading. @returns false where another server is at it */
  refresh(key: ClassKey): Promise<boolean> {
    return oneAtATime(this.deps.orm, `judging ${keyOf(key)}`, () => this.#judgeBehind(this.deps.orm.em.fork(), key));
  }

  /** What a class is judged with, learned again where it is behind: once, whoever wants it at the same time. */
  async basis(em: EntityManager, key: ClassKey): Promise<Basis & { readonly fittedAt: Date | null }> {
    const settings = await settingsOf(em, key);
    const fit = await fitOf(em, key);
    return { settings, ...(fit.behind ? await this.#learned(key) : fit) };
  }

  #learned(key: ClassKey): Promise<Pick<Fit, 'values' | 'fittedAt'>> {
    return inTurn(this.deps.orm, `learning ${keyOf(key)}`, async () => {
      const em = this.deps.orm.em.fork();
      const fit = await fitOf(em, key);
      if (!fit.behind) return fit;
      const { schoolId, classId } = key;
      // Numbered in one go: joined with itself, a class that PostgreSQL has not counted yet would take minutes.
      const rows = await recordRows(
        em,
        'r.place <= ?',
        [schoolId, classId, 2 * CLASS_NEWEST],
        `(select *, row_number() over (partition by child_id, kind, fact order by shown_at desc, id desc) as place
          from response where school_id = ? and class_id = ? and void = '' and aid = 'none')`,
      );
      const values = await this.deps.judge.learn(rows.map(toResponse));
      const fittedAt = this.deps.now();
      await em.upsert(ClassFit, {
        schoolId,
        classId,
        modelVersion: MODEL_VERSION,
        responses: fit.responses,
        values,
        fittedAt,
      });
      return { values, fittedAt };
    });
  }

  async #judgeBehind(em: EntityManager, key: ClassKey): Promise<void> {
    const basis = await this.basis(em, key);
    const wanted = await fingerprints(em, key, basis, basis.settings);
    const stored = await em.find(Judgement, { ...key }, { fields: ['childId', 'fingerprint'] });
    // A child whose every answer was moved to another child has no reading left.
    const empty = stored.filter((s) => !wanted.has(s.childId)).map((s) => s.childId);
    if (empty.length > 0) {
      await em.nativeDelete(ReadingEntity, { ...key, childId: { $in: empty } });
      await em.nativeDelete(Judgement, { ...key, childId: { $in: empty } });
    }
    const held = new Set<string>();
    for (const { childId, fingerprint } of stored) {
      const now = wanted.get(childId);
      if (now === fingerprint) wanted.delete(childId);
      else if (now !== undefined && fingerprint !== '' && isSameButForClass(fingerprint, now)) held.add(childId);
    }
    if (wanted.size > 0) await this.#judge(em, key, wanted, basis, held);
  }

  async #judge(
    em: EntityManager,
    { schoolId, classId }: ClassKey,
    wanted: ReadonlyMap<string, string>,
    { values, settings }: Basis,
    held: ReadonlySet<string>,
  ): Promise<void> {
    const children = [...wanted.keys()];
    const rows = await recordRows(
      em,
      "r.school_id = ? and r.class_id = ? and r.child_id = any (string_to_array(?, ',')::uuid[])",
      [schoolId, classId, children.join()],
    );
    const judged = await this.deps.judge.judge(rows.map(toResponse), values, { settings });
    const before = held.size === 0 ? [] : await storedReadings(em, { schoolId, classId });
    const judgements = judged.map((j) =>
      held.has(j.estimate.child)
        ? {
            ...j,
            readings: heldReadings(
              before.filter((r) => r.child === j.estimate.child),
              j.readings,
            ),
          }
        : j,
    );
    const readings = judgements.flatMap((j) =>
      j.readings.map(({ child, pAutomatic, ...reading }) => ({
        school_id: schoolId,
        class_id: classId,
        child_id: child,
        p_automatic: pAutomatic,
        ...reading,
      })),
    );
    const made = { schoolId, classId, modelVersion: MODEL_VERSION, settings, judgedAt: this.deps.now() };
    const sources = judgements.map(({ estimate, readings: own }) => ({
      ...made,
      childId: estimate.child,
      estimate,
      workingNumber: workingNumber(own).number,
      fingerprint: wanted.get(estimate.child) ?? '',
    }));
    // Whoever reads meanwhile sees a whole set: the old one or the new.
    await em.transactional(async (tx) => {
      await tx.execute(
        `with made as (select r.* from json_populate_recordset(null::reading, ?) r where r.school_id = ?),
           gone as (
             delete from reading r where r.school_id = ? and r.child_id = any (string_to_array(?, ',')::uuid[])
               and not exists (select 1 from made m where m.child_id = r.child_id and m.fact = r.fact))
         insert into reading (school_id, child_id, fact, class_id, reading, p_automatic, lean, certainty, responses, days, reason)
         select school_id, child_id, fact, class_id, reading, p_automatic, lean, certainty, responses, days, reason from made
         on conflict (school_id, child_id, fact) do update set class_id = excluded.class_id, reading = excluded.reading, p_automatic = excluded.p_automatic,
           lean = excluded.lean, certainty = excluded.certainty, responses = excluded.responses, days = excluded.days, reason = excluded.reason`,
        [JSON.stringify(readings), schoolId, schoolId, children.join()],
      );
      if (sources.length > 0) await tx.upsertMany(Judgement, sources);
    });
    em.clear();
  }
}
