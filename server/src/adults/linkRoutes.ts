import { DAY_MS } from '@vane/core';
import { UniqueConstraintViolationException } from '@mikro-orm/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { Language } from '@vane/core';
import type { Context } from 'hono';
import { v7 } from 'uuid';
import { audit } from '../request/audit';
import type { Deps, Env } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { demandOpenSchool } from '../request/open';
import { giveClass } from './rights';
import { Adult, AdultLink, School, SchoolClass, SignIn } from '../db/entities';
import { RequestProblem } from '../problems/problem';
import { forgetDevices } from './knownDevices';
import type { Limits } from './limits';
import { demandGoodPassword, passwordHash } from './passwords';
import { adultAt, beginSignIn, meOf } from './signIn';
import { hashOf, newToken } from './tokens';
import { logged } from '../problems/logged';
import { lockSchool } from '../db/locks';
import { rightsChanged } from '../db/notices';
import { languageOf } from '../words/sayFor';

const LASTS = { join: 7 * DAY_MS, reset: 3_600_000 };

/** A link that was made: its id, and the token that opens it. */
interface Made {
  readonly id: string;
  readonly token: string;
}

/** Makes a link that works once. What is stored cannot be turned back into it. */
async function makeLink(
  em: EntityManager,
  now: Date,
  link: {
    schoolId: string;
    purpose: 'join' | 'reset';
    adultId: string | null;
    name: string;
    email: string;
    role: 'teacher' | 'lead';
    classes: string[];
    letter: 'waiting' | null;
    madeBy: string | null;
  },
): Promise<Made> {
  const [id, token] = [v7(), newToken()];
  await em.insert(AdultLink, {
    ...link,
    id,
    tokenHash: hashOf(token),
    expiresAt: new Date(now.getTime() + LASTS[link.purpose]),
  });
  return { id, token };
}

/** Invites an adult to a school; an earlier invitation of the same address is withdrawn. */
export async function inviteAdult(
  em: EntityManager,
  now: Date,
  wish: Omit<Parameters<typeof makeLink>[2], 'purpose' | 'adultId'>,
): Promise<Made> {
  const { schoolId, email } = wish;
  await em.nativeDelete(AdultLink, { schoolId, email, purpose: 'join' });
  return makeLink(em, now, { ...wish, purpose: 'join', adultId: null });
}

const linkOf = (em: EntityManager, token: string, purpose: 'join' | 'reset', now: Date) =>
  em.findOne(AdultLink, {
    $or: [{ tokenHash: hashOf(token) }, { letterHash: hashOf(token) }],
    purpose,
    expiresAt: { $gt: now },
  });

/** Takes the link out: of two who use it at once, one comes too late. */
async function useUp(em: EntityManager, token: string, purpose: 'join' | 'reset', now: Date) {
  const link = await linkOf(em, token, purpose, now);
  if (!link || (await em.nativeDelete(AdultLink, { schoolId: link.schoolId, id: link.id })) === 0)
    throw new RequestProblem('link-used');
  return link;
}

/** Joining by invitation, and a new password when the old one is forgotten. */
export function linkRoutes(deps: Deps, limits: Limits): ContractRoutes {
  /** A link that is good, by one who may still try; before anything costly is done for it. */
  const good = async (c: Context<Env>, token: string, purpose: 'join' | 'reset') => {
    await limits.count('link', c.var.address);
    const link = await linkOf(c.var.em, token, purpose, deps.now());
    if (!link) throw new RequestProblem('link-used');
    await limits.refund('link', c.var.address);
    await demandOpenSchool(c.var.em, link.schoolId);
    return link;
  };
  return new ContractRoutes()
    .on('GET /join/:token', async (c, { token }) => {
      const link = await good(c, token, 'join');
      const school = await c.var.em.findOneOrFail(School, { id: link.schoolId });
      return { school: school.name, name: link.name, email: link.email };
    })
    .on('POST /join', async (c, { body: { token, name, password } }) => {
      const now = deps.now();
      const { schoolId: to, email: by } = await good(c, token, 'join');
      const school = await c.var.em.findOneOrFail(School, { id: to });
      demandGoodPassword(password, [name, by, school.name]);
      const passwordHashed = await passwordHash(password);
      const join = async (em: EntityManager) => {
        const link = await useUp(em, token, 'join', now);
        const { schoolId, email, role } = link;
        // Whoever made it may have lost the right to invite at this very moment.
        await lockSchool(em, schoolId);
        const { madeBy } = link;
        if (madeBy && (await em.count(Adult, { schoolId, id: madeBy, role: 'lead' })) === 0)
          throw new RequestProblem('link-used');
        const made = { schoolId, id: v7(), name, email, role };
        await em.insert(Adult, { ...made, passwordHash: passwordHashed, pinHash: null, createdAt: now });
        const classes = await em.find(SchoolClass, { schoolId, id: { $in: link.classes } }, { fields: ['id'] });
        for (const { id } of classes) await giveClass(em, { schoolId, classId: id }, made.id);
        await audit(em, made, now, 'adult joined');
        return made;
      };
      const adult = await c.var.em.transactional(join).catch((error: unknown) => {
        // Nobody works at two schools under one address.
        if (error instanceof UniqueConstraintViolationException) throw new RequestProblem('email-taken');
        throw error;
      });
      await beginSignIn(c, deps, adult);
      return await meOf(c.var.em, adult, deps.now());
    })
    .on('POST /forgotten', async (c, { body }) => {
      const email = body.email.trim().toLowerCase();
      await limits.count('letter-address', c.var.address);
      // For this, too, counts whether anybody has the address or not.
      await limits.count('letter-account', email);
      // The answer does not wait: how long it takes would tell who is here.
      void askReset(deps, email, languageOf(c), c.var.homeUrl).catch((error: unknown) =>
        deps.log.error({ error: logged(error) }, 'the letter could not be asked for'),
      );
    })
    .on('POST /reset', async (c, { body: { token, password } }) => {
      const now = deps.now();
      const { schoolId: of, name, email } = await good(c, token, 'reset');
      const school = await c.var.em.findOneOrFail(School, { id: of });
      demandGoodPassword(password, [name, email, school.name]);
      const hashed = await passwordHash(password);
      await c.var.em.transactional(async (em) => {
        const link = await useUp(em, token, 'reset', now);
        const { schoolId, adultId } = link;
        await em.nativeUpdate(Adult, { schoolId, id: adultId ?? '' }, { passwordHash: hashed });
        // Whoever was signed in with the old password is so no more.
        await em.nativeDelete(SignIn, { schoolId, adultId: adultId ?? '' });
        await em.nativeDelete(AdultLink, { schoolId, adultId: adultId ?? '', purpose: 'reset' });
        await rightsChanged(em);
        await forgetDevices(em, { schoolId, id: adultId ?? '' });
        await audit(em, { schoolId, id: adultId ?? '', name: link.name }, now, 'password reset');
      });
      await limits.clear('sign-in-account', email);
    });
}

async function askReset(deps: Deps, email: string, language: Language, home: string): Promise<void> {
  const em = deps.database.orm.em.fork();
  const adult = await adultAt(em, email);
  if (!adult) return;
  const { schoolId, id, name, role } = adult;
  // Links that were asked for before stay good: anybody may ask for another's.
  const { id: linkId } = await makeLink(em, deps.now(), {
    schoolId,
    purpose: 'reset',
    adultId: id,
    name,
    email,
    role,
    classes: [],
    letter: 'waiting',
    madeBy: null,
  });
  deps.jobs.ask('letter', { schoolId, linkId, language, by: null, home });
}
