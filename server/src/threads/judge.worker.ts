import { classValues, judgeChildren } from '@vane/core';
import { doTasks } from './thread';
import type { JudgeTask } from './judgeThread';

doTasks((task: JudgeTask) =>
  task.what === 'learn' ? classValues(task.responses) : judgeChildren(task.responses, task.values, task.options),
);
