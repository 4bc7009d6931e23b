import type { EntityManager } from '@mikro-orm/postgresql';
import { DEVICE_LASTS_MS } from '../adults/knownDevices';
import { ALSO_CLOSED } from '../db/closed';
import { SCREEN_LASTS_MS } from '../screens/screenRoutes';

/** Deletes what has expired: sign-ins, links, helpers' links, screens, rate limits, unused devices, and audit entries older than the school's retention. */
export const trim = (all: EntityManager, now: Date): Promise<void> => all.transactional((em) => trimAll(em, now));

/** The calendar goes on by two months at a time at most: a clock that is years ahead for one start takes nothing away that could not be missed. */
async function believed(em: EntityManager, clock: Date): Promise<Date> {
  const [row] = await em.execute<{ until: string | Date }[]>(
    `insert into trimmed (until) values (?)
     on conflict (id) do update set until = least(excluded.until, trimmed.until + interval '60 days') returning until`,
    [clock],
  );
  return new Date(row?.until ?? clock);
}

async function trimAll(em: EntityManager, clock: Date): Promise<void> {
  await em.execute(ALSO_CLOSED);
  const now = await believed(em, clock);
  const ago = (ms: number): Date => new Date(now.getTime() - ms);
  await em.execute('delete from sign_in where expires_at < ?', [now]);
  await em.execute('delete from adult_link where expires_at < ?', [now]);
  await em.execute('delete from helper_link where until < ?', [now]);
  await em.execute('delete from rate_limit where expire < ?', [now.getTime()]);
  await em.execute('delete from known_device where seen_at < ?', [ago(DEVICE_LASTS_MS)]);
  await em.execute('delete from screen where made_at < ?', [ago(SCREEN_LASTS_MS)]);
  // Never sooner than after a year: the rest of a school year must be told.
  await em.execute(
    `delete from audit a using school s where s.id = a.school_id and a.at < ?::timestamptz - make_interval(months => greatest(12, s.keep_months))`,
    [now],
  );
}
