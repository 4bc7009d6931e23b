import { sendLetter, type Posting } from './adults/letters';
import { backUpNightly } from './backup/nightly';
import { isClosed } from './db/closed';
import type { Database } from './db/database';
import type { Work } from './jobs/bossJobs';
import { remembered } from './judging/failures';
import { Judging, type JudgingDeps } from './judging/judging';
import { judgeWeeks } from './judging/weeks';
import { keepErased } from './school/erased';
import { trim } from './school/trim';

/** Delay before a class that another server is judging is tried again, ms. */
const LATER_MS = 1000;

/** A school that is carried elsewhere is judged there, as soon as somebody looks. */
async function unlessClosed(act: () => Promise<void>): Promise<void> {
  try {
    await act();
  } catch (error) {
    if (!isClosed(error)) throw error;
  }
}

/** What a server does that takes work. `backups`: the folder where the nightly ones go; null = none are made here. `erasedFile`: where the list of what was deleted is kept besides; null = nowhere. `post`: null = letters are sent elsewhere. */
export function workOf({
  database,
  judge,
  now,
  backups,
  erasedFile = null,
  post,
}: Omit<JudgingDeps, 'orm'> & {
  readonly database: Database;
  readonly backups: string | null;
  readonly erasedFile?: string | null;
  readonly post: Posting | null;
}): Work {
  const { orm, url } = database;
  const deps = { orm, judge, now };
  const judging = new Judging(deps);
  return {
    judge: (key, { last, jobs }) =>
      unlessClosed(() =>
        remembered(orm.em.fork(), key, 'judge', last, now, async () => {
          if (!(await judging.refresh(key))) jobs.ask('judge', key, LATER_MS);
        }),
      ),
    weeks: (which, { last, jobs }) =>
      unlessClosed(() =>
        remembered(orm.em.fork(), which, 'weeks', last, now, async () => {
          const left = await judgeWeeks(deps, judging, which);
          if (left !== false) jobs.ask('weeks', which, left === null ? LATER_MS : 0);
        }),
      ),
    ...(post !== null && { letter: (wish, { last }) => sendLetter({ ...post, orm, now }, wish, last) }),
    trim: async () => {
      await trim(orm.em.fork(), now());
      if (erasedFile !== null) await keepErased(orm.em.fork(), erasedFile);
    },
    count: async () => void (await orm.em.fork().execute('analyze sitting, response, correction')),
    ...(backups !== null && { backup: () => backUpNightly(backups, url, now()) }),
  };
}
