import type { Context, MiddlewareHandler } from 'hono';
import { matchedRoutes } from 'hono/route';
import type { Deps, Env } from './context';

/** The pattern of the API route that answers a request; empty where none does. Middleware, such as the sign-in, is registered for all methods. */
export const routeOf = (c: Context): string =>
  matchedRoutes(c).findLast(({ method, path }) => method !== 'ALL' && path.startsWith('/api/'))?.path ?? '';

/** Logs and counts each response of the API by its route pattern, which holds no name, id or address. `requestId` joins it to errors. */
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
