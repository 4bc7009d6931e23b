import { judgeClass } from '@vane/core';
import { parentPort } from 'node:worker_threads';
import type { JudgeAnswer, JudgeTask } from './judge';

parentPort?.on('message', ({ id, responses, options }: JudgeTask) => {
  let answer: JudgeAnswer;
  try {
    answer = { id, judgements: judgeClass(responses, options) };
  } catch (error) {
    answer = { id, error: error instanceof Error ? (error.stack ?? error.message) : String(error) };
  }
  parentPort?.postMessage(answer);
});
