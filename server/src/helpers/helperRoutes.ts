import { asksOfSheet, rowOfSheet, sittingOfSheet, toResponse, type HelperSheet } from '@vane/contract';
import { observedText, applySupport } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { Context, MiddlewareHandler } from 'hono';
import { getCookie, setCookie } from 'hono/cookie';
import type { Limits } from '../adults/limits';
import { hashOf, newToken } from '../adults/tokens';
import { carpetOf } from '../classes/classRoutes';
import { Child, GroupSheet, HelperLinkEntity } from '../db/entities';
import type { ClassKey } from '../db/keys';
import { dayStarts, timeZoneOf } from '../db/timeZone';
import type { Readings } from '../judging/readings';
import { RequestProblem } from '../problems/problem';
import { withRightClock } from '../record/deviceClock';
import { addToRecord } from '../record/store';
import { audit } from '../request/audit';
import type { Deps, Env } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { demandOpenSchool } from '../request/open';
import { qrFor } from '../request/forOthers';

/** The path keeps the cookie away from every other route. */
const COOKIE = 'vane_helper';
const COOKIE_PATH = '/api/helper';
/** The longest day there is, where clocks are put back. */
const LASTS_MS = 25 * 3_600_000;

/** Which link a token belongs to, while it lasts and whoever made it still works with the class. */
async function linkOf(em: EntityManager, token: string, now: Date): Promise<Env['Variables']['helper'] | null> {
  const [found] = await em.execute<Env['Variables']['helper'][]>(
    `select l.school_id as "schoolId", l.code, l.class_id as "classId" from helper_link l
     join class_right r on r.school_id = l.school_id and r.class_id = l.class_id and r.adult_id = l.adult_id
     join class k on k.school_id = l.school_id and k.id = l.class_id and k.archived_at is null where l.token_hash = ? and l.until > ?`,
    [hashOf(token), now],
  );
  return found ?? null;
}

/** The sheet of a good link. */
async function entered(c: Context<Env>, { now }: Deps, token: string): Promise<Env['Variables']['helper']> {
  const link = await linkOf(c.var.em, token, now());
  if (!link) throw new RequestProblem('link-over');
  await demandOpenSchool(c.var.em, link.schoolId);
  return link;
}

/** Lets only a helper through whose link is good. */
export const helping =
  (deps: Deps): MiddlewareHandler<Env> =>
  async (c, next) => {
    c.set('helper', await entered(c, deps, getCookie(c, COOKIE) ?? ''));
    return next();
  };

/** The sheet of a link, with those of its children who are still here, in its order. */
async function sheetOf(em: EntityManager, { schoolId, classId, code }: Env['Variables']['helper']) {
  const sheet = await em.findOneOrFail(GroupSheet, { schoolId, classId, code });
  const here = await em.find(Child, { schoolId, classId, archivedAt: null, id: { $in: sheet.children } });
  const children = sheet.children.flatMap((id) => here.find((child) => child.id === id) ?? []);
  const view = { facts: sheet.facts, session: sheet.session ?? null };
  return { sheet, children: children.map((child) => ({ ...child, asks: asksOfSheet(view, child.id) })) };
}

const answerId = (code: string, child: string, place: number): string => `sheet-${code}-${child}-${place}`;

/** Makes and ends the links; for the class's own adults. */
export function helperLinkRoutes(deps: Deps): ContractRoutes {
  return new ContractRoutes()
    .on('POST /classes/:classId/group-sheets/:code/link', async (c, { code }) => {
      const { em, classKey: key, adult } = c.var;
      if ((await em.count(GroupSheet, { ...key, code })) === 0) throw new RequestProblem('not-found');
      const token = newToken();
      const timeZone = await timeZoneOf(em, key.schoolId);
      const until = dayStarts(deps.now(), timeZone, 1);
      await em.transactional(async (tx) => {
        const made = { tokenHash: hashOf(token), adultId: adult.id, madeAt: deps.now(), until };
        // A new link ends the one before.
        await tx.upsert(HelperLinkEntity, { ...key, code, ...made });
        await audit(tx, adult, deps.now(), 'link made for a helper', code);
      });
      const link = `${new URL(c.var.homeUrl).origin}/helper#${token}`;
      return { link, qr: await qrFor(c.var.homeUrl, link), until: until.toISOString() };
    })
    .on('DELETE /classes/:classId/group-sheets/:code/link', async (c, { code }) => {
      const { em, classKey: key, adult } = c.var;
      await em.transactional(async (tx) => {
        if ((await tx.nativeDelete(HelperLinkEntity, { ...key, code })) === 0) throw new RequestProblem('not-found');
        await audit(tx, adult, deps.now(), 'link for a helper ended', code);
      });
    });
}

/** A helper's side: the sheet of the link, and what the children said. */
export function helperRoutes(deps: Deps, readings: Readings, limits: Limits): ContractRoutes {
  const keyOf = (c: Context<Env>): ClassKey => ({ schoolId: c.var.helper.schoolId, classId: c.var.helper.classId });
  return new ContractRoutes()
    .on('POST /helper/open', async (c, { body: { token } }) => {
      await limits.count('link', c.var.address);
      await entered(c, deps, token);
      await limits.refund('link', c.var.address);
      setCookie(c, COOKIE, token, {
        httpOnly: true,
        sameSite: 'Strict',
        path: COOKIE_PATH,
        secure: deps.secureCookie,
        maxAge: 86_400,
      });
    })
    .on('GET /helper/sheet', async (c) => {
      const { em, helper } = c.var;
      const { sheet, children } = await sheetOf(em, helper);
      const carpet = await carpetOf(em, keyOf(c));
      const { layout, words, options } = carpet;
      const places = children.flatMap(({ id, asks }) => asks.map((_, place) => ({ child: id, place })));
      const there: { id: string }[] = await em.execute(
        'select id from response where school_id = ? and class_id = ? and sitting_id = ?',
        [helper.schoolId, helper.classId, sittingOfSheet(helper.code, 0).id],
      );
      const ids = new Set(there.map(({ id }) => id));
      const { session } = sheet;
      return {
        code: helper.code,
        session: session ? { needs: session.needs, opener: session.opener, minutes: session.minutes } : null,
        children: children.map(({ id, nickname, asks, supports }) => ({
          id,
          nickname,
          asks,
          exposureMs: applySupport(carpet, supports).exposureMs,
        })),
        ways: { layout, words, options },
        given: places.filter(({ child, place }) => ids.has(answerId(helper.code, child, place))),
      } satisfies HelperSheet;
    })
    .on('POST /helper/answers', async (c, { body: { answers, sent_at } }) => {
      const { em, helper } = c.var;
      const key = keyOf(c);
      const { children } = await sheetOf(em, helper);
      const rows = answers.map(({ child, place, given, counted, again, at }) => {
        const ask = children.find(({ id }) => id === child)?.asks[place];
        if (ask === undefined) throw new RequestProblem('not-found');
        const id = answerId(helper.code, child, place);
        return rowOfSheet(helper.code, { id, child, ask, given, counted, again, askedAt: Date.parse(at) });
      });
      const began = Math.min(...answers.map(({ at }) => Date.parse(at)));
      const { sittings, responses } = withRightClock(
        { sittings: [sittingOfSheet(helper.code, began)], responses: rows, sent_at },
        deps.now(),
      );
      // A link lasts for a day: what a device says was asked before or after that, was asked now.
      const asked = (at: string): string =>
        Math.abs(Date.parse(at) - deps.now().getTime()) < LASTS_MS ? at : deps.now().toISOString();
      const seen = responses.map((row) => ({
        ...row,
        shown_at: asked(row.shown_at),
        observed: observedText(toResponse(row)),
      }));
      const result = await addToRecord(
        em,
        { key, sittings: sittings.map((one) => ({ ...one, started_at: asked(one.started_at) })), responses: seen },
        deps.now(),
      );
      await em.nativeUpdate(GroupSheet, { ...key, code: helper.code, keyedAt: null }, { keyedAt: deps.now() });
      if (result.accepted.length > 0) readings.refreshSoon(key);
      return result;
    });
}
