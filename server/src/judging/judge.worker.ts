import { classValues, judgeChildren } from '@vane/core';
import { parentPort } from 'node:worker_threads';
import type { JudgeAnswer, JudgeTask } from './judge';

parentPort?.on('message', (task: JudgeTask) => {
  let answer: JudgeAnswer;
  try {
    const result = task.what === 'learn' ? classValues(task.responses) : judgeChildren(task.responses, task.values, task.options);
    answer = { id: task.id, result };
  } catch (error) {
    answer = { id: task.id, error: error instanceof Error ? (error.stack ?? error.message) : String(error) };
  }
  parentPort?.postMessage(answer);
});
