import { signInRequest, setUpRequest, type Door, type Me } from '@vane/contract';
import { hash, verify } from '@node-rs/argon2';
import type { EntityManager } from '@mikro-orm/postgresql';
import { createHash, randomBytes } from 'node:crypto';
import { Hono, type Context, type MiddlewareHandler } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import { v7 } from 'uuid';
import { jsonBody, type Deps, type Env } from '../context';
import { Adult, ClassAdult, School, SchoolClass, SignIn } from '../db/entities';
import { addChildren } from '../classes/children';
import { DEMO_SCHOOL_ID, DEMO_SIGN_IN } from '../demo/names';
import { RequestProblem } from '../problem';

const COOKIE = 'vane_sign_in';
/** A school day and its evening: an adult signs in once a day. */
const LASTS_MS = 14 * 3_600_000;

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** argon2id with the package's defaults (19 MiB, 2 passes), as OWASP advises. */
export const passwordHash = (password: string): Promise<string> => hash(password);

/** Checked against when no such adult exists, so that the answer takes as long as for one who does. */
let decoy: Promise<string> | null = null;
const decoyHash = (): Promise<string> => (decoy ??= passwordHash(randomBytes(16).toString('hex')));

async function begin(c: Context<Env>, deps: Deps, adult: { schoolId: string; id: string }): Promise<void> {
  const token = randomBytes(32).toString('base64url');
  const now = deps.now();
  const expiresAt = new Date(now.getTime() + LASTS_MS);
  const em = c.var.em;
  await em.nativeDelete(SignIn, { schoolId: adult.schoolId, adultId: adult.id, expiresAt: { $lt: now } });
  await em.insert(SignIn, { tokenHash: hashOf(token), schoolId: adult.schoolId, adultId: adult.id, createdAt: now, expiresAt });
  setCookie(c, COOKIE, token, { httpOnly: true, sameSite: 'Strict', path: '/', expires: expiresAt, secure: deps.secureCookie });
}

/** Lets only signed-in adults through, and says who they are. */
export const signedIn =
  (deps: Deps): MiddlewareHandler<Env> =>
  async (c, next) => {
    const token = getCookie(c, COOKIE);
    const found = token ? await c.var.em.findOne(SignIn, { tokenHash: hashOf(token), expiresAt: { $gt: deps.now() } }) : null;
    const adult = found && (await c.var.em.findOne(Adult, { schoolId: found.schoolId, id: found.adultId }));
    if (!adult) throw new RequestProblem('not-signed-in');
    c.set('adult', { schoolId: adult.schoolId, id: adult.id, name: adult.name, email: adult.email, role: adult.role });
    c.set('schoolId', adult.schoolId);
    return next();
  };

async function meOf(em: EntityManager, adult: Env['Variables']['adult']): Promise<Me> {
  const school = await em.findOneOrFail(School, { id: adult.schoolId });
  const { schoolId, id, role } = adult;
  const given = role === 'lead' ? null : await em.find(ClassAdult, { schoolId, adultId: id });
  const which = given === null ? {} : { id: { $in: given.map((g) => g.classId) } };
  const classes = await em.find(SchoolClass, { schoolId, ...which, archivedAt: null }, { orderBy: { name: 'asc' } });
  return {
    adult: { id: adult.id, name: adult.name, email: adult.email, role: adult.role },
    school: { name: school.name, demo: school.id === DEMO_SCHOOL_ID },
    classes: classes.map(({ id, name }) => ({ id, name })),
  };
}

/** Signing in and out, and the first set-up of an empty Vane. */
export function signInRoutes(deps: Deps): Hono<Env> {
  return new Hono<Env>()
    .get('/door', async (c) => {
      const demo = await c.var.em.count(School, { id: DEMO_SCHOOL_ID });
      const door: Door = { needsSetUp: (await c.var.em.count(Adult)) === 0, demo: demo > 0 ? DEMO_SIGN_IN : null };
      return c.json(door);
    })
    .post('/sign-in', jsonBody(signInRequest), async (c) => {
      const { email, password } = c.req.valid('json');
      const adult = await c.var.em.findOne(Adult, { email: email.trim().toLowerCase() });
      const fits = await verify(adult?.passwordHash ?? (await decoyHash()), password);
      if (!adult || !fits) throw new RequestProblem('wrong-sign-in');
      await begin(c, deps, adult);
      return c.json(await meOf(c.var.em, adult));
    })
    .post('/sign-out', async (c) => {
      const token = getCookie(c, COOKIE);
      if (token) await c.var.em.nativeDelete(SignIn, { tokenHash: hashOf(token) });
      deleteCookie(c, COOKIE, { path: '/' });
      return c.body(null, 204);
    })
    .post('/set-up', jsonBody(setUpRequest), async (c) => {
      const wish = c.req.valid('json');
      const now = deps.now();
      const adult = { schoolId: v7(), id: v7(), name: wish.name, email: wish.email.toLowerCase(), role: 'lead' as const, createdAt: now };
      const password = await passwordHash(wish.password);
      await c.var.em.transactional(async (em) => {
        // One at a time: two browsers at the set-up page must not both become the first.
        await em.execute('lock table adult in exclusive mode');
        if ((await em.count(Adult)) > 0) throw new RequestProblem('set-up-done');
        const classId = v7();
        await em.insert(School, { id: adult.schoolId, name: wish.school, createdAt: now });
        await em.insert(Adult, { ...adult, passwordHash: password });
        await em.insert(SchoolClass, { schoolId: adult.schoolId, id: classId, name: wish.className, createdAt: now });
        await em.insert(ClassAdult, { schoolId: adult.schoolId, classId, adultId: adult.id });
        await addChildren(em, { schoolId: adult.schoolId, classId }, wish.children, now);
      });
      await begin(c, deps, adult);
      return c.json(await meOf(c.var.em, adult), 201);
    })
    .get('/me', signedIn(deps), async (c) => c.json(await meOf(c.var.em, c.var.adult)));
}
