import { classValues, judgeChildren, type ChildJudgement, type ClassValues } from '@vane/core';
import type { JudgeTask } from './judgeThreads';

export default (task: JudgeTask): ClassValues | ChildJudgement[] =>
  task.what === 'learn' ? classValues(task.responses) : judgeChildren(task.responses, task.values, task.options);
