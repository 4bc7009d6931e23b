import { Piscina } from 'piscina';

/** Idle time after which a thread ends, ms. */
const IDLE_MS = 600_000;

/**
 * Worker threads, each of which does one task after the other, so that long work never holds up an answer. They start with the tasks; when one dies, its task fails and the
 * next starts another.
 * @param script a module whose default export does a task
 */
export const threadsOf = <Task, Result>(script: URL, most = 1): Piscina<Task, Result> =>
  new Piscina({ filename: script.href, minThreads: 0, maxThreads: most, idleTimeout: IDLE_MS });
