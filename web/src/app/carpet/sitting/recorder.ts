import { signal } from '@angular/core';
import type { RecordRow, SittingRow } from '@vane/contract';
import { firstValueFrom, timer } from 'rxjs';

/** Where a sitting's record goes: the outbox, behind the few calls a sitting makes. */
export interface Keeper {
  keepSitting(classId: string, row: SittingRow): Promise<void>;
  keepOpen(classId: string, row: RecordRow): Promise<void>;
  /** What was kept can no longer be changed, but for these. */
  closeAll(except?: readonly string[]): Promise<void>;
  hold(): void;
  release(): void;
}

/** Time after which a write that failed is tried again, ms. */
const AGAIN_MS = 3_000;

/** Writes a sitting's rows in order: a later state of a response must not be overtaken by an earlier one. */
export class Recorder {
  readonly #unkept = signal('');
  #writes: Promise<void> = Promise.resolve();

  /** A write to the device's own store failed: the adult must know. Empty when all is well, also after room has come back. */
  readonly unkept = this.#unkept.asReadonly();

  constructor(
    private readonly keeper: Keeper,
    private readonly classId: string,
    sitting: SittingRow,
    private readonly againMs = AGAIN_MS,
  ) {
    this.#write(() => keeper.keepSitting(classId, sitting));
  }

  keep(row: RecordRow): void {
    this.#write(() => this.keeper.keepOpen(this.classId, row));
  }
  /** What was kept can no longer be changed, but for these. */
  close(except: readonly string[] = []): void {
    this.#write(() => this.keeper.closeAll(except));
  }

  #write(work: () => Promise<void>): void {
    this.#writes = this.#writes.then(() => this.#tried(work));
  }

  /** Until it is kept: room may come back. What comes later waits behind it. */
  async #tried(work: () => Promise<void>): Promise<void> {
    for (;;) {
      try {
        await work();
        return this.#unkept.set('');
      } catch (error) {
        const why = error instanceof Error ? error.message : String(error);
        this.#unkept.set($localize`This device could not keep the last answer (${why}). It is tried again.`);
        await firstValueFrom(timer(this.againMs));
      }
    }
  }
}
