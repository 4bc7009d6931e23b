import { availableParallelism } from 'node:os';
import {
  classValues,
  grouped,
  judgeChildren,
  type ChildJudgement,
  type ClassValues,
  type JudgeOptions,
  type Response,
} from '@vane/core';
import { threadsOf } from './threads';

/** Judges a record: in threads of its own when serving, in place in tests of other things. */
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
  | { readonly what: 'learn'; readonly responses: readonly Response[] }
  | {
      readonly what: 'judge';
      readonly responses: readonly Response[];
      readonly values: ClassValues;
      readonly options: JudgeOptions;
    };

/** Threads that judge, on a machine that has as many processors. */
const THREADS = Math.min(2, availableParallelism());

/** Responses in as many parts as there are threads, about equally long, in the order in which children first appear: a child is judged by itself. */
function chunked(responses: readonly Response[]): readonly (readonly Response[])[] {
  const parts: Response[][] = [[]];
  for (const own of grouped(responses, ({ child }) => child).values()) {
    const part = parts[parts.length - 1]!;
    if (parts.length < THREADS && part.length >= responses.length / THREADS) parts.push(own);
    else for (const r of own) part.push(r);
  }
  return parts;
}

/** Judges in threads of its own: a year's record never holds up an answer. */
export class JudgeThreads implements Judge {
  readonly #threads: ReturnType<typeof threadsOf<JudgeTask, unknown>>;

  constructor(script: URL) {
    this.#threads = threadsOf(script, { most: THREADS });
  }
  learn(responses: readonly Response[]): Promise<ClassValues> {
    return this.#threads.run({ what: 'learn', responses }) as Promise<ClassValues>;
  }
  async judge(responses: readonly Response[], values: ClassValues, options: JudgeOptions): Promise<ChildJudgement[]> {
    const tasks = chunked(responses).map((part) =>
      this.#threads.run({ what: 'judge', responses: part, values, options }),
    );
    return ((await Promise.all(tasks)) as ChildJudgement[][]).flat();
  }
  close(): Promise<void> {
    return this.#threads.destroy();
  }
}
