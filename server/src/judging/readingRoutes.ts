import type { ChildRecord, ClassReadings } from '@vane/contract';
import { codeOfAdult, measuringOf, MODEL_VERSION, unknownEstimate } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { notesOf } from '../classes/childRoutes';
import { childrenOf } from '../classes/classRoutes';
import { supportReadBy, supportView } from '../classes/support';
import type { Deps, Env } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import type { ClassKey } from '../db/keys';
import { Child, ClassFit, Sitting } from '../db/entities';
import { dateStarts, timeZoneOf } from '../db/timeZone';
import { RequestProblem } from '../problems/problem';
import { overrulesOf } from './overruleRoutes';
import type { Readings } from './readings';
import { Weeks } from './weeks';

/** The end of the school's day to which a record is stepped back; null = now. */
async function endOf({ em, schoolId }: Env['Variables'], until: string | undefined): Promise<Date | null> {
  return until === undefined ? null : dateStarts(until, await timeZoneOf(em, schoolId), 1);
}

/** When each child was last asked each fact. */
export async function lastAsked(em: EntityManager, key: ClassKey): Promise<ClassReadings['asked']> {
  const asked: { child_id: string; fact: string; last: Date }[] = await em.execute(
    `select child_id, fact, max(shown_at) as last from response where school_id = ? and class_id = ? and void = '' group by child_id, fact`,
    [key.schoolId, key.classId],
  );
  return asked.map(({ child_id, fact, last }) => ({ child: child_id, fact, at: new Date(last).getTime() }));
}

/** The judgement on a class and on one child of it. */
export function readingRoutes(deps: Deps, readings: Readings): ContractRoutes {
  const weeks = new Weeks(deps);
  return new ContractRoutes()
    .on('GET /classes/:classId/readings', async (c) => {
      const key = c.var.classKey;
      const judgement = await readings.kept(key);
      // Children who are put away take part in nothing.
      const here = new Set(
        (await c.var.em.find(Child, { ...key, archivedAt: null }, { fields: ['id'] })).map((child) => child.id),
      );
      const answer: ClassReadings = {
        judgedAt: judgement.judgedAt?.toISOString() ?? null,
        modelVersion: MODEL_VERSION,
        judging: judgement.judging,
        readings: judgement.readings.filter((r) => here.has(r.child)),
        asked: await lastAsked(c.var.em, key),
      };
      return answer;
    })
    .on('GET /classes/:classId/children/:childId', async (c, { childId, query }) => {
      const key = c.var.classKey;
      const end = await endOf(c.var, query.until);
      const [child] = await childrenOf(c.var.em, key, deps.now(), childId);
      if (!child) throw new RequestProblem('not-found');
      await supportReadBy(c.var.em, key, c.var.adult, deps.now());
      const kept = await c.var.em.findOneOrFail(Child, { ...key, id: childId });
      const { rows, judgement, basis } = await readings.childAt(key, childId, end);
      const own = judgement?.readings ?? [];
      const sittings = await c.var.em.find(
        Sitting,
        { schoolId: key.schoolId, id: { $in: [...new Set(rows.map((r) => r.sitting))] } },
        { fields: ['id', 'routine'], disableIdentityMap: true },
      );
      const record: ChildRecord = {
        child,
        estimate: judgement?.estimate ?? unknownEstimate(childId),
        readings: own,
        moved: null,
        overrules: await overrulesOf(c.var.em, key, childId, end),
        notes: await notesOf(c.var.em, key, c.var.adult.id, childId),
        support: supportView(kept),
        door: kept.door,
        sittings: sittings.map(({ id, routine }) => ({ id, routine })),
        // How each was measured, and columns of other programs, are for the whole record.
        responses: rows.map((row) => ({ ...row, quality: null, extra: {} })),
        basis: { ...basis, modelVersion: MODEL_VERSION },
      };
      return record;
    })
    .on('GET /classes/:classId/children/:childId/moved', async (c, { childId, query }) => {
      const key = c.var.classKey;
      if ((await c.var.em.count(Child, { ...key, id: childId })) === 0) throw new RequestProblem('not-found');
      return readings.moved(key, childId, await endOf(c.var, query.until));
    })
    .on('GET /classes/:classId/measuring/:device', async (c, { device }) => {
      const fit = await c.var.em.findOne(ClassFit, { ...c.var.classKey }, { disableIdentityMap: true });
      if (fit?.modelVersion !== MODEL_VERSION) return [];
      return measuringOf(fit.values, codeOfAdult(c.var.adult.id), device);
    })
    .on('GET /classes/:classId/over-time', (c) => weeks.of(c.var.classKey))
    .on('GET /classes/:classId/children/:childId/over-time', (c, { childId }) =>
      weeks.of({ ...c.var.classKey, childId }),
    );
}
