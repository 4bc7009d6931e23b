import { Injectable, InjectionToken, inject } from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { BatchResult, RecordBatch, RecordRow, SittingRow } from '@vane/contract';
import { codeOfAdult } from '@vane/core';
import {
  BehaviorSubject,
  EMPTY,
  NEVER,
  Subject,
  catchError,
  combineLatest,
  concat,
  concatMap,
  defer,
  expand,
  filter,
  from,
  fromEvent,
  ignoreElements,
  map,
  merge,
  of,
  retry,
  share,
  shareReplay,
  startWith,
  switchMap,
  throwError,
  type Observable,
} from 'rxjs';
import { Api, problemOf } from '../api/api';
import { DevicePreferences } from '../device/devicePreferences';
import { Session } from '../signedIn/session';
import { exponentialBackoff } from '../streams/exponentialBackoff';
import { locked } from '../streams/locked';
import { exhaustMapLatest } from '../streams/exhaustMapLatest';
import type { KeptDatabase, KeptResponse } from './keptDatabase';

interface OutboxState {
  /** Of the signed-in adult. */
  readonly waiting: number;
  /** Of other adults: they wait until those sign in here, or hand them over. */
  readonly others: number;
  readonly refused: number;
  /** Why nothing goes out just now; null when all is well. */
  readonly trouble: string | null;
}

/** Opens the device's database, once. It loads by itself, so that the first screen need not wait for it. */
export const KEPT_DATABASE = new InjectionToken<() => Promise<KeptDatabase>>('kept database', {
  providedIn: 'root',
  factory: () => {
    let opened: Promise<KeptDatabase> | null = null;
    return () =>
      (opened ??= import('./keptDatabase').then(
        (m) => new m.KeptDatabase(),
        (error: unknown) => {
          // It did not arrive: who asks next asks anew.
          opened = null;
          throw error;
        },
      ));
  },
});

/** What the server says of rows that will never be taken in this adult's name: their class is gone, or no longer theirs. */
const NEVER_TAKEN: Readonly<Record<string, string>> = {
  'not-found': $localize`you no longer have this class`,
  'not-allowed': $localize`you do not have this class`,
};

const SITTING_LOCK = 'vane-sitting';
const SENDING_LOCK = 'vane-outbox';
const BATCH = 200;
const WAITS = { first: 1_000, longest: 15_000 };
const EMPTY_BOX: OutboxState = { waiting: 0, others: 0, refused: 0, trouble: null };

/** What goes out in one request. */
interface Batch {
  readonly classId: string;
  readonly kept: readonly KeptResponse[];
}

/**
 * Keeps every response on the device first and sends it in batches that may be sent twice. After a failure it tries again, later and later, and at once when
 * the network or the adult comes back. One tab sends at a time. While a show is on, it is still: nothing may disturb the measurement.
 */
@Injectable({ providedIn: 'root' })
export class Outbox {
  readonly #api = inject(Api);
  readonly #kept = inject(KEPT_DATABASE);
  readonly #session = inject(Session);
  readonly #device = inject(DevicePreferences).code;
  /** While held, nothing is sent and no signal changes. */
  readonly #held = new BehaviorSubject(false);
  /** Something waits. */
  readonly #closed = new Subject<void>();
  /** Each adult sends their own answers. */
  readonly #signedIn = toObservable(this.#session.me);

  readonly #reasons = merge(
    this.#closed,
    this.#held.pipe(filter((held) => !held)),
    this.#signedIn.pipe(filter((me) => me !== null)),
    fromEvent(window, 'online'),
    fromEvent(document, 'visibilitychange').pipe(filter(() => !document.hidden)),
  ).pipe(share());
  /** Why what waits does not go out; null once it did. What began to wait while a round was under way gets a round of its own. */
  readonly #trouble = this.#reasons.pipe(
    exhaustMapLatest(() => this.#round().pipe(retry(exponentialBackoff({ ...WAITS, sooner: this.#reasons })))),
    startWith(null),
    shareReplay({ bufferSize: 1, refCount: true }),
  );
  readonly #all = defer(() => this.#kept()).pipe(
    switchMap((kept) => kept.all()),
    retry(exponentialBackoff(WAITS)),
  );

  readonly state = toSignal(
    this.#held.pipe(
      switchMap((held) => (held ? NEVER : combineLatest([this.#all, this.#trouble, this.#signedIn]))),
      map(([all, trouble]) => this.#sum(all, trouble)),
    ),
    { initialValue: EMPTY_BOX },
  );

  constructor() {
    this.#trouble.pipe(takeUntilDestroyed()).subscribe();
    defer(() => this.#closeAbandoned())
      .pipe(retry(exponentialBackoff(WAITS)), takeUntilDestroyed())
      .subscribe();
  }

  #sum(all: readonly KeptResponse[], trouble: string | null): OutboxState {
    const refused = all.filter((one) => one.state === 'refused').length;
    const others = all.filter((one) => one.state !== 'refused' && !this.#mine(one)).length;
    return { waiting: all.length - refused - others, others, refused, trouble };
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
    if (held.some((lock) => lock.name === SITTING_LOCK)) this.#closed.next();
    else await this.closeAll();
  }

  hold(): void {
    this.#held.next(true);
  }
  release(): void {
    this.#held.next(false);
  }

  async keepSitting(classId: string, row: SittingRow): Promise<void> {
    await (await this.#kept()).sittings.put({ id: row.id, classId, row });
  }

  /** Keeps a response that may still be changed; call again with the same id to change it. */
  async keepOpen(classId: string, row: RecordRow): Promise<void> {
    const adult = this.#me();
    const kept = {
      id: row.response_id,
      classId,
      row: this.#marked(row, adult),
      state: 'open',
      reason: '',
      adult,
    } as const;
    await (await this.#kept()).responses.put(kept);
  }

  /** The row with who marks it and on what: a second screen beside this device is another device. */
  #marked(row: RecordRow, adult: string): RecordRow {
    const device = row.quality?.clock_ms === undefined ? this.#device : `${this.#device}+2`;
    return { ...row, marked_by: codeOfAdult(adult), device };
  }

  /** Closes what is open, but for these, and sends it. */
  async closeAll(except: readonly string[] = []): Promise<void> {
    const open = (await this.#kept()).responses.where('state').equals('open');
    await open.filter(({ id }) => !except.includes(id)).modify({ state: 'waiting' });
    this.#closed.next();
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
    this.#closed.next();
  }

  /** These are kept no longer. */
  async throwAway(ids: readonly string[]): Promise<void> {
    await (await this.#kept()).responses.bulkDelete([...ids]);
  }

  #me(): string {
    return this.#session.me()?.adult.id ?? '';
  }
  #mine(kept: KeptResponse): boolean {
    return kept.adult === undefined || kept.adult === this.#me();
  }

  /**
   * Sends what waits, class by class: one that is refused, or cannot be taken just now, does not hold up the others. Tells what the trouble is, and fails with
   * it; to be held is no failure, since the release is a reason to send.
   */
  #round(): Observable<string | null> {
    const batches = defer(() => {
      const failed = new Map<string, string>();
      const next = (): Observable<Batch | null> => defer(() => this.#next([...failed.keys()]));
      const send = (batch: Batch): Observable<never> =>
        this.#send(batch).pipe(
          ignoreElements(),
          catchError((error: unknown) => {
            failed.set(batch.classId, whyNot(error));
            return EMPTY;
          }),
        );
      const ended = defer((): Observable<string | null> => {
        const [trouble] = failed.values();
        if (trouble !== undefined)
          return concat(
            of(trouble),
            throwError(() => new Error(trouble)),
          );
        return this.#held.value ? EMPTY : of(null);
      });
      const all = next().pipe(expand((batch) => (batch === null ? EMPTY : concat(send(batch), next()))));
      return concat(all.pipe(ignoreElements()), ended);
    });
    return locked(SENDING_LOCK, batches);
  }

  /** The next batch of a class that has not failed; null when there is none, or a show is on. */
  async #next(failed: readonly string[]): Promise<Batch | null> {
    const { responses } = await this.#kept();
    const ready = responses.where('state').equals('waiting');
    const mine = await ready.filter((kept) => this.#mine(kept) && !failed.includes(kept.classId)).toArray();
    const [first] = mine;
    if (first === undefined || this.#held.value) return null;
    const { classId } = first;
    return { classId, kept: mine.filter((kept) => kept.classId === classId).slice(0, BATCH) };
  }

  #send({ classId, kept }: Batch): Observable<unknown> {
    return defer(() => this.#written(kept)).pipe(
      concatMap((batch) => this.#api.ask('POST /classes/:classId/record', { classId, body: batch })),
      concatMap((result) => this.#answered(result)),
      catchError((error: unknown) => {
        const code = problemOf(error)?.code ?? '';
        const never = NEVER_TAKEN[code];
        if (never !== undefined) return this.#refused(kept.map(({ id }) => ({ id, reason: never })));
        if (code !== 'bad-body') throw error;
        // One bad row must not hold up the others: find it by sending them singly.
        if (kept.length > 1) return from(kept).pipe(concatMap((one) => this.#send({ classId, kept: [one] })));
        return this.#refused(kept.map(({ id }) => ({ id, reason: $localize`the server cannot read it` })));
      }),
    );
  }

  async #written(kept: readonly KeptResponse[]): Promise<RecordBatch> {
    const sittings = await (await this.#kept()).sittings.bulkGet([...new Set(kept.map((k) => k.row.sitting))]);
    return {
      sittings: sittings.flatMap((s) => (s ? [s.row] : [])),
      responses: kept.map((k) => k.row),
      sent_at: new Date().toISOString(),
    };
  }

  async #answered({ accepted, already, refused }: BatchResult): Promise<void> {
    await (await this.#kept()).responses.bulkDelete([...accepted, ...already]);
    await this.#refused(refused);
  }
  async #refused(rows: BatchResult['refused']): Promise<void> {
    const { responses } = await this.#kept();
    await Promise.all(rows.map(({ id, reason }) => responses.update(id, { state: 'refused', reason })));
  }
}

function whyNot(error: unknown): string {
  const code = problemOf(error)?.code;
  if (code === 'not-signed-in') return $localize`please sign in again`;
  if (code === 'disk-full') return $localize`the server’s disk is full`;
  return code === undefined ? $localize`the server does not answer` : $localize`the server cannot take them yet`;
}
