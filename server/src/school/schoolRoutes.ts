import { classChange, classRequest, rollOverRequest, type SchoolClassView } from '@vane/contract';
import { Hono, type MiddlewareHandler } from 'hono';
import { v7 } from 'uuid';
import { audit } from '../request/audit';
import { moveChildren, taken } from '../classes/children';
import { uuidOr404 } from '../request/ids';
import { jsonBody, type Deps, type Env } from '../request/context';
import { Adult, Child, ClassAdult, SchoolClass } from '../db/entities';
import { RequestProblem } from '../problems/problem';

/** Lets only leads through. */
export const leadOnly: MiddlewareHandler<Env> = async (c, next) => {
  if (c.var.adult.role !== 'lead') throw new RequestProblem('not-allowed');
  return next();
};

/** The school's classes, for its lead. */
export function schoolRoutes(deps: Deps): Hono<Env> {
  return new Hono<Env>()
    .get('/classes', async (c) => {
      const { schoolId, em } = c.var;
      const classes = await em.find(SchoolClass, { schoolId }, { orderBy: { name: 'asc' } });
      const children = await em.find(Child, { schoolId, archivedAt: null }, { fields: ['classId'] });
      const given = await em.find(ClassAdult, { schoolId });
      const names = new Map(
        (await em.find(Adult, { schoolId }, { fields: ['id', 'name'] })).map((a) => [a.id, a.name]),
      );
      const views = classes.map((one): SchoolClassView => ({
        id: one.id,
        name: one.name,
        archived: one.archivedAt !== null,
        children: children.filter((child) => child.classId === one.id).length,
        adults: given
          .filter((g) => g.classId === one.id)
          .map((g) => ({ id: g.adultId, name: names.get(g.adultId) ?? '' })),
      }));
      return c.json(views);
    })
    .post('/classes', jsonBody(classRequest), async (c) => {
      const { schoolId, em, adult } = c.var;
      const { name } = c.req.valid('json');
      const classId = v7();
      await em.transactional(async (tx) => {
        await taken(() =>
          tx.insert(SchoolClass, { schoolId, id: classId, name, createdAt: deps.now(), archivedAt: null }),
        );
        await tx.insert(ClassAdult, { schoolId, classId, adultId: adult.id });
        await audit(tx, adult, deps.now(), 'class added', name);
      });
      return c.json({ id: classId }, 201);
    })
    .put('/classes/:id', jsonBody(classChange), async (c) => {
      const { schoolId, em, adult } = c.var;
      const id = uuidOr404(c.req.param('id'));
      const change = c.req.valid('json');
      await em.transactional(async (tx) => {
        const to = 'name' in change ? { name: change.name } : { archivedAt: change.archived ? deps.now() : null };
        if ((await taken(() => tx.nativeUpdate(SchoolClass, { schoolId, id }, to))) === 0)
          throw new RequestProblem('not-found');
        if ('archived' in change && change.archived) await audit(tx, adult, deps.now(), 'class archived');
      });
      return c.body(null, 204);
    })
    .delete('/classes/:id', async (c) => {
      const { schoolId, em, adult } = c.var;
      const id = uuidOr404(c.req.param('id'));
      await em.transactional(async (tx) => {
        // Its children go first: what the school keeps of them elsewhere goes with them.
        if ((await tx.count(Child, { schoolId, classId: id })) > 0) throw new RequestProblem('class-not-empty');
        if ((await tx.nativeDelete(SchoolClass, { schoolId, id })) === 0) throw new RequestProblem('not-found');
        await audit(tx, adult, deps.now(), 'class deleted');
      });
      return c.body(null, 204);
    })
    .post('/classes/:id/roll-over', jsonBody(rollOverRequest), async (c) => {
      const { schoolId, em, adult } = c.var;
      const from = { schoolId, classId: uuidOr404(c.req.param('id')) };
      const { name, children } = c.req.valid('json');
      const now = deps.now();
      const classId = v7();
      await em.transactional(async (tx) => {
        const old = await tx.findOne(SchoolClass, { schoolId, id: from.classId });
        if (!old) throw new RequestProblem('not-found');
        await taken(() => tx.insert(SchoolClass, { schoolId, id: classId, name, createdAt: now, archivedAt: null }));
        await tx.insert(ClassAdult, { schoolId, classId, adultId: adult.id });
        if (children.length > 0) await moveChildren(tx, from, [...new Set(children)], classId);
        await tx.nativeUpdate(Child, { ...from, archivedAt: null }, { archivedAt: now });
        await tx.nativeUpdate(SchoolClass, { schoolId, id: from.classId }, { archivedAt: now });
        await audit(tx, adult, now, 'year rolled over', `${old.name} to ${name}, ${children.length} children`);
      });
      return c.json({ id: classId }, 201);
    });
}
