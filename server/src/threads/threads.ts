import { Piscina } from 'piscina';
import { RequestProblem } from '../problems/problem';

/** Idle time after which a thread ends, ms. */
const IDLE_MS = 600_000;

/**
 * Worker threads, each of which does one task after the other, so that long work never holds up an answer. They start with the tasks; when one dies, its task fails and the
 * next starts another.
 * @param script a module whose default export does a task
 */
export const threadsOf = <Task, Result>(
  script: URL,
  { most = 1, megabytes }: { readonly most?: number; readonly megabytes?: number } = {},
): Piscina<Task, Result> =>
  new Piscina({
    filename: script.href,
    minThreads: 0,
    maxThreads: most,
    idleTimeout: IDLE_MS,
    ...(megabytes !== undefined && { resourceLimits: { maxOldGenerationSizeMb: megabytes } }),
  });

/** What a file from elsewhere may take to be read. */
const LONGEST_READ_MS = 60_000;
const MOST_READ_MB = 1024;

/** A thread that reads files from elsewhere, one at a time. One that takes too long, or too much memory, is refused as too large. */
export function foreignFiles<Result>(script: URL) {
  const thread = threadsOf<string, Result>(script, { megabytes: MOST_READ_MB });
  return {
    read: async (file: string): Promise<Result> => {
      try {
        return await thread.run(file, { signal: AbortSignal.timeout(LONGEST_READ_MS) });
      } catch (error) {
        const { name, code } = error as { name?: string; code?: string };
        if (name === 'AbortError' || code === 'ERR_WORKER_OUT_OF_MEMORY') throw new RequestProblem('too-large');
        throw error;
      }
    },
    close: () => thread.destroy(),
  };
}
