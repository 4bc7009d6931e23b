import { toResponse, type LastSession, type RecordRow } from '@vane/contract';
import {
  CLASS_NEWEST,
  DEFAULT_READING_SETTINGS,
  lastSession,
  MODEL_VERSION,
  movedReadings,
  workingNumber,
  type ChildJudgement,
  type ChildEstimate,
  type ClassValues,
  type Reading,
  type ReadingSettings,
} from '@vane/core';
import type { EntityManager, MikroORM } from '@mikro-orm/postgresql';
import type { Logger } from 'pino';
import * as z from 'zod';
import type { ClassKey } from '../db/keys';
import { ClassFit, Judgement, ReadingEntity, ResponseEntity, Setting } from '../db/entities';
import { recordOf, recordRows } from '../record/store';
import type { Judge } from '../threads/judgeThreads';
import { classOrChild, type Which } from '../db/keys';
import { timeZoneOf } from '../db/timeZone';
import { logged } from '../problems/logged';

/** What a class has chosen; where it stands is its school's. */
const readingSettings = z.object({
  knowsFrom: z.number().min(0.5).max(0.99),
  countsUpTo: z.number().min(0.01).max(0.5),
  leastAnswers: z.number().int().min(1).max(20),
  leastDays: z.number().int().min(1).max(10),
});

/** Readings with what they were made from. */
export interface CurrentReadings {
  readonly readings: readonly Reading[];
  readonly estimates: readonly ChildEstimate[];
  readonly judgedAt: Date | null;
  readonly basis: Basis;
}

/** What a class is judged with. */
export interface Basis {
  readonly values: ClassValues;
  readonly settings: ReadingSettings;
}

/**
 * Stored readings: a pure function of responses, settings, model version and what the class has in common, kept child by child with a fingerprint of all four. Whoever asks gets
 * current ones: children whose fingerprint no longer fits are judged again first. New responses have that done ahead of asking.
 */
export class Readings {
  /** The newest work on each class: one after the other, so that nothing is judged twice at once. */
  readonly #queue = new Map<string, Promise<unknown>>();
  readonly #soon = new Map<string, ReturnType<typeof setTimeout>>();
  #background: Promise<void> = Promise.resolve();

  constructor(
    private readonly deps: {
      readonly orm: MikroORM;
      readonly judge: Judge;
      readonly log: Logger;
      readonly now: () => Date;
    },
  ) {}

  /**
   * Makes a class's readings current in the background, a little later and once for all that arrives until then: a carpet full of sittings must not be judged
   * after every answer. A failure is logged; the next to ask tries again and is told.
   */
  refreshSoon(key: ClassKey): void {
    const name = `${key.schoolId}/${key.classId}`;
    if (this.#soon.has(name)) return;
    const timer = setTimeout(() => {
      this.#soon.delete(name);
      // One class after the other; requests that wait for an answer go first.
      this.#background = this.#background
        .then(() => this.#inTurn(key, () => this.#refresh(this.deps.orm.em.fork(), key)))
        .then(() => undefined)
        .catch((error: unknown) => {
          this.deps.log.error({ error: logged(error), classId: key.classId }, 'readings could not be refreshed');
        });
    }, REFRESH_AFTER_MS);
    this.#soon.set(name, timer);
  }

  /** Drops pending refreshes, and waits for the one that is being made: the next request judges. */
  close(): Promise<void> {
    for (const timer of this.#soon.values()) clearTimeout(timer);
    this.#soon.clear();
    return this.#background;
  }

  /** Current readings of the class, or of one child in it. */
  async current(key: ClassKey, childId?: string): Promise<CurrentReadings> {
    const which = { ...key, ...(childId === undefined ? {} : { childId }) };
    return this.#inTurn(key, async () => {
      const em = this.deps.orm.em.fork();
      const basis = await this.#refresh(em, which);
      const judgements = await em.find(Judgement, { ...which }, { disableIdentityMap: true });
      return {
        readings: await storedReadings(em, which),
        basis,
        estimates: judgements.map((j) => j.estimate),
        judgedAt: judgements.reduce<Date | null>(
          (latest, j) => (latest === null || j.judgedAt > latest ? j.judgedAt : latest),
          null,
        ),
      };
    });
  }

  async #inTurn<T>(key: ClassKey, act: () => Promise<T>): Promise<T> {
    const name = `${key.schoolId}/${key.classId}`;
    const before = this.#queue.get(name) ?? Promise.resolve();
    const work = before.catch(() => undefined).then(act);
    this.#queue.set(name, work);
    try {
      return await work;
    } finally {
      if (this.#queue.get(name) === work) this.#queue.delete(name);
    }
  }

  /** What a class is judged with. */
  async basis(
    em: EntityManager,
    key: ClassKey,
  ): Promise<{ settings: ReadingSettings; values: ClassValues; fittedAt: Date }> {
    return { settings: await settingsOf(em, key), ...(await this.#classFit(em, key)) };
  }

  /** Judges children without a current reading; returns the class's values and settings. */
  async #refresh(em: EntityManager, which: Which): Promise<Basis> {
    const { settings, values, fittedAt } = await this.basis(em, which);
    const wanted = await fingerprints(em, which, [MODEL_VERSION, fittedAt, settings]);
    const stored = await em.find(Judgement, { ...which }, { fields: ['childId', 'fingerprint'] });
    // A child whose every answer was moved to another child has no reading left.
    const empty = stored.filter((s) => !wanted.has(s.childId)).map((s) => s.childId);
    if (empty.length > 0) {
      await em.nativeDelete(ReadingEntity, { ...which, childId: { $in: empty } });
      await em.nativeDelete(Judgement, { ...which, childId: { $in: empty } });
    }
    for (const { childId, fingerprint } of stored) if (wanted.get(childId) === fingerprint) wanted.delete(childId);
    if (wanted.size > 0) await this.#judgeAgain(em, which, wanted, values, settings);
    return { values, settings };
  }

  /** The class's values: learned again when the model has changed, or the record has grown by a quarter. */
  async #classFit(
    em: EntityManager,
    { schoolId, classId }: ClassKey,
  ): Promise<{ values: ClassValues; fittedAt: Date }> {
    const responses = await em.count(ResponseEntity, { schoolId, classId });
    const stored = await em.findOne(ClassFit, { schoolId, classId }, { disableIdentityMap: true });
    if (stored?.modelVersion === MODEL_VERSION && responses <= GROWN * stored.responses)
      return { values: stored.values, fittedAt: stored.fittedAt };
    const rows = await recordRows(
      em,
      `r.school_id = ? and r.id in (
         select id from (
           select id, row_number() over (partition by child_id, kind, fact order by shown_at desc, id desc) as place
           from response where school_id = ? and class_id = ? and void = '' and aid = 'none') newest
         where place <= ?)`,
      [schoolId, schoolId, classId, 2 * CLASS_NEWEST],
    );
    const values = await this.deps.judge.learn(rows.map(toResponse));
    const fit = { schoolId, classId, modelVersion: MODEL_VERSION, responses, values, fittedAt: this.deps.now() };
    await em.upsert(ClassFit, fit);
    return fit;
  }

  async #judgeAgain(
    em: EntityManager,
    { schoolId, classId }: ClassKey,
    wanted: ReadonlyMap<string, string>,
    values: ClassValues,
    settings: ReadingSettings,
  ): Promise<void> {
    const children = [...wanted.keys()];
    const rows = await recordRows(
      em,
      "r.school_id = ? and r.class_id = ? and r.child_id = any (string_to_array(?, ',')::uuid[])",
      [schoolId, classId, children.join()],
    );
    const judgements = await this.deps.judge.judge(rows.map(toResponse), values, { settings });
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
    await em.transactional(async (tx) => {
      // Of several servers that judge the same class one writes after the other; each leaves a whole set.
      await tx.execute('select pg_advisory_xact_lock(hashtextextended(?, 0))', [`readings ${schoolId} ${classId}`]);
      await tx.execute(
        `with made as (select r.* from json_populate_recordset(null::reading, ?) r where r.school_id = ?),
           gone as (
             delete from reading r where r.school_id = ? and r.child_id = any (string_to_array(?, ',')::uuid[])
               and not exists (select 1 from made m where m.child_id = r.child_id and m.fact = r.fact))
         insert into reading select * from made
         on conflict (school_id, child_id, fact) do update set class_id = excluded.class_id, reading = excluded.reading, p_automatic = excluded.p_automatic,
           lean = excluded.lean, certainty = excluded.certainty, responses = excluded.responses, days = excluded.days, reason = excluded.reason`,
        [JSON.stringify(readings), schoolId, schoolId, children.join()],
      );
      if (sources.length > 0) await tx.upsertMany(Judgement, sources);
    });
    em.clear();
  }

  /**
   * One child as the record stood at a moment, or now: its responses until then, oldest first, and the judgement made from them.
   */
  async childAt(key: ClassKey, childId: string, until: Date | null): Promise<ChildThen> {
    const em = this.deps.orm.em.fork();
    const rows = (await recordOf(em, { ...key, childId })).filter(
      (row) => until === null || Date.parse(row.shown_at) < until.getTime(),
    );
    if (until === null) {
      const { basis, estimates, readings } = await this.current(key, childId);
      const [estimate] = estimates;
      return { rows, basis, judgement: estimate ? { estimate, readings } : null };
    }
    const { values, settings } = await this.basis(em, key);
    return { rows, basis: { values, settings }, judgement: await this.#judgeOne(rows, { values, settings }) };
  }

  /** Changes by a child's last sitting until then: their readings compared with those without that sitting. */
  async moved(key: ClassKey, childId: string, until: Date | null): Promise<LastSession> {
    const { rows, judgement, basis } = await this.childAt(key, childId, until);
    const last = rows[rows.length - 1]?.sitting;
    const before = await this.#judgeOne(
      rows.filter((row) => row.sitting !== last),
      basis,
    );
    return {
      moved: movedReadings(before?.readings ?? [], judgement?.readings ?? []),
      answered: lastSession(rows.map(toResponse)),
    };
  }

  async #judgeOne(rows: readonly RecordRow[], { values, settings }: Basis): Promise<ChildJudgement | null> {
    return (await this.deps.judge.judge(rows.map(toResponse), values, { settings }))[0] ?? null;
  }
}

/** Debounce before a class is judged again, ms, with all that came meanwhile. */
const REFRESH_AFTER_MS = 3000;
/** Growth of the record after which a class is learned again. */
const GROWN = 1.25;

export interface ChildThen {
  readonly rows: readonly RecordRow[];
  readonly judgement: ChildJudgement | null;
  readonly basis: Basis;
}

/** The class's settings for readings; the defaults where none, or none that can be read, are stored. */
async function settingsOf(em: EntityManager, { schoolId, classId }: ClassKey): Promise<ReadingSettings> {
  const row = await em.findOne(Setting, { schoolId, classId, name: 'reading' });
  const parsed = readingSettings.safeParse(row?.value);
  return {
    ...DEFAULT_READING_SETTINGS,
    ...(parsed.success ? parsed.data : {}),
    timeZone: await timeZoneOf(em, schoolId),
  };
}

/** By child id: fingerprint of the responses that the readings must be made from. Responses are added and corrected: how many of both there are, and the newest arrival, tell them apart. */
async function fingerprints(em: EntityManager, which: Which, by: readonly unknown[]): Promise<Map<string, string>> {
  const { where, values } = classOrChild(which, 'r');
  const rows: { child_id: string; count: string; corrected: string; last: Date }[] = await em.execute(
    `select all_of.child_id, all_of.count, coalesce(put_right.n, 0) as corrected, all_of.last
     from (select r.child_id, count(*) as count, max(r.received_at) as last from response r where ${where} group by r.child_id) all_of
     left join (
       select r.child_id, count(*) as n from correction c join response r on r.school_id = c.school_id and r.id = c.response_id where ${where} group by r.child_id
     ) put_right on put_right.child_id = all_of.child_id`,
    [...values, ...values],
  );
  return new Map(rows.map((row) => [row.child_id, JSON.stringify([...by, row.count, row.corrected, row.last])]));
}

/** Readings as they were stored last, current or not. Thousands of rows: read plainly, without an entity for each. */
export async function storedReadings(em: EntityManager, which: Which): Promise<Reading[]> {
  const { where, values } = classOrChild(which, 'r');
  return em.execute<Reading[]>(
    `select child_id as child, fact, reading, p_automatic as "pAutomatic", lean, certainty, responses, days, reason from reading r
     where ${where} order by child_id, fact`,
    values,
  );
}
