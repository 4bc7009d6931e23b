import { classValues, judgeChildren, type ChildJudgement, type ClassValues, type JudgeOptions, type Response } from '@vane/core';
import { once } from 'node:events';
import { Worker } from 'node:worker_threads';

/** Judges a record: in a thread of its own when serving, in place in tests of other things. */
export interface Judge {
  /** What the children of a class have in common. */
  learn(responses: readonly Response[]): Promise<ClassValues>;
  /** Judges the children whose responses these are, their class frozen. */
  judge(responses: readonly Response[], values: ClassValues, options: JudgeOptions): Promise<ChildJudgement[]>;
  close(): Promise<void>;
}

/** Judges on the calling thread. */
export const judgeHere: Judge = {
  learn: (responses) => Promise.resolve(classValues(responses)),
  judge: (responses, values, options) => Promise.resolve(judgeChildren(responses, values, options)),
  close: () => Promise.resolve(),
};

export type JudgeTask =
  | { readonly id: number; readonly what: 'learn'; readonly responses: readonly Response[] }
  | { readonly id: number; readonly what: 'judge'; readonly responses: readonly Response[]; readonly values: ClassValues; readonly options: JudgeOptions };
export type JudgeAnswer = { readonly id: number; readonly result: ChildJudgement[] | ClassValues } | { readonly id: number; readonly error: string };

/**
 * One worker thread that does one task after the other, so that a year's record never holds up an answer. When the thread dies, what waits fails with its
 * error and the next task starts a new one.
 */
export class JudgeThread implements Judge {
  #worker: Worker | null = null;
  #next = 0;
  readonly #waiting = new Map<number, { resolve: (result: never) => void; reject: (error: Error) => void }>();

  constructor(private readonly script: URL) {}

  learn(responses: readonly Response[]): Promise<ClassValues> {
    return this.#ask((id) => ({ id, what: 'learn', responses }));
  }
  judge(responses: readonly Response[], values: ClassValues, options: JudgeOptions): Promise<ChildJudgement[]> {
    return this.#ask((id) => ({ id, what: 'judge', responses, values, options }));
  }

  #ask<T>(task: (id: number) => JudgeTask): Promise<T> {
    const id = this.#next++;
    return new Promise<T>((resolve, reject) => {
      this.#waiting.set(id, { resolve, reject });
      this.#thread().postMessage(task(id));
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
      else waiting?.resolve(answer.result as never);
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
