import type { EntityManager } from '@mikro-orm/postgresql';
import type { MiddlewareHandler } from 'hono';
import { getCookie } from 'hono/cookie';
import { hashOf, newToken } from '../adults/tokens';
import { ServiceKey } from '../db/entities';
import { RequestProblem } from '../problems/problem';
import type { Deps, Env } from '../request/context';

/** The path keeps the cookie away from every other route. */
export const SERVICE_COOKIE = 'vane_service';
export const SERVICE_PATH = '/api/service';
/** A working day. */
const LASTS_MS = 12 * 3_600_000;

/** A key to the page of whoever runs Vane. Keys of before end with their day. @param em of the first shard */
export async function newServiceKey(em: EntityManager, now: Date): Promise<string> {
  await em.nativeDelete(ServiceKey, { until: { $lt: now } });
  const token = newToken();
  await em.insert(ServiceKey, { tokenHash: hashOf(token), until: new Date(now.getTime() + LASTS_MS) });
  return token;
}

/** Until when a key is good; null = it is none. */
export async function serviceKeyUntil(em: EntityManager, token: string, now: Date): Promise<Date | null> {
  return (await em.findOne(ServiceKey, { tokenHash: hashOf(token), until: { $gt: now } }))?.until ?? null;
}

/** Lets only whoever runs Vane through. */
export const serving =
  ({ shards, now }: Deps): MiddlewareHandler<Env> =>
  async (c, next) => {
    const em = shards.first.orm.em.fork();
    if ((await serviceKeyUntil(em, getCookie(c, SERVICE_COOKIE) ?? '', now())) === null)
      throw new RequestProblem('service-link-over');
    return next();
  };
