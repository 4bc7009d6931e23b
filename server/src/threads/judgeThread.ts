import {
  classValues,
  judgeChildren,
  type ChildJudgement,
  type ClassValues,
  type JudgeOptions,
  type Response,
} from '@vane/core';
import { threadOf } from './thread';

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
  | { readonly what: 'learn'; readonly responses: readonly Response[] }
  | {
      readonly what: 'judge';
      readonly responses: readonly Response[];
      readonly values: ClassValues;
      readonly options: JudgeOptions;
    };

/** Judges in a thread of its own: a year's record never holds up an answer. */
export class JudgeThread implements Judge {
  readonly #thread: ReturnType<typeof threadOf<JudgeTask, unknown>>;

  constructor(script: URL) {
    this.#thread = threadOf(script);
  }
  learn(responses: readonly Response[]): Promise<ClassValues> {
    return this.#thread.run({ what: 'learn', responses }) as Promise<ClassValues>;
  }
  judge(responses: readonly Response[], values: ClassValues, options: JudgeOptions): Promise<ChildJudgement[]> {
    return this.#thread.run({ what: 'judge', responses, values, options }) as Promise<ChildJudgement[]>;
  }
  close(): Promise<void> {
    return this.#thread.destroy();
  }
}
