import { classValues, DEFAULT_READING_SETTINGS, judgeChild, simulateClass } from '@vane/core';
import type { RehearsalNews, RehearsalWish } from './rehearsal';

addEventListener('message', ({ data }: MessageEvent<RehearsalWish>) => {
  const tell = (news: RehearsalNews): void => postMessage(news);
  const { names } = data;
  const of = names.length + 2;
  tell({ what: 'progress', done: 0, of, doing: { step: 'simulate' } });
  let made = 0;
  const { responses, truth } = simulateClass({ ...data, makeId: () => `r${String(made++).padStart(7, '0')}` });
  tell({ what: 'progress', done: 1, of, doing: { step: 'learn' } });
  const values = classValues(responses);
  const judgements = names.map((name, i) => {
    tell({ what: 'progress', done: 2 + i, of, doing: { step: 'judge', name } });
    return judgeChild(
      name,
      responses.filter((r) => r.child === name),
      values,
      { settings: DEFAULT_READING_SETTINGS },
    );
  });
  tell({ what: 'done', responses, judgements, truth });
});
