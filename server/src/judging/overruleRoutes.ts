import { overruleRequest, type OverruleView } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import { Hono } from 'hono';
import { v7 } from 'uuid';
import type { ClassKey } from '../db/keys';
import { audit } from '../request/audit';
import { uuidOr404 } from '../request/ids';
import { jsonBody, type Deps, type Env } from '../request/context';
import { Child, Overrule } from '../db/entities';
import { RequestProblem } from '../problems/problem';

/** The teachers' words on a child's facts that stand, or stood at a moment, newest first. */
export async function overrulesOf(
  em: EntityManager,
  key: ClassKey,
  childId: string,
  at: Date | null = null,
): Promise<OverruleView[]> {
  const standing =
    at === null
      ? { removedAt: null }
      : { madeAt: { $lt: at }, $or: [{ removedAt: null }, { removedAt: { $gte: at } }] };
  const found = await em.find(Overrule, { ...key, childId, ...standing }, { orderBy: { madeAt: 'desc' } });
  return found.map(({ id, fact, reading, reason, adultName, madeAt }) => ({
    id,
    fact,
    reading,
    reason,
    by: adultName,
    madeAt: madeAt.toISOString(),
  }));
}

/** A teacher's override of a reading. A new one takes the place of the last; all stay in the table, dated. Vane's reading is kept and shown beside it. */
export function overruleRoutes(deps: Deps): Hono<Env> {
  return new Hono<Env>()
    .post('/children/:childId/overrules', jsonBody(overruleRequest), async (c) => {
      const key = { schoolId: c.var.schoolId, classId: c.var.classId };
      const childId = uuidOr404(c.req.param('childId'));
      const wish = c.req.valid('json');
      const now = deps.now();
      if ((await c.var.em.count(Child, { ...key, id: childId })) === 0) throw new RequestProblem('not-found');
      await c.var.em.transactional(async (em) => {
        await em.nativeUpdate(Overrule, { ...key, childId, fact: wish.fact, removedAt: null }, { removedAt: now });
        await em.insert(Overrule, {
          ...key,
          id: v7(),
          childId,
          ...wish,
          adultId: c.var.adult.id,
          adultName: c.var.adult.name,
          madeAt: now,
          removedAt: null,
        });
        await audit(em, c.var.adult, now, 'overruled', `${wish.fact} as ${wish.reading}`, childId);
      });
      return c.json(await overrulesOf(c.var.em, key, childId), 201);
    })
    .delete('/children/:childId/overrules/:id', async (c) => {
      const key = { schoolId: c.var.schoolId, classId: c.var.classId };
      const childId = uuidOr404(c.req.param('childId'));
      const id = uuidOr404(c.req.param('id'));
      const removed = await c.var.em.nativeUpdate(
        Overrule,
        { ...key, childId, id, removedAt: null },
        { removedAt: deps.now() },
      );
      if (removed === 0) throw new RequestProblem('not-found');
      return c.json(await overrulesOf(c.var.em, key, childId));
    });
}
