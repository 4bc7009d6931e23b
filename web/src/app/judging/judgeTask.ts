import type { ChildJudgement, ClassValues, ReadingSettings, Response } from '@vane/core';

/** What the page and its judging worker say to each other. */
export interface JudgeWish {
  readonly responses: readonly Response[];
  readonly values: ClassValues;
  readonly settings: ReadingSettings;
}
export type JudgeAnswer = ChildJudgement | null;
