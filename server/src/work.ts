import { backUpNightly } from './backup/nightly';
import type { Work } from './jobs/bossJobs';
import { remembered } from './judging/failures';
import { Judging, type JudgingDeps } from './judging/judging';
import { judgeWeeks } from './judging/weeks';
import { trim } from './school/trim';

/** A class that another server is at is looked at again so much later, ms. */
const LATER_MS = 1000;

/** What a server does that takes work. `backups`: where the nightly ones go, and of which database; null = none are made here. */
export function workOf(
  deps: JudgingDeps & { readonly backups: { readonly folder: string; readonly url: string } | null },
): Work {
  const judging = new Judging(deps);
  const { orm, now, backups } = deps;
  return {
    judge: (key, { last, jobs }) =>
      remembered(orm.em.fork(), key, 'judge', last, now, async () => {
        if (!(await judging.refresh(key))) jobs.ask('judge', key, LATER_MS);
      }),
    weeks: (which, { last, jobs }) =>
      remembered(orm.em.fork(), which, 'weeks', last, now, async () => {
        const left = await judgeWeeks(deps, judging, which);
        if (left !== false) jobs.ask('weeks', which, left === null ? LATER_MS : 0);
      }),
    trim: () => trim(orm.em.fork(), now()),
    count: async () => void (await orm.em.fork().execute('analyze sitting, response, correction')),
    ...(backups && { backup: () => backUpNightly(backups.folder, backups.url, now()) }),
  };
}
