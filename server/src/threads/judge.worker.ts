import { classValues, judgeChildren, type ChildJudgement, type ClassValues } from '@vane/core';
import { setPriority } from 'node:os';
import type { JudgeTask } from './judgeThreads';

/** On Linux of this thread alone: a child's answer goes before what is judged of it. */
const AFTER_ANSWERS = 10;
setPriority(AFTER_ANSWERS);

export default (task: JudgeTask): ClassValues | ChildJudgement[] =>
  task.what === 'learn' ? classValues(task.responses) : judgeChildren(task.responses, task.values, task.options);
