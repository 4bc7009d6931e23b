import { COPIES_LAST_MS, type Me } from '@vane/contract';
import { verify } from '@node-rs/argon2';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { Context, MiddlewareHandler } from 'hono';
import { deleteCookie, getCookie, setCookie } from 'hono/cookie';
import { audit } from '../request/audit';
import type { Deps, Env } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { demandOpen, demandOpenSchool } from '../request/open';
import { Adult, AdultLink, ClassAdult, Erased, School, SchoolClass, SignIn } from '../db/entities';
import { isDemo } from '../db/demoSchool';
import { DEMO_SCHOOL_ID } from '../db/demoSchool';
import { Batched } from '../db/batched';
import type { Database } from '../db/database';
import { UUID } from '../db/keys';
import { uuidOr404 } from '../request/ids';
import { RequestProblem } from '../problems/problem';
import { rightsChanged } from '../db/notices';
import { forgetDevices, knownDevice, markDevice } from './knownDevices';
import type { Limits } from './limits';
import { demandGoodPassword, isPassword, passwordHash } from './passwords';
import { hashOf, newToken } from './tokens';

/** Over HTTPS a browser itself holds the cookie to this host and to HTTPS (RFC 6265bis, 4.1.3.2). */
const cookieName = ({ secureCookie }: Deps): string => (secureCookie ? '__Host-vane_sign_in' : 'vane_sign_in');
/** Wrong PINs before the device is signed out. */
const MOST_PINS = 5;
/** A school day and its evening: an adult signs in once a day. */
const LASTS_MS = 14 * 3_600_000;

/** An adult with a pin who has done nothing for so long has left the device: it is locked, ms. */
const IDLE_MS = 10 * 60_000;
/** That an adult is there is noted once in so long, ms. */
const NOTED_EVERY_MS = 60_000;
/** What pages ask by themselves says nothing of an adult who is there. */
const BY_ITSELF = /\/(record|events)$/;

/** A sign-in `i` of an adult `a` that may see anything: it lasts, and is neither locked nor left. Its two places are the time and the earliest time at which the adult was there. */
export const OPEN_SIGN_IN = `i.expires_at > ? and not i.locked and (a.pin_hash is null or i.active_at > ?)`;
export const openSignInAt = (now: Date): [now: Date, since: Date] => [now, new Date(now.getTime() - IDLE_MS)];

/** Signs an adult in on this browser, which knows them from now on. */
export async function beginSignIn(
  c: Context<Env>,
  deps: Deps,
  adult: { schoolId: string; id: string },
  em: EntityManager = c.var.em,
): Promise<void> {
  const token = newToken();
  const now = deps.now();
  const expiresAt = new Date(now.getTime() + LASTS_MS);
  await em.insert(SignIn, {
    tokenHash: hashOf(token),
    schoolId: adult.schoolId,
    adultId: adult.id,
    createdAt: now,
    activeAt: now,
    expiresAt,
    locked: false,
    wrongPins: 0,
  });
  setCookie(c, cookieName(deps), token, {
    httpOnly: true,
    sameSite: 'Strict',
    path: '/',
    expires: expiresAt,
    secure: deps.secureCookie,
  });
  await markDevice(c, deps, adult);
}

/** What a locked device may still ask: to be unlocked or signed out, and to hand in what was marked before. */
const OPEN_WHEN_LOCKED = /^\/api\/(me|me\/unlock|sign-out|classes\/[^/]+\/record)$/;

interface Asking {
  readonly token: string;
  /** The class that the request is about. */
  readonly classId: string | null;
}
type SignedIn = Env['Variables']['adult'] & {
  readonly locked: boolean;
  /** Its adult has a pin and has left it. */
  readonly left: boolean;
  /** When the adult was last seen there is to be noted anew. */
  readonly unnoted: boolean;
  readonly ownClass: boolean;
  readonly closed: boolean;
};
const MOST_AT_ONCE = 200;
const LANES = 2;

/** Lets only signed-in adults through, and says who they are and whether the class that is asked for is theirs. */
export function signedIn(deps: Deps): MiddlewareHandler<Env> {
  const lookup = sessionLookup(deps.database, deps.now);
  return async (c, next) => {
    const cookie = getCookie(c, cookieName(deps));
    if (!cookie) throw new RequestProblem('not-signed-in');
    const token = hashOf(cookie);
    const classId = c.req.param('classId');
    const asking = { token, classId: classId !== undefined && UUID.test(classId) ? classId : null };
    const found = await lookup.ask(asking);
    if (!found) throw new RequestProblem('not-signed-in');
    const { locked, left, unnoted, ownClass, closed, ...adult } = found;
    demandOpen(closed);
    if (left && !locked) await lockSignIn(c.var.em, token);
    else if (unnoted && !BY_ITSELF.test(c.req.path))
      await c.var.em.nativeUpdate(SignIn, { tokenHash: token }, { activeAt: deps.now() });
    if ((locked || left) && !OPEN_WHEN_LOCKED.test(c.req.path)) throw new RequestProblem('locked');
    c.set('signIn', token);
    c.set('adult', adult);
    c.set('schoolId', adult.schoolId);
    if (classId !== undefined) {
      // Another's class is as if it were not there.
      if (!ownClass) throw new RequestProblem('not-found');
      c.set('classKey', { schoolId: adult.schoolId, classId: uuidOr404(classId) });
    }
    return next();
  };
}

/** The device waits for the pin, and what it follows ends. */
async function lockSignIn(em: EntityManager, tokenHash: string): Promise<void> {
  await em.nativeUpdate(SignIn, { tokenHash }, { locked: true, wrongPins: 0 });
  await rightsChanged(em);
}

/** Runs on every request; concurrent lookups share one query. */
const sessionLookup = ({ orm }: Database, now: () => Date): Batched<Asking, SignedIn | null> =>
  new Batched<Asking, SignedIn | null>(
    async (all) => {
      const at = now();
      const found = await orm.em.fork().execute<(SignedIn & { n: number })[]>(
        `select w.n, i.locked, a.school_id as "schoolId", a.id, a.name, a.email, a.role, o.moving_at is not null as closed,
         a.pin_hash is not null and i.active_at <= ? as left, a.pin_hash is not null and i.active_at < ? as unnoted,
         exists (select 1 from class_right r where r.school_id = a.school_id and r.class_id = w."classId" and r.adult_id = a.id) as "ownClass"
       from json_to_recordset(?) as w(n int, token text, "classId" uuid)
       join sign_in i on i.token_hash = w.token and i.expires_at > ? join adult a on a.school_id = i.school_id and a.id = i.adult_id
       join school o on o.id = i.school_id`,
        [
          openSignInAt(at)[1],
          new Date(at.getTime() - NOTED_EVERY_MS),
          JSON.stringify(all.map((one, n) => ({ n, ...one }))),
          at,
        ],
      );
      const byPlace = new Map(found.map(({ n, ...one }) => [n, one]));
      return all.map((_, n) => byPlace.get(n) ?? null);
    },
    MOST_AT_ONCE,
    LANES,
  );

/** Who is signed in, where, and with which classes. */
export async function meOf(
  em: EntityManager,
  adult: Pick<Env['Variables']['adult'], 'schoolId' | 'id' | 'name' | 'email' | 'role'>,
  now: Date,
  signIn?: string,
): Promise<Me> {
  const school = await em.findOneOrFail(School, { id: adult.schoolId });
  const { schoolId, id, role } = adult;
  const given = role === 'lead' ? null : await em.find(ClassAdult, { schoolId, adultId: id });
  const which = given === null ? {} : { id: { $in: given.map((g) => g.classId) } };
  const classes = await em.find(SchoolClass, { schoolId, ...which, archivedAt: null }, { orderBy: { name: 'asc' } });
  const since = new Date(now.getTime() - COPIES_LAST_MS);
  const erased = await em.find(Erased, { schoolId, what: 'child', at: { $gt: since } }, { fields: ['id'] });
  const { pinHash, careReadAt } = await em.findOneOrFail(Adult, { schoolId, id });
  const locked = signIn !== undefined && ((await em.findOne(SignIn, { tokenHash: signIn }))?.locked ?? false);
  return {
    locked,
    hasPin: Boolean(pinHash),
    careRead: Boolean(careReadAt),
    adult: { id: adult.id, name: adult.name, email: adult.email, role: adult.role },
    school: {
      name: school.name,
      demo: school.id === DEMO_SCHOOL_ID,
      timeZone: school.timeZone,
      daysOff: school.daysOff,
    },
    classes: classes.map(({ id, name }) => ({ id, name })),
    erased: erased.map((one) => one.id),
  };
}

/** Checks a pin on this device. Every try is counted before it is looked at, so that many at once are no more than a few; the last wrong one signs the device out. */
async function checkPin(em: EntityManager, signIn: string, pinHash: string, pin: string): Promise<void> {
  const [tried] = await em.execute<{ wrong_pins: number }[]>(
    'update sign_in set wrong_pins = wrong_pins + 1 where token_hash = ? and wrong_pins < ? returning wrong_pins',
    [signIn, MOST_PINS],
  );
  if (tried === undefined) throw new RequestProblem('not-signed-in');
  if (await verify(pinHash, pin)) {
    await em.nativeUpdate(SignIn, { tokenHash: signIn }, { wrongPins: 0 });
    return;
  }
  if (tried.wrong_pins >= MOST_PINS) await em.nativeDelete(SignIn, { tokenHash: signIn });
  throw new RequestProblem('wrong-pin');
}

/** The adult of an address. */
export const adultAt = (em: EntityManager, email: string) => em.findOne(Adult, { email });

/** Signing in and out, and what an adult changes of their own sign-in. */
export function signInRoutes(deps: Deps, limits: Limits): ContractRoutes {
  return (
    new ContractRoutes()
      .on('POST /sign-in', async (c, { body }) => {
        const { password } = body;
        const email = body.email.trim().toLowerCase();
        const { address, em } = c.var;
        const adult = await adultAt(em, email);
        const device = await knownDevice(c, deps, adult);
        if (device !== null) await limits.count('sign-in-device', device);
        else {
          await limits.count('sign-in-address', address);
          await limits.count('sign-in-account', email);
        }
        const fits = await isPassword(adult?.passwordHash, password, { address, known: device !== null });
        // The demo's password is known to everybody: beside a real school it opens nothing.
        const known = adult?.schoolId === DEMO_SCHOOL_ID && !(await isDemo(em));
        if (!adult || !fits || known) throw new RequestProblem('wrong-sign-in');
        if (device !== null) await limits.clear('sign-in-device', device);
        else await limits.refund('sign-in-address', address);
        await limits.clear('sign-in-account', email);
        // That it is closed is said to its own adults alone.
        await demandOpenSchool(em, adult.schoolId);
        await em.transactional(async (tx) => {
          await beginSignIn(c, deps, adult, tx);
          await audit(tx, adult, deps.now(), 'signed in');
        });
        return await meOf(em, adult, deps.now());
      })
      .on('POST /sign-out', async (c) => {
        const token = getCookie(c, cookieName(deps)) ?? '';
        const tokenHash = hashOf(token);
        if ((await c.var.em.nativeDelete(SignIn, { tokenHash })) > 0) await rightsChanged(c.var.em);
        deleteCookie(c, cookieName(deps), { path: '/', secure: deps.secureCookie });
      })
      .on('GET /me', (c) => meOf(c.var.em, c.var.adult, deps.now(), c.var.signIn))
      .on('PUT /me/password', async (c, { body: { old, password } }) => {
        const { em, adult, signIn } = c.var;
        const { passwordHash: stored } = await em.findOneOrFail(Adult, { schoolId: adult.schoolId, id: adult.id });
        await limits.count('old-password', adult.id);
        if (!(await isPassword(stored, old, { address: c.var.address, known: true })))
          throw new RequestProblem('wrong-password');
        await limits.clear('old-password', adult.id);
        const school = await em.findOneOrFail(School, { id: adult.schoolId });
        demandGoodPassword(password, [adult.name, adult.email, school.name]);
        const [hashed, device] = [await passwordHash(password), await knownDevice(c, deps, adult)];
        const { schoolId, id: adultId } = adult;
        await em.transactional(async (tx) => {
          await tx.nativeUpdate(Adult, { schoolId, id: adultId }, { passwordHash: hashed });
          await tx.nativeDelete(SignIn, { schoolId, adultId, tokenHash: { $ne: signIn } });
          // A letter that was asked for before opens nothing any more.
          await tx.nativeDelete(AdultLink, { schoolId, adultId, purpose: 'reset' });
          await forgetDevices(tx, adult, device);
          await rightsChanged(tx);
          await audit(tx, adult, deps.now(), 'password changed');
        });
      })
      .on('POST /me/care-read', async (c) => {
        const { em, adult } = c.var;
        await em.nativeUpdate(Adult, { schoolId: adult.schoolId, id: adult.id }, { careReadAt: deps.now() });
      })
      .on('PUT /me/pin', async (c, { body: { pin, old } }) => {
        const { em, adult } = c.var;
        const { pinHash } = await em.findOneOrFail(Adult, { schoolId: adult.schoolId, id: adult.id });
        // Whoever finds the device open must not be able to take its lock away.
        if (pinHash) await checkPin(em, c.var.signIn, pinHash, old ?? '');
        await em.nativeUpdate(
          Adult,
          { schoolId: adult.schoolId, id: adult.id },
          { pinHash: pin === null ? null : await passwordHash(pin) },
        );
        await em.nativeUpdate(SignIn, { tokenHash: c.var.signIn }, { activeAt: deps.now() });
      })
      // That somebody is there is noted of every request on its way here.
      .on('POST /me/active', () => undefined)
      .on('POST /me/lock', async (c) => {
        const { em, adult, signIn } = c.var;
        const { pinHash } = await em.findOneOrFail(Adult, { schoolId: adult.schoolId, id: adult.id });
        if (pinHash) await lockSignIn(em, signIn);
        return { locked: Boolean(pinHash) };
      })
      .on('POST /me/unlock', async (c, { body }) => {
        const { em, adult, signIn } = c.var;
        const { pinHash } = await em.findOneOrFail(Adult, { schoolId: adult.schoolId, id: adult.id });
        if (pinHash) await checkPin(em, signIn, pinHash, body.pin);
        await em.nativeUpdate(SignIn, { tokenHash: signIn }, { locked: false, activeAt: deps.now() });
      })
      .on('POST /me/sign-out-everywhere', async (c) => {
        const { em, adult } = c.var;
        await em.transactional(async (tx) => {
          await tx.nativeDelete(SignIn, { schoolId: adult.schoolId, adultId: adult.id });
          await forgetDevices(tx, adult);
          await rightsChanged(tx);
          await audit(tx, adult, deps.now(), 'signed out everywhere');
        });
        deleteCookie(c, cookieName(deps), { path: '/', secure: deps.secureCookie });
      })
  );
}
