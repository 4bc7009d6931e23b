import type { AuditView, SchoolView } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import { subMonths } from 'date-fns';
import { inviteAdult } from '../adults/linkRoutes';
import { adultAt } from '../adults/signIn';
import { audit } from '../request/audit';
import type { Deps, Env } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { giveClass } from '../adults/rights';
import { Adult, AdultLink, Audit, Child, ClassAdult, School, SchoolClass, SignIn } from '../db/entities';
import { RequestProblem } from '../problems/problem';
import { lockSchool } from '../db/locks';
import { rightsChanged } from '../db/notices';
import type { Limits } from '../adults/limits';
import { languageOf } from '../words/sayFor';

const AUDIT_PAGE = 100;

/** The classes of the school among these. */
async function classesAmong(em: EntityManager, schoolId: string, ids: readonly string[]): Promise<string[]> {
  return (await em.find(SchoolClass, { schoolId, id: { $in: [...ids] } }, { fields: ['id'] })).map(({ id }) => id);
}

/** Whoever changes who works here is still a lead: of two who act on each other at once, the later finds what the earlier did. In a transaction that has locked the school. */
async function demandStillLead(em: EntityManager, { schoolId, id }: Env['Variables']['adult']): Promise<void> {
  if ((await em.count(Adult, { schoolId, id, role: 'lead' })) === 0) throw new RequestProblem('not-allowed');
}

/** A school is never left without a lead. */
async function keepALead(em: EntityManager, schoolId: string): Promise<void> {
  if ((await em.count(Adult, { schoolId, role: 'lead' })) === 0) throw new RequestProblem('last-lead');
}

/** Who works at the school, what was done, and how long records are kept: for its lead. */
export function schoolAdultRoutes(deps: Deps, limits: Limits): ContractRoutes {
  return new ContractRoutes()
    .on('GET /school', async (c) => {
      const { em, schoolId } = c.var;
      const { keepMonths } = await em.findOneOrFail(School, { id: schoolId });
      const given = await em.find(ClassAdult, { schoolId });
      const adults = await em.find(Adult, { schoolId }, { orderBy: { name: 'asc' } });
      const invites = await em.find(
        AdultLink,
        { schoolId, purpose: 'join', expiresAt: { $gt: deps.now() } },
        { orderBy: { expiresAt: 'asc' } },
      );
      const old = await em.find(
        Child,
        { schoolId, archivedAt: { $lt: subMonths(deps.now(), keepMonths) } },
        { orderBy: { archivedAt: 'asc' } },
      );
      const view: SchoolView = {
        keepMonths,
        adults: adults.map(({ id, name, email, role }) => ({
          id,
          name,
          email,
          role,
          classes: given.filter((g) => g.adultId === id).map((g) => g.classId),
        })),
        invites: invites.map(({ id, name, email, expiresAt, letter = null }) => ({
          id,
          name,
          email,
          letter,
          expiresAt: expiresAt.toISOString(),
        })),
        due: old.map(({ id, classId, nickname, archivedAt }) => ({
          id,
          classId,
          nickname,
          since: (archivedAt ?? deps.now()).toISOString(),
        })),
      };
      return view;
    })
    .on('PUT /school/keep', async (c, { body }) => {
      await c.var.em.nativeUpdate(School, { id: c.var.schoolId }, body);
    })
    .on('PUT /school/time-zone', async (c, { body }) => {
      await c.var.em.nativeUpdate(School, { id: c.var.schoolId }, body);
    })
    .on('PUT /school/days-off', async (c, { body: { daysOff } }) => {
      const inOrder = [...daysOff].sort((a, b) => (a.from < b.from ? -1 : 1));
      await c.var.em.nativeUpdate(School, { id: c.var.schoolId }, { daysOff: inOrder });
    })
    .on('POST /school/invites', async (c, { body: wish }) => {
      const { em, schoolId, adult } = c.var;
      const email = wish.email.toLowerCase();
      if (await adultAt(c.var.em, email)) throw new RequestProblem('email-taken');
      // Nobody is to send letters to the world from here.
      await limits.count('letter-school', schoolId);
      const classes = await classesAmong(em, schoolId, wish.classes);
      const { id: linkId, token } = await em.transactional(async (tx) => {
        await lockSchool(tx, schoolId);
        await demandStillLead(tx, adult);
        await audit(tx, adult, deps.now(), 'adult invited', wish.name);
        return inviteAdult(tx, deps.now(), {
          schoolId,
          name: wish.name,
          email,
          role: wish.role,
          classes,
          letter: 'waiting',
          madeBy: adult.id,
        });
      });
      deps.jobs.ask('letter', { schoolId, linkId, language: languageOf(c), by: adult.id, home: c.var.homeUrl });
      return { link: `${c.var.homeUrl}/join/${token}`, posted: !deps.mail.simulated };
    })
    .on('DELETE /school/invites/:id', async (c, { id }) => {
      const gone = await c.var.em.nativeDelete(AdultLink, {
        schoolId: c.var.schoolId,
        id: id,
        purpose: 'join',
      });
      if (gone === 0) throw new RequestProblem('not-found');
    })
    .on('PUT /school/adults/:id', async (c, { id, body: change }) => {
      const { em, schoolId, adult } = c.var;
      await em.transactional(async (tx) => {
        await lockSchool(tx, schoolId);
        const other = await tx.findOne(Adult, { schoolId, id });
        if (!other) throw new RequestProblem('not-found');
        await demandStillLead(tx, adult);
        if ('role' in change) {
          await tx.nativeUpdate(Adult, { schoolId, id }, { role: change.role });
          await keepALead(tx, schoolId);
          // Whoever may no longer invite has no invitations open.
          if (change.role !== 'lead') await tx.nativeDelete(AdultLink, { schoolId, madeBy: id, purpose: 'join' });
          await rightsChanged(tx);
        } else {
          await tx.nativeDelete(ClassAdult, { schoolId, adultId: id });
          for (const classId of await classesAmong(tx, schoolId, change.classes))
            await giveClass(tx, { schoolId, classId }, id);
          await rightsChanged(tx);
        }
        await audit(tx, adult, deps.now(), 'adult changed', other.name);
      });
    })
    .on('DELETE /school/adults/:id', async (c, { id }) => {
      const { em, schoolId, adult } = c.var;
      await em.transactional(async (tx) => {
        await lockSchool(tx, schoolId);
        const other = await tx.findOne(Adult, { schoolId, id });
        if (!other) throw new RequestProblem('not-found');
        await demandStillLead(tx, adult);
        await tx.nativeDelete(SignIn, { schoolId, adultId: id });
        await rightsChanged(tx);
        await tx.nativeDelete(Adult, { schoolId, id });
        await keepALead(tx, schoolId);
        await audit(tx, adult, deps.now(), 'adult removed', other.name);
      });
      deps.jobs.ask('trim', {});
    })
    .on('GET /school/audit', async (c, { query }) => {
      const { em, schoolId } = c.var;
      const rows = await em.find(
        Audit,
        { schoolId },
        { orderBy: { at: 'desc', id: 'desc' }, limit: AUDIT_PAGE, offset: query.offset },
      );
      return rows.map(({ id, at, adultName, what, detail }): AuditView => ({
        id,
        at: at.toISOString(),
        by: adultName,
        what,
        detail,
      }));
    })
    .on('GET /school/mail', (c) => deps.mail.sent(c.var.schoolId));
}
