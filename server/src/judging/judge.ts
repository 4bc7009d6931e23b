import { judgeClass, type ChildJudgement, type JudgeOptions, type Response } from '@vane/core';
import { once } from 'node:events';
import { Worker } from 'node:worker_threads';

/** Judges a record: in a thread of its own when serving, in place in tests of other things. */
export interface Judge {
  judge(responses: readonly Response[], options: JudgeOptions): Promise<ChildJudgement[]>;
  close(): Promise<void>;
}

/** Judges on the calling thread. */
export const judgeHere: Judge = {
  judge: (responses, options) => Promise.resolve(judgeClass(responses, options)),
  close: () => Promise.resolve(),
};

export interface JudgeTask {
  readonly id: number;
  readonly responses: readonly Response[];
  readonly options: JudgeOptions;
}
export type JudgeAnswer = { readonly id: number; readonly judgements: ChildJudgement[] } | { readonly id: number; readonly error: string };

/**
 * One worker thread that judges one class after the other, so that a year's record never holds up an answer. When the thread dies, what waits fails with its
 * error and the next task starts a new one.
 */
export class JudgeThread implements Judge {
  #worker: Worker | null = null;
  #next = 0;
  readonly #waiting = new Map<number, { resolve: (judgements: ChildJudgement[]) => void; reject: (error: Error) => void }>();

  constructor(private readonly script: URL) {}

  judge(responses: readonly Response[], options: JudgeOptions): Promise<ChildJudgement[]> {
    const id = this.#next++;
    return new Promise((resolve, reject) => {
      this.#waiting.set(id, { resolve, reject });
      this.#thread().postMessage({ id, responses, options } satisfies JudgeTask);
    });
  }

  async close(): Promise<void> {
    const worker = this.#worker;
    if (!worker) return;
    const ended = once(worker, 'exit');
    await worker.terminate();
    await ended;
  }

  #thread(): Worker {
    if (this.#worker) return this.#worker;
    const worker = new Worker(this.script);
    worker.on('message', (answer: JudgeAnswer) => {
      const waiting = this.#waiting.get(answer.id);
      this.#waiting.delete(answer.id);
      if ('error' in answer) waiting?.reject(new Error(answer.error));
      else waiting?.resolve(answer.judgements);
    });
    const fail = (error: Error): void => {
      if (this.#worker === worker) this.#worker = null;
      for (const { reject } of this.#waiting.values()) reject(error);
      this.#waiting.clear();
    };
    worker.on('error', fail);
    worker.on('exit', (code) => {
      fail(new Error(`the judging thread ended with code ${code}`));
    });
    return (this.#worker = worker);
  }
}
