import { Injectable, InjectionToken, inject } from '@angular/core';
import { toResponse, toRow, type ChildRecord } from '@vane/contract';
import { MODEL_VERSION, movedReadings, type Response } from '@vane/core';
import { Outbox } from '../outbox/outbox';
import type { JudgeAnswer, JudgeWish } from './judgeTask';

/** Judges one child on this device, in a worker that is ended afterwards. */
export const JUDGE_HERE = new InjectionToken<(wish: JudgeWish) => Promise<JudgeAnswer>>('judge here', {
  providedIn: 'root',
  factory: () => (wish) =>
    new Promise((done, fail) => {
      const worker = new Worker(new URL('./judge.worker', import.meta.url), { type: 'module' });
      worker.onmessage = ({ data }: MessageEvent<JudgeAnswer>) => {
        worker.terminate();
        done(data);
      };
      worker.onerror = (event) => {
        worker.terminate();
        fail(new Error(event.message || 'this device could not judge'));
      };
      worker.postMessage(wish);
    }),
});

/** When a child was asked last; an answer that is void does not count. */
function lastAskedIn(responses: readonly Response[]): string | null {
  const last = responses.findLast((r) => r.void === '');
  return last === undefined ? null : new Date(last.shownAt).toISOString();
}

/** A child's record together with what this device has marked and the server has not taken yet: the same reading as the server will make of it, made here. */
@Injectable({ providedIn: 'root' })
export class OwnJudge {
  readonly #outbox = inject(Outbox);
  readonly #judge = inject(JUDGE_HERE);

  async withKept(record: ChildRecord): Promise<ChildRecord> {
    const there = new Set(record.responses.map((r) => r.response_id));
    const kept = (await this.#outbox.keptOf(record.child.id)).filter((row) => !there.has(row.response_id));
    // An application of yesterday, started without a network, must not judge by what another model has learned of the class: its readings wait for the server.
    if (kept.length === 0 || record.basis?.modelVersion !== MODEL_VERSION) return record;
    const { values, settings } = record.basis;
    const responses = [...record.responses, ...kept]
      .map(toResponse)
      .sort((a, b) => a.shownAt - b.shownAt || (a.id < b.id ? -1 : 1));
    const judged = await this.#judge({ responses, values, settings });
    if (judged === null) return record;
    return {
      ...record,
      child: { ...record.child, lastAskedAt: lastAskedIn(responses) },
      estimate: judged.estimate,
      readings: judged.readings,
      moved: movedReadings(record, judged),
      responses: responses.map((r) => toRow(r)),
    };
  }
}
