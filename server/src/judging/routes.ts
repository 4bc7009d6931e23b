import { toRow, type ChildRecord, type ClassReadings, type Moved } from '@vane/contract';
import { MODEL_VERSION, unknownEstimate, type Reading } from '@vane/core';
import { Hono } from 'hono';
import { childrenOf, uuidOr404 } from '../classes/routes';
import type { Deps, Env } from '../context';
import { RequestProblem } from '../problem';
import { overrulesOf } from './overrules';
import type { Readings } from './readings';

/** Readings whose word changed with the last sitting, or whose probability moved by a fifth or more. */
function movedReadings(before: readonly Reading[], after: readonly Reading[]): Moved[] {
  const earlier = new Map(before.map((r) => [r.fact, r]));
  return after.flatMap((reading): Moved[] => {
    const was = earlier.get(reading.fact) ?? null;
    if (was?.responses === reading.responses) return [];
    if (reading.reading === 'too few answers' && (was === null || was.reading === reading.reading)) return [];
    const moved = was?.reading !== reading.reading || Math.abs(was.pAutomatic - reading.pAutomatic) >= 0.2;
    return moved ? [{ fact: reading.fact, before: was, after: reading }] : [];
  });
}

/** The judgement on a class and on one child of it. */
export function readingRoutes(deps: Deps, readings: Readings): Hono<Env> {
  return new Hono<Env>()
    .get('/readings', async (c) => {
      const key = { schoolId: c.var.schoolId, classId: c.var.classId };
      const judgement = await readings.current(key);
      const asked: { child_id: string; fact: string; last: Date }[] = await c.var.em.execute(
        `select child_id, fact, max(shown_at) as last from response where school_id = ? and class_id = ? and void = '' group by child_id, fact`,
        [key.schoolId, key.classId],
      );
      const answer: ClassReadings = {
        judgedAt: judgement.judgedAt?.toISOString() ?? null,
        modelVersion: MODEL_VERSION,
        readings: judgement.readings,
        asked: asked.map(({ child_id, fact, last }) => ({ child: child_id, fact, at: new Date(last).getTime() })),
      };
      return c.json(answer);
    })
    .get('/children/:childId', async (c) => {
      const key = { schoolId: c.var.schoolId, classId: c.var.classId };
      const childId = uuidOr404(c.req.param('childId'));
      const child = (await childrenOf(c.var.em, key, deps.now())).find((one) => one.id === childId);
      if (!child) throw new RequestProblem('not-found');
      const { readings: own, estimates } = await readings.current(key, childId);
      const { responses, before } = await readings.beforeLastSitting(key, childId);
      const record: ChildRecord = {
        child,
        estimate: estimates[0] ?? unknownEstimate(childId),
        readings: own,
        moved: movedReadings(before, own),
        overrules: await overrulesOf(c.var.em, key, childId),
        responses: responses.map((r) => toRow(r)),
      };
      return c.json(record);
    });
}
