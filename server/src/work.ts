import { join } from 'node:path';
import { sendLetter, type Posting } from './adults/letters';
import { backUpNightly } from './backup/nightly';
import { FIRST, perShard, type Shards } from './db/shards';
import type { Work } from './jobs/bossJobs';
import { remembered } from './judging/failures';
import { Judging, type JudgingDeps } from './judging/judging';
import { judgeWeeks } from './judging/weeks';
import { trim } from './school/trim';

/** Delay before a class that another server is judging is tried again, ms. */
const LATER_MS = 1000;

/** What a server does that takes work. `backups`: the folder where the nightly ones go; null = none are made here. `post`: null = letters are sent elsewhere. */
export function workOf({
  shards,
  judge,
  now,
  backups,
  post,
}: Omit<JudgingDeps, 'orm'> & {
  readonly shards: Shards;
  readonly backups: string | null;
  readonly post: Posting | null;
}): Work {
  const judgings = perShard(({ orm }) => {
    const deps = { orm, judge, now };
    return { deps, judging: new Judging(deps) };
  });
  /** Where the school of a class lives now: nothing says so when it was found elsewhere before. */
  const at = async ({ schoolId }: { readonly schoolId: string }) => judgings(await shards.again(schoolId));
  const everywhere = async (act: (shard: Shards['first']) => Promise<unknown>): Promise<void> =>
    void (await Promise.all(shards.all.map(act)));
  return {
    judge: async (key, { last, jobs }) => {
      const { deps, judging } = await at(key);
      await remembered(deps.orm.em.fork(), key, 'judge', last, now, async () => {
        if (!(await judging.refresh(key))) jobs.ask('judge', key, LATER_MS);
      });
    },
    weeks: async (which, { last, jobs }) => {
      const { deps, judging } = await at(which);
      await remembered(deps.orm.em.fork(), which, 'weeks', last, now, async () => {
        const left = await judgeWeeks(deps, judging, which);
        if (left !== false) jobs.ask('weeks', which, left === null ? LATER_MS : 0);
      });
    },
    ...(post !== null && { letter: (wish, { last }) => sendLetter({ ...post, shards, now }, wish, last) }),
    trim: () => everywhere(({ orm }) => trim(orm.em.fork(), now())),
    count: () => everywhere(({ orm }) => orm.em.fork().execute('analyze sitting, response, correction')),
    ...(backups !== null && {
      backup: () =>
        everywhere(({ name, url }) => backUpNightly(name === FIRST ? backups : join(backups, name), url, now())),
    }),
  };
}
