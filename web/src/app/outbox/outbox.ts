import { effect, Injectable, InjectionToken, inject, signal } from '@angular/core';
import type { RecordBatch, RecordRow, SittingRow } from '@vane/contract';
import { firstValueFrom, fromEvent } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Session } from '../signedIn/session';
import type { KeptDatabase, KeptResponse } from './keptDatabase';

export interface OutboxState {
  /** Of the signed-in adult. */
  readonly waiting: number;
  /** Of other adults: they wait until those sign in here, or hand them over. */
  readonly others: number;
  readonly refused: number;
  /** Why nothing goes out just now; null when all is well. */
  readonly trouble: string | null;
}

/** Opens the device's database, once. It loads by itself, so that the first screen need not wait for it. */
export const KEPT = new InjectionToken<() => Promise<KeptDatabase>>('kept database', {
  providedIn: 'root',
  factory: () => {
    let opened: Promise<KeptDatabase> | null = null;
    return () => (opened ??= import('./keptDatabase').then((m) => new m.KeptDatabase()));
  },
});

/** How sending ended: nothing waits any more, a show began, or the server did not take it. */
type Sent = 'all' | 'held' | 'failed';

/** What the server says of rows that will never be taken in this adult's name: their class is gone, or no longer theirs. */
const NEVER: Readonly<Record<string, string>> = {
  'not-found': $localize`you no longer have this class`,
  'not-allowed': $localize`you do not have this class`,
};

const SITTING_LOCK = 'vane-sitting';
const BATCH = 200;
const FIRST_WAIT_MS = 1_000;
const LONGEST_WAIT_MS = 15_000;

/**
 * Keeps every response on the device first and sends it in batches that may be sent twice. After a failure it tries again, later and later, and at once when
 * the network comes back. One tab sends at a time. While a show is on, it is still: nothing may disturb the measurement.
 */
@Injectable({ providedIn: 'root' })
export class Outbox {
  readonly #api = inject(Api);
  readonly #kept = inject(KEPT);
  readonly #session = inject(Session);
  readonly #state = signal<OutboxState>({ waiting: 0, others: 0, refused: 0, trouble: null });
  #held = false;
  #wait = FIRST_WAIT_MS;
  #timer: ReturnType<typeof setTimeout> | null = null;
  #sending: Promise<void> | null = null;
  #wanted = false;
  #trouble: string | null = null;

  readonly state = this.#state.asReadonly();

  constructor() {
    fromEvent(window, 'online').subscribe(() => void this.send());
    // Each adult sends their own answers.
    effect(() => {
      if (this.#session.me() !== null) void this.send();
    });
    void this.#closeAbandoned();
  }

  /** From here to the returned call, open responses of this tab are left alone by other tabs. */
  beginSitting(): () => void {
    let end: () => void = () => undefined;
    if ('locks' in navigator)
      void navigator.locks.request(SITTING_LOCK, { mode: 'shared' }, () => new Promise<void>((done) => (end = done)));
    return () => end();
  }

  /** What an ended tab left open can no longer be changed by anyone; what a living sitting holds open can. */
  async #closeAbandoned(): Promise<void> {
    const held = 'locks' in navigator ? ((await navigator.locks.query()).held ?? []) : [];
    if (held.some((lock) => lock.name === SITTING_LOCK)) return void this.send();
    await this.closeAll();
  }

  /** While held, nothing is sent and no signal changes. */
  hold(): void {
    this.#held = true;
  }
  release(): void {
    this.#held = false;
    void this.#refresh();
    void this.send();
  }

  async keepSitting(classId: string, row: SittingRow): Promise<void> {
    await (await this.#kept()).sittings.put({ id: row.id, classId, row });
  }

  /** Keeps a response that may still be changed; call again with the same id to change it. */
  async keepOpen(classId: string, row: RecordRow): Promise<void> {
    const adult = this.#me();
    await (await this.#kept()).responses.put({ id: row.response_id, classId, row, state: 'open', reason: '', adult });
    await this.#refresh();
  }

  /** Closes what is open, but for these, and sends it. */
  async closeAll(except: readonly string[] = []): Promise<void> {
    const open = (await this.#kept()).responses.where('state').equals('open');
    await open.filter(({ id }) => !except.includes(id)).modify({ state: 'waiting' });
    await this.#refresh();
    void this.send();
  }

  /** What this device still keeps of a child's answers, and the server may take. */
  async keptOf(child: string): Promise<RecordRow[]> {
    const kept = await (await this.#kept()).responses.where('state').anyOf('open', 'waiting').toArray();
    return kept.map(({ row }) => row).filter((row) => row.child === child);
  }

  /** What will not be sent as things are: refused, or another adult's. */
  async stuck(): Promise<KeptResponse[]> {
    const kept = await (await this.#kept()).responses.where('state').anyOf('refused', 'waiting').toArray();
    return kept.filter((one) => one.state === 'refused' || !this.#mine(one));
  }

  /** Sends these in the name of the signed-in adult. */
  async takeOver(ids: readonly string[]): Promise<void> {
    const adult = this.#me();
    const { responses } = await this.#kept();
    await responses.where('id').anyOf(ids).modify({ state: 'waiting', reason: '', adult });
    await this.#refresh();
    await this.send();
  }

  /** These are kept no longer. */
  async throwAway(ids: readonly string[]): Promise<void> {
    await (await this.#kept()).responses.bulkDelete([...ids]);
    await this.#refresh();
  }

  #me(): string {
    return this.#session.me()?.adult.id ?? '';
  }
  #mine(kept: KeptResponse): boolean {
    return kept.adult === undefined || kept.adult === this.#me();
  }

  /** Sends what waits. Resolves when nothing is left, or sending has failed for now. */
  send(): Promise<void> {
    this.#wanted = true;
    return (this.#sending ??= this.#sendWhileWanted());
  }

  /** What began to wait while a round was under way may have come too late for it: it gets a round of its own. */
  async #sendWhileWanted(): Promise<void> {
    try {
      while (this.#wanted) {
        this.#wanted = false;
        if ((await this.#sendAll()) === 'failed') return;
      }
    } finally {
      this.#sending = null;
    }
  }

  async #sendAll(): Promise<Sent> {
    if (this.#timer !== null) clearTimeout(this.#timer);
    this.#timer = null;
    const run = (): Promise<Sent> => this.#sendBatches();
    const sent = await ('locks' in navigator ? navigator.locks.request('vane-outbox', run) : run());
    await this.#refresh();
    // To be held is no failure: the release sends.
    if (sent === 'failed') {
      this.#timer = setTimeout(() => void this.send(), this.#wait);
      this.#wait = Math.min(LONGEST_WAIT_MS, this.#wait * 2);
    }
    return sent;
  }

  /** Class by class: one that is refused, or cannot be taken just now, does not hold up the others. */
  async #sendBatches(): Promise<Sent> {
    const failed = new Set<string>();
    for (;;) {
      if (this.#held) return 'held';
      const { responses } = await this.#kept();
      const ready = responses.where('state').equals('waiting');
      const mine = await ready.filter((kept) => this.#mine(kept) && !failed.has(kept.classId)).toArray();
      const first = mine[0];
      if (!first && failed.size > 0) return 'failed';
      if (!first) {
        this.#trouble = null;
        this.#wait = FIRST_WAIT_MS;
        return 'all';
      }
      const batch = mine.filter((kept) => kept.classId === first.classId).slice(0, BATCH);
      if (!(await this.#sendOne(first.classId, batch))) failed.add(first.classId);
    }
  }

  async #sendOne(classId: string, kept: readonly KeptResponse[]): Promise<boolean> {
    const sittings = await (await this.#kept()).sittings.bulkGet([...new Set(kept.map((k) => k.row.sitting))]);
    const batch: RecordBatch = {
      sittings: sittings.flatMap((s) => (s ? [s.row] : [])),
      responses: kept.map((k) => k.row),
      sent_at: new Date().toISOString(),
    };
    try {
      const result = await firstValueFrom(this.#api.sendRecord(classId, batch));
      await (await this.#kept()).responses.bulkDelete([...result.accepted, ...result.already]);
      const { responses } = await this.#kept();
      await Promise.all(result.refused.map(({ id, reason }) => responses.update(id, { state: 'refused', reason })));
      return true;
    } catch (error) {
      const never = NEVER[problemOf(error)?.code ?? ''];
      if (never !== undefined) {
        const { responses } = await this.#kept();
        await Promise.all(kept.map(({ id }) => responses.update(id, { state: 'refused', reason: never })));
        return true;
      }
      this.#trouble = this.#whyNot(error);
      if (problemOf(error)?.code === 'bad-body' && kept.length === 1) {
        await (
          await this.#kept()
        ).responses.update(kept[0]?.id ?? '', { state: 'refused', reason: $localize`the server cannot read it` });
        return true;
      }
      // One bad row must not hold up the others: find it by sending them singly.
      if (problemOf(error)?.code !== 'bad-body') return false;
      for (const one of kept) if (!(await this.#sendOne(classId, [one]))) return false;
      return true;
    }
  }

  #whyNot(error: unknown): string {
    const code = problemOf(error)?.code;
    if (code === 'not-signed-in') return $localize`please sign in again`;
    if (code === 'disk-full') return $localize`the server’s disk is full`;
    return code === undefined ? $localize`the server does not answer` : $localize`the server cannot take them yet`;
  }

  async #refresh(): Promise<void> {
    if (this.#held) return;
    const { responses } = await this.#kept();
    const all = await responses.toArray();
    if (this.#held) return;
    const refused = all.filter((one) => one.state === 'refused').length;
    const others = all.filter((one) => one.state !== 'refused' && !this.#mine(one)).length;
    this.#state.set({ waiting: all.length - refused - others, others, refused, trouble: this.#trouble });
  }
}
