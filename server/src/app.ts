import { MODEL_VERSION } from '@vane/core';
import { serveStatic } from '@hono/node-server/serve-static';
import { DriverException } from '@mikro-orm/core';
import { Hono } from 'hono';
import { compress } from 'hono/compress';
import { HTTPException } from 'hono/http-exception';
import { requestId } from 'hono/request-id';
import { NONCE, secureHeaders, type SecureHeadersVariables } from 'hono/secure-headers';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { addressOf, homeUrlOf, isOwnHost } from './adults/address';
import { Limits } from './adults/limits';
import { linkRoutes } from './adults/linkRoutes';
import { signedIn, signInRoutes } from './adults/signIn';
import { manageRoutes } from './classes/childRoutes';
import { classRoutes } from './classes/classRoutes';
import { helperLinkRoutes, helperRoutes, helping } from './helpers/helperRoutes';
import { isClosed } from './db/closed';
import { accessLog, routeOf } from './request/accessLog';
import type { Deps, Env } from './request/context';
import { ContractRoutes } from './request/contractRoutes';
import { UnderWay } from './request/underWay';
import { guideRoutes } from './guide/guide';
import { fileRoutes, schoolFileRoutes } from './files/fileRoutes';
import { Uploads } from './files/uploads';
import { Readings } from './judging/readings';
import { overruleRoutes } from './judging/overruleRoutes';
import { readingRoutes } from './judging/readingRoutes';
import { isDatabaseDown } from './problems/databaseDown';
import { answerProblem, RequestProblem } from './problems/problem';
import { groupSheetRoutes } from './prints/groupSheetRoutes';
import { printRoutes } from './prints/printRoutes';
import { recordRoutes } from './record/recordRoutes';
import { Live } from './screens/live';
import { controlRoutes, paired, SCREEN_LASTS_MS, stageRoutes } from './screens/screenRoutes';
import { ScreenStates } from './screens/states';
import { schoolAdultRoutes } from './school/schoolAdultRoutes';
import { leadOnly, schoolRoutes } from './school/schoolRoutes';
import { setUpRoutes } from './school/setUpRoutes';
import { logged } from './problems/logged';

/** The policy for everything Vane serves. Charts set style attributes; nothing else may be inline. */
const policyOf = (https: boolean) =>
  secureHeaders({
    contentSecurityPolicy: {
      defaultSrc: ["'none'"],
      scriptSrc: ["'self'"],
      styleSrc: ["'self'", NONCE],
      styleSrcAttr: ["'unsafe-inline'"],
      imgSrc: ["'self'", 'data:'],
      fontSrc: ["'self'"],
      connectSrc: ["'self'"],
      workerSrc: ["'self'"],
      manifestSrc: ["'self'"],
      baseUri: ["'self'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
    },
    referrerPolicy: 'no-referrer',
    xFrameOptions: 'DENY',
    crossOriginOpenerPolicy: 'same-origin',
    strictTransportSecurity: https ? 'max-age=31536000; includeSubDomains' : false,
  });

/** PostgreSQL's word for it (appendix A of its manual). */
const DISK_FULL = '53100';

/** The host of an origin; null for one that is none, such as the `null` of a page without one. */
function hostOf(origin: string): string | null {
  try {
    return new URL(origin).host;
  } catch {
    return null;
  }
}

/** The whole server as one function from request to response: testable without a port. */
export function createApp(deps: Deps): Hono<Env> {
  const readings = new Readings(deps);
  const uploads = new Uploads(deps.uploads);
  const { orm, listenUrl } = deps.database;
  const live = new Live(listenUrl, deps.log);
  const screens = { deps, live, states: new ScreenStates(orm, deps.now, SCREEN_LASTS_MS) };
  const limits = new Limits(orm);
  const hosts = new Set([new URL(deps.publicUrl).hostname, ...deps.hostNames, ...deps.schoolHosts]);
  const underWay = new UnderWay();
  deps.closing(() => live.close());
  deps.closing(() => readings.close());
  deps.closing(() => underWay.ended());
  const app = new Hono<Env & { Variables: SecureHeadersVariables }>();

  app.onError((error, c) => {
    if (error instanceof RequestProblem) return answerProblem(c, error.code, error.more);
    if (error instanceof HTTPException && error.status === 400)
      return answerProblem(c, 'bad-body', { detail: error.message });
    // The client has disconnected.
    if (c.req.raw.signal.aborted) return answerProblem(c, 'failed');
    if (isClosed(error)) return answerProblem(c, 'school-moving');
    const { requestId: id } = c.var;
    deps.log.error({ requestId: id, error: logged(error), route: routeOf(c), method: c.req.method }, 'request failed');
    if (error instanceof DriverException && error.code === DISK_FULL) return answerProblem(c, 'disk-full');
    return answerProblem(c, isDatabaseDown(error) ? 'database-down' : 'failed');
  });
  app.notFound((c) => answerProblem(c, 'not-found'));
  app.use((_, next) => underWay.counted(next()));
  app.use(policyOf(deps.proxied));
  // Somebody else's name that was made to point here must read nothing through a browser that trusts it (DNS rebinding).
  app.use((c, next) => {
    const host = c.req.header('host') ?? new URL(c.req.url).host;
    if (isOwnHost(host, hosts)) return next();
    return Promise.resolve(
      answerProblem(c, 'wrong-host', { detail: 'if it is yours, start Vane with VANE_URL or VANE_HOSTS naming it' }),
    );
  });
  // No path of Vane's has a null character, and neither files nor PostgreSQL can be asked for one.
  app.use((c, next) => (c.req.url.includes('%00') ? Promise.resolve(answerProblem(c, 'not-found')) : next()));
  // Answers to reads may be long; answers to changes are a few bytes.
  const packed = compress();
  app.use((c, next) => (c.req.method === 'GET' ? packed(c, next) : next()));

  // Always of our own making: what a request brings along could be anything, a name too.
  app.use('/api/*', requestId({ limitLength: 0 }), accessLog(deps));
  const api = new Hono<Env>();
  api.use(async (c, next) => {
    const origin = c.req.header('origin');
    // Cookies are SameSite=Strict already; this also stops a page on another port of the same host.
    if (
      c.req.method !== 'GET' &&
      origin !== undefined &&
      hostOf(origin) !== (c.req.header('host') ?? new URL(c.req.url).host)
    ) {
      throw new RequestProblem('other-origin');
    }
    c.header('cache-control', 'no-store');
    c.set('em', orm.em.fork());
    c.set('address', addressOf(c, deps.proxied));
    c.set('homeUrl', homeUrlOf(c.req.header('host') ?? '', deps));
    return next();
  });
  const adults = signedIn(deps);
  for (const path of ['/me', '/me/*', '/classes/:classId', '/classes/:classId/*']) api.use(path, adults);
  for (const path of ['/school', '/school/*']) api.use(path, adults, leadOnly);
  api.use('/board/stage', paired(deps));
  api.use('/board/events', paired(deps));
  api.use('/helper/sheet', helping(deps));
  api.use('/helper/answers', helping(deps));
  for (const { hono } of [
    healthRoutes(deps),
    setUpRoutes(deps, limits),
    signInRoutes(deps, limits),
    linkRoutes(deps, limits),
    classRoutes(deps),
    recordRoutes(deps, readings),
    readingRoutes(deps, readings),
    overruleRoutes(deps),
    manageRoutes(deps),
    printRoutes(deps, readings),
    groupSheetRoutes(deps),
    helperLinkRoutes(deps),
    helperRoutes(deps, readings, limits),
    fileRoutes(deps, readings, uploads),
    schoolRoutes(deps),
    schoolAdultRoutes(deps, limits),
    schoolFileRoutes(deps, uploads),
    stageRoutes(screens, limits),
    controlRoutes(screens),
  ])
    api.route('/', hono);
  app.route('/api', api);
  app.all('/api/*', (c) => answerProblem(c, 'not-found'));

  app.route('/guide', guideRoutes(deps.docsRoot, deps.webRoot));
  if (deps.webRoot !== null) servePages(app, deps.webRoot, deps.checkAnswers);
  return app;
}

/** Whether the server and its database answer, and what time it is here. */
const healthRoutes = (deps: Deps): ContractRoutes =>
  new ContractRoutes()
    .on('GET /health', async (c) => {
      const up = await deps.database.orm.isConnected();
      c.status(up ? 200 : 503);
      return {
        status: up ? ('ok' as const) : ('down' as const),
        database: up ? ('up' as const) : ('down' as const),
        version: deps.version,
        modelVersion: MODEL_VERSION,
      };
    })
    .on('GET /clock', () => ({ at: performance.timeOrigin + performance.now() }));

/** The built application: files as they are, and its one page, with this answer's style nonce, for every other path. */
function servePages(app: Hono<Env & { Variables: SecureHeadersVariables }>, root: string, checkAnswers: boolean): void {
  const built = readFileSync(join(root, 'index.html'), 'utf8');
  const page = checkAnswers ? built.replace('<html', '<html data-check-answers') : built;
  app.use(async (c, next) => {
    await next();
    if (/-[A-Z0-9]{8}\.(js|css)$/.test(c.req.path) || c.req.path.startsWith('/media/'))
      c.header('cache-control', 'public, max-age=31536000, immutable');
  });
  app.get('*', async (c, next) =>
    c.req.path === '/' || c.req.path.endsWith('.html') ? next() : serveStatic<Env>({ root })(c as never, next),
  );
  app.get('*', (c) => {
    if (/\.[a-z0-9]+$/i.test(c.req.path) && !c.req.path.endsWith('.html')) return answerProblem(c, 'not-found');
    const nonce = c.get('secureHeadersNonce') ?? '';
    return c.html(page.replace('<vane-root', `<vane-root ngCspNonce="${nonce}"`), 200, { 'cache-control': 'no-store' });
  });
}
