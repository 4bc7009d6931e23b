import type { OverruleView } from '@vane/contract';
import { LockMode } from '@mikro-orm/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import type { ClassKey } from '../db/keys';
import { audit } from '../request/audit';
import type { Deps } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
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

/** The teachers' words on a class's facts that stand, by child and fact. */
export async function standingOverrules(em: EntityManager, key: ClassKey) {
  const found = await em.find(Overrule, { ...key, removedAt: null });
  return new Map(found.map((one) => [`${one.childId} ${one.fact}`, one]));
}

/** A teacher's override of a reading. A new one takes the place of the last; all stay in the table, dated. Vane's reading is kept and shown beside it. */
export function overruleRoutes(deps: Deps): ContractRoutes {
  return new ContractRoutes()
    .on('POST /classes/:classId/children/:childId/overrules', async (c, { childId, body: wish }) => {
      const key = c.var.classKey;
      const now = deps.now();
      await c.var.em.transactional(async (em) => {
        // Of two at once the later one takes the place of the earlier.
        const child = await em.findOne(Child, { ...key, id: childId }, { lockMode: LockMode.PESSIMISTIC_WRITE });
        if (!child) throw new RequestProblem('not-found');
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
      return await overrulesOf(c.var.em, key, childId);
    })
    .on('DELETE /classes/:classId/children/:childId/overrules/:id', async (c, { childId, id }) => {
      const key = c.var.classKey;
      const removed = await c.var.em.nativeUpdate(
        Overrule,
        { ...key, childId, id, removedAt: null },
        { removedAt: deps.now() },
      );
      if (removed === 0) throw new RequestProblem('not-found');
      return await overrulesOf(c.var.em, key, childId);
    });
}
