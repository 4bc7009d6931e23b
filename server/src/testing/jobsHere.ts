import { keyOf, type JobData, type JobName, type Jobs } from '../jobs/jobs';
import type { Work } from '../jobs/bossJobs';

/** Work done in this process and from memory, each piece as soon as it is asked for: for tests of other things. */
export class JobsHere implements Jobs {
  readonly #waiting = new Set<string>();
  readonly #under = new Set<Promise<void>>();

  constructor(private readonly work: Work) {}

  ask<K extends JobName>(name: K, data: JobData[K]): void {
    const key = `${name} ${keyOf(data)}`;
    if (this.#waiting.has(key)) return;
    this.#waiting.add(key);
    const done = Promise.resolve()
      .then(() => {
        this.#waiting.delete(key);
        return this.work[name]?.(data, { last: true, jobs: this });
      })
      .catch(() => undefined)
      .finally(() => this.#under.delete(done));
    this.#under.add(done);
  }

  ofSchool(): Promise<[]> {
    return Promise.resolve([]);
  }

  /** All that was asked for is done. @returns whether there was anything */
  async settled(): Promise<boolean> {
    const any = this.#under.size > 0;
    while (this.#under.size > 0) await Promise.all(this.#under);
    return any;
  }
}
