import { judgeChildren } from '@vane/core';
import type { JudgeAnswer, JudgeWish } from './judgeTask';

addEventListener('message', ({ data: { responses, values, settings } }: MessageEvent<JudgeWish>) => {
  const answer: JudgeAnswer = judgeChildren(responses, values, { settings })[0] ?? null;
  postMessage(answer);
});
