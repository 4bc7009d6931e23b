import { toResponse } from '@vane/contract';
import { DEFAULT_READING_SETTINGS, MODEL_VERSION, type ChildEstimate, type Reading, type ReadingSettings, type Response } from '@vane/core';
import type { EntityManager, MikroORM } from '@mikro-orm/postgresql';
import type { Logger } from 'pino';
import * as z from 'zod';
import type { ClassKey } from '../classes/children';
import { Judgement, ReadingEntity, ResponseEntity, Setting } from '../db/entities';
import { responsesOf, toRecordRow } from '../record/store';
import type { Judge } from './judge';

const readingSettings = z.object({
  knowsFrom: z.number().min(0.5).max(0.99),
  countsUpTo: z.number().min(0.01).max(0.5),
  leastAnswers: z.number().int().min(1).max(20),
  leastDays: z.number().int().min(1).max(10),
});

/** A class's readings with what they were made from. */
export interface ClassJudgement {
  readonly readings: readonly Reading[];
  readonly estimates: readonly ChildEstimate[];
  readonly judgedAt: Date;
}

/** A child with no response yet has no estimate of its own either. */
const emptyEstimate = (child: string): ChildEstimate => ({ child, times: { hand: {}, retrieve: 0.61, pace: 0.73 }, copies: {}, counts: 0 });

/**
 * Stored readings of classes: a pure function of responses, settings and model version, kept with a fingerprint of all three. Whoever asks gets
 * current ones: a fingerprint that no longer fits has them made again first. New responses have that done ahead of asking.
 */
export class Readings {
  /** Judgements under way, by class, so that two who ask at once share one. */
  readonly #underWay = new Map<string, Promise<ClassJudgement>>();

  constructor(
    private readonly deps: { readonly orm: MikroORM; readonly judge: Judge; readonly log: Logger; readonly now: () => Date },
  ) {}

  /** Makes a class's readings current in the background. A failure is logged; the next to ask tries again and is told. */
  refreshSoon(key: ClassKey): void {
    this.current(key).catch((error: unknown) => {
      this.deps.log.error({ error, classId: key.classId }, 'readings could not be refreshed');
    });
  }

  /** The class's readings, current. */
  async current(key: ClassKey): Promise<ClassJudgement> {
    const name = `${key.schoolId}/${key.classId}`;
    const before = this.#underWay.get(name);
    // One that is under way may have read the record before the newest response: wait for it, then look again.
    if (before) await before.catch(() => undefined);
    const shared = this.#underWay.get(name);
    if (shared) return shared;
    const work = this.#make(key).finally(() => this.#underWay.delete(name));
    this.#underWay.set(name, work);
    return work;
  }

  async #make(key: ClassKey): Promise<ClassJudgement> {
    const em = this.deps.orm.em.fork();
    const settings = await this.settings(em, key);
    const fingerprint = await fingerprintOf(em, key, settings);
    const stored = await em.findOne(Judgement, { ...key });
    if (stored?.fingerprint === fingerprint) {
      return { readings: await storedReadings(em, key), estimates: stored.estimates, judgedAt: stored.judgedAt };
    }
    const responses: Response[] = [];
    for await (const page of responsesOf(em, key, 20_000)) for (const row of page) responses.push(toResponse(row));
    const judgements = await this.deps.judge.judge(responses, { settings });
    const judgedAt = this.deps.now();
    const readings = judgements.flatMap((j) => j.readings);
    const estimates = judgements.map((j) => j.estimate);
    await em.transactional(async (tx) => {
      await tx.nativeDelete(ReadingEntity, { ...key });
      for (let i = 0; i < readings.length; i += 1000) {
        await tx.insertMany(
          ReadingEntity,
          readings.slice(i, i + 1000).map(({ child, ...reading }) => ({ ...key, childId: child, ...reading })),
        );
      }
      await tx.upsert(Judgement, { ...key, fingerprint, modelVersion: MODEL_VERSION, settings, estimates, judgedAt });
    });
    return { readings, estimates, judgedAt };
  }

  /** The class's settings for readings; the defaults where none, or none that can be read, are stored. */
  async settings(em: EntityManager, key: ClassKey): Promise<ReadingSettings> {
    const row = await em.findOne(Setting, { ...key, name: 'reading' });
    const parsed = readingSettings.safeParse(row?.value);
    return parsed.success ? parsed.data : DEFAULT_READING_SETTINGS;
  }

  /** One child's readings as they were before its last sitting, with its responses, oldest first. */
  async beforeLastSitting(key: ClassKey, childId: string): Promise<{ responses: Response[]; before: readonly Reading[] }> {
    const em = this.deps.orm.em.fork();
    const rows = await em.find(ResponseEntity, { ...key, childId }, { orderBy: { shownAt: 'asc', id: 'asc' }, disableIdentityMap: true });
    const responses = rows.map((row) => toResponse(toRecordRow(row)));
    const last = responses[responses.length - 1]?.sitting;
    const earlier = responses.filter((r) => r.sitting !== last);
    const [judged] = await this.deps.judge.judge(earlier, { settings: await this.settings(em, key) });
    return { responses, before: judged?.readings ?? [] };
  }

  /** What is known of a child's times. */
  static estimateOf(judgement: ClassJudgement, childId: string): ChildEstimate {
    return judgement.estimates.find((e) => e.child === childId) ?? emptyEstimate(childId);
  }
}

async function fingerprintOf(em: EntityManager, key: ClassKey, settings: ReadingSettings): Promise<string> {
  const [row]: { count: string; last: Date | null }[] = await em.execute(
    'select count(*) as count, max(received_at) as last from response where school_id = ? and class_id = ?',
    [key.schoolId, key.classId],
  );
  return JSON.stringify([MODEL_VERSION, settings, row?.count ?? '0', row?.last ?? null]);
}

async function storedReadings(em: EntityManager, key: ClassKey): Promise<Reading[]> {
  const rows = await em.find(ReadingEntity, { ...key }, { orderBy: { childId: 'asc', fact: 'asc' }, disableIdentityMap: true });
  return rows.map((r) => ({
    child: r.childId,
    fact: r.fact,
    reading: r.reading,
    pAutomatic: r.pAutomatic,
    lean: r.lean,
    certainty: r.certainty,
    responses: r.responses,
    days: r.days,
    reason: r.reason,
  }));
}
