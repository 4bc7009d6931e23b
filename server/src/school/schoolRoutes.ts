import type { SchoolClassView, WorkView } from '@vane/contract';
import type { MiddlewareHandler } from 'hono';
import { v7 } from 'uuid';
import { audit } from '../request/audit';
import { moveChildren, taken } from '../classes/children';
import type { Deps, Env } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { giveClass } from '../adults/rights';
import { Adult, Child, ClassAdult, FailedWork, SchoolClass } from '../db/entities';
import { RequestProblem } from '../problems/problem';

/** Lets only leads through. */
export const leadOnly: MiddlewareHandler<Env> = async (c, next) => {
  if (c.var.adult.role !== 'lead') throw new RequestProblem('not-allowed');
  return next();
};

/** The school's classes, for its lead. */
export function schoolRoutes(deps: Deps): ContractRoutes {
  return new ContractRoutes()
    .on('GET /school/classes', async (c) => {
      const { schoolId, em } = c.var;
      const classes = await em.find(SchoolClass, { schoolId }, { orderBy: { name: 'asc' } });
      const children = await em.find(Child, { schoolId, archivedAt: null }, { fields: ['classId'] });
      const given = await em.find(ClassAdult, { schoolId });
      const names = new Map(
        (await em.find(Adult, { schoolId }, { fields: ['id', 'name'] })).map((a) => [a.id, a.name]),
      );
      return classes.map(({ id, name, archivedAt }): SchoolClassView => ({
        id,
        name,
        archived: archivedAt !== null,
        children: children.filter((child) => child.classId === id).length,
        adults: given
          .filter((g) => g.classId === id)
          .map(({ adultId }) => ({ id: adultId, name: names.get(adultId) ?? '' })),
      }));
    })
    .on('GET /school/work', async (c) => {
      const { schoolId, em } = c.var;
      const names = new Map(
        (await em.find(SchoolClass, { schoolId }, { fields: ['id', 'name'] })).map((one) => [one.id, one.name]),
      );
      const failed = await em.find(FailedWork, { schoolId }, { orderBy: { failedAt: 'asc' } });
      const all = [
        ...failed.map(({ classId, what, failedAt }) => ({ classId, what, state: 'failed' as const, since: failedAt })),
        ...(await deps.jobs.ofSchool(schoolId)),
      ];
      return all.map(({ classId, what, state, since }): WorkView => ({
        className: names.get(classId) ?? '',
        what,
        state,
        since: since.toISOString(),
      }));
    })
    .on('POST /school/classes', async (c, { body: { name } }) => {
      const { schoolId, em, adult } = c.var;
      const classId = v7();
      await em.transactional(async (tx) => {
        await taken(() =>
          tx.insert(SchoolClass, { schoolId, id: classId, name, createdAt: deps.now(), archivedAt: null }),
        );
        await giveClass(tx, { schoolId, classId }, adult.id);
        await audit(tx, adult, deps.now(), 'class added', name);
      });
      return { id: classId };
    })
    .on('PUT /school/classes/:id', async (c, { id, body: change }) => {
      const { schoolId, em, adult } = c.var;
      await em.transactional(async (tx) => {
        const to = 'name' in change ? { name: change.name } : { archivedAt: change.archived ? deps.now() : null };
        if ((await taken(() => tx.nativeUpdate(SchoolClass, { schoolId, id }, to))) === 0)
          throw new RequestProblem('not-found');
        if ('archived' in change && change.archived) await audit(tx, adult, deps.now(), 'class archived');
      });
    })
    .on('DELETE /school/classes/:id', async (c, { id }) => {
      const { schoolId, em, adult } = c.var;
      await em.transactional(async (tx) => {
        // Its children go first: what the school keeps of them elsewhere goes with them.
        if ((await tx.count(Child, { schoolId, classId: id })) > 0) throw new RequestProblem('class-not-empty');
        if ((await tx.nativeDelete(SchoolClass, { schoolId, id })) === 0) throw new RequestProblem('not-found');
        await audit(tx, adult, deps.now(), 'class deleted');
      });
    })
    .on('POST /school/classes/:id/roll-over', async (c, { id, body: { name, children } }) => {
      const { schoolId, em, adult } = c.var;
      const from = { schoolId, classId: id };
      const now = deps.now();
      const classId = v7();
      await em.transactional(async (tx) => {
        const old = await tx.findOne(SchoolClass, { schoolId, id: from.classId });
        if (!old) throw new RequestProblem('not-found');
        await taken(() => tx.insert(SchoolClass, { schoolId, id: classId, name, createdAt: now, archivedAt: null }));
        await giveClass(tx, { schoolId, classId }, adult.id);
        if (children.length > 0) await moveChildren(tx, from, [...new Set(children)], classId);
        await tx.nativeUpdate(Child, { ...from, archivedAt: null }, { archivedAt: now });
        await tx.nativeUpdate(SchoolClass, { schoolId, id: from.classId }, { archivedAt: now });
        await audit(tx, adult, now, 'year rolled over', `${old.name} to ${name}, ${children.length} children`);
      });
      return { id: classId };
    });
}
