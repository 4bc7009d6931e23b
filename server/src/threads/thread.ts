import { once } from 'node:events';
import { parentPort, Worker } from 'node:worker_threads';

interface Asked {
  readonly id: number;
  readonly task: unknown;
}
type Answered = { readonly id: number; readonly result: unknown } | { readonly id: number; readonly error: string };

/**
 * One worker thread that does one task after the other, so that long work never holds up an answer. It starts with the first task; when it dies, what waits fails with
 * its error and the next task starts a new one.
 */
export class TaskThread<Task> {
  #worker: Worker | null = null;
  #next = 0;
  readonly #waiting = new Map<number, { resolve: (result: never) => void; reject: (error: Error) => void }>();

  constructor(private readonly script: URL) {}

  ask<T>(task: Task): Promise<T> {
    const id = this.#next++;
    return new Promise<T>((resolve, reject) => {
      this.#waiting.set(id, { resolve, reject });
      this.#thread().postMessage({ id, task } satisfies Asked);
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
    worker.on('message', (answer: Answered) => {
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
      fail(new Error(`a working thread ended with code ${code}`));
    });
    return (this.#worker = worker);
  }
}

/** The other side, in the thread itself: does every task that comes. */
export function doTasks<Task>(act: (task: Task) => unknown): void {
  parentPort?.on('message', ({ id, task }: Asked) => {
    Promise.resolve()
      .then(() => act(task as Task))
      .then(
        (result) => parentPort?.postMessage({ id, result } satisfies Answered),
        (error: unknown) =>
          parentPort?.postMessage({
            id,
            error: error instanceof Error ? (error.stack ?? error.message) : String(error),
          } satisfies Answered),
      );
  });
}
