import { toResponse, type JudgingState, type LastSession, type RecordRow } from '@vane/contract';
import {
  lastSession,
  lastSitting,
  movedReadings,
  type ChildEstimate,
  type ChildJudgement,
  type Reading,
} from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { setTimeout as wait } from 'node:timers/promises';
import { Judgement } from '../db/entities';
import type { ClassKey, Which } from '../db/keys';
import type { Database } from '../db/database';
import { keyOf, type Jobs } from '../jobs/jobs';
import { RequestProblem } from '../problems/problem';
import { recordOf } from '../record/store';
import type { Judge } from '../threads/judgeThreads';
import { fingerprints, fitOf, settingsOf, type Basis } from './basis';
import { failedJustNow } from './failures';
import { storedReadings } from './storedReadings';

/** Readings as they are kept, and whether they are made from all that is there. */
interface KeptReadings {
  readonly readings: readonly Reading[];
  readonly estimates: readonly ChildEstimate[];
  readonly judgedAt: Date | null;
  readonly basis: Basis;
  readonly judging: JudgingState;
}

/** Longest wait for readings that a file is made from, ms. */
const LONGEST_WAIT_MS = 30_000;
const LOOK_AGAIN_MS = 200;
/** A class is judged once no answer has come for `QUIET_MS`, and every `OFTEN_MS` while answers come; a reader in between has it judged at once. */
const QUIET_MS = 4000;
const OFTEN_MS = 30_000;

/**
 * Readings for those who ask: they are judged elsewhere (judging.ts, by any server), and nobody who looks waits for that. Who finds readings behind asks for the work, and is told.
 */
export class Readings {
  readonly #soon = new Map<string, { readonly latest: number; timer: ReturnType<typeof setTimeout> }>();

  constructor(
    private readonly deps: {
      readonly database: Database;
      readonly judge: Judge;
      readonly jobs: Jobs;
      readonly now: () => Date;
    },
  ) {}

  /** Has a class judged when its answers pause: a carpet full of sittings must not be judged after every one. */
  refreshSoon({ schoolId, classId }: ClassKey): void {
    const key = { schoolId, classId };
    const name = keyOf(key);
    const now = performance.now();
    const before = this.#soon.get(name);
    if (before) clearTimeout(before.timer);
    const latest = before?.latest ?? now + OFTEN_MS;
    const timer = setTimeout(
      () => {
        this.#soon.delete(name);
        this.deps.jobs.ask('judge', key);
      },
      Math.min(QUIET_MS, latest - now),
    );
    this.#soon.set(name, { latest, timer });
  }

  /** What is not asked for yet is asked for by the next who looks. */
  close(): Promise<void> {
    for (const { timer } of this.#soon.values()) clearTimeout(timer);
    this.#soon.clear();
    return Promise.resolve();
  }

  /** The readings of a class, or of one child in it, as they are kept now. */
  async kept(which: Which): Promise<KeptReadings> {
    const em = this.deps.database.orm.em.fork();
    return { ...(await this.#state(em, which)), readings: await storedReadings(em, which) };
  }

  async #state(em: EntityManager, which: Which): Promise<Omit<KeptReadings, 'readings'>> {
    const settings = await settingsOf(em, which);
    const fit = await fitOf(em, which);
    const wanted = await fingerprints(em, which, fit, settings);
    const judgements = await em.find(Judgement, { ...which }, { disableIdentityMap: true });
    const current =
      !fit.behind &&
      judgements.length === wanted.size &&
      judgements.every(({ childId, fingerprint }) => wanted.get(childId) === fingerprint);
    return {
      basis: { values: fit.values, settings },
      estimates: judgements.map((j) => j.estimate),
      judgedAt: judgements.reduce<Date | null>(
        (latest, j) => (latest === null || j.judgedAt > latest ? j.judgedAt : latest),
        null,
      ),
      judging: current ? 'done' : await this.#asked(em, which),
    };
  }

  /** The same, once they are made from all that is there: for what is written down or printed. A long read. */
  async current(which: Which): Promise<KeptReadings> {
    for (let waited = 0; waited < LONGEST_WAIT_MS; waited += LOOK_AGAIN_MS) {
      const em = await this.deps.database.readers.em();
      const state = await this.#state(em, which);
      if (state.judging === 'done') return { ...state, readings: await storedReadings(em, which) };
      if (state.judging === 'failed') throw new RequestProblem('not-judged');
      await wait(LOOK_AGAIN_MS);
    }
    throw new RequestProblem('being-judged');
  }

  async #asked(em: EntityManager, { schoolId, classId }: Which): Promise<JudgingState> {
    const key = { schoolId, classId };
    if (await failedJustNow(em, key, 'judge', this.deps.now())) return 'failed';
    this.deps.jobs.ask('judge', key);
    return 'under-way';
  }

  /**
   * One child as the record stood at a moment, or now: its responses until then, oldest first, and the judgement made from them. What is not kept yet is judged here and not written down.
   */
  async childAt(key: ClassKey, childId: string, until: Date | null): Promise<ChildThen> {
    const which = { ...key, childId };
    const em = this.deps.database.orm.em.fork();
    const kept = until === null ? await this.kept(which) : null;
    const rows = (await recordOf(em, which)).filter(
      (row) => until === null || Date.parse(row.shown_at) < until.getTime(),
    );
    if (kept?.judging === 'done') {
      const { basis, estimates, readings } = kept;
      const [estimate] = estimates;
      return { rows, basis, judgement: estimate ? { estimate, readings } : null };
    }
    const basis = kept?.basis ?? { values: (await fitOf(em, key)).values, settings: await settingsOf(em, key) };
    return { rows, basis, judgement: await this.#judgeOne(rows, basis) };
  }

  /** Changes by a child's last sitting until then: their readings compared with those without that sitting. */
  async moved(key: ClassKey, childId: string, until: Date | null): Promise<LastSession> {
    const { rows, judgement, basis } = await this.childAt(key, childId, until);
    const last = lastSitting(rows);
    const before = await this.#judgeOne(
      rows.filter((row) => row.sitting !== last),
      basis,
    );
    return {
      moved: movedReadings(before, judgement),
      answered: lastSession(rows.map(toResponse)),
    };
  }

  async #judgeOne(rows: readonly RecordRow[], { values, settings }: Basis): Promise<ChildJudgement | null> {
    return (await this.deps.judge.judge(rows.map(toResponse), values, { settings }))[0] ?? null;
  }
}

interface ChildThen {
  readonly rows: readonly RecordRow[];
  readonly judgement: ChildJudgement | null;
  readonly basis: Basis;
}
