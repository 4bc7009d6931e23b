import type { Context, MiddlewareHandler } from 'hono';
import { matchedRoutes } from 'hono/route';
import type { Deps, Env } from './context';

/** The pattern of the route of the API that answers a request; empty where none does. What stands before a route, such as the sign-in, is for all methods. */
export const routeOf = (c: Context): string =>
  matchedRoutes(c).findLast(({ method, path }) => method !== 'ALL' && path.startsWith('/api/'))?.path ?? '';

/** Writes each answer of the API down, and counts it, by the pattern of its route: no name, id or address of anybody stands there. `requestId` joins it to what went wrong. */
export const accessLog =
  ({ log, metrics }: Pick<Deps, 'log' | 'metrics'>): MiddlewareHandler<Env> =>
  async (c, next) => {
    const begun = performance.now();
    await next();
    const ms = performance.now() - begun;
    const { method } = c.req;
    const route = routeOf(c);
    log.info({ requestId: c.var.requestId, method, route, status: c.res.status, ms: Math.round(ms) }, 'answered');
    metrics?.answered(method, route, c.res.status, ms / 1000);
  };
