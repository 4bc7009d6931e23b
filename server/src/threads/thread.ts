import { Piscina } from 'piscina';

/** A thread without work ends after so long, ms. */
const IDLE_MS = 600_000;

/**
 * A worker thread that does one task after the other, so that long work never holds up an answer. It starts with the first task; when it dies, its task fails and the
 * next starts another.
 * @param script a module whose default export does a task
 */
export const threadOf = <Task, Result>(script: URL): Piscina<Task, Result> =>
  new Piscina({ filename: script.href, minThreads: 0, maxThreads: 1, idleTimeout: IDLE_MS });
