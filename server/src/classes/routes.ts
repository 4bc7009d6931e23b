import { carpetSettings, DEFAULT_CARPET, type ChildView, type ClassView } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import { Hono, type MiddlewareHandler } from 'hono';
import { jsonBody, type Env } from '../context';
import { Child, ClassAdult, SchoolClass, Setting } from '../db/entities';
import { RequestProblem } from '../problem';
import type { ClassKey } from './children';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** Answers "not found" for ids that are none, rather than letting the database stumble over them. */
export function uuidOr404(text: string | undefined): string {
  if (text === undefined || !UUID.test(text)) throw new RequestProblem('not-found');
  return text.toLowerCase();
}

/** Lets an adult through to the classes given to them, and to no other: another's class is as if it were not there. */
export const ownClass: MiddlewareHandler<Env> = async (c, next) => {
  const classId = uuidOr404(c.req.param('classId'));
  const given = await c.var.em.count(ClassAdult, { schoolId: c.var.schoolId, classId, adultId: c.var.adult.id });
  if (given === 0) throw new RequestProblem('not-found');
  c.set('classId', classId);
  return next();
};

/** The children of a class by nickname, with the time each was last asked. */
export async function childrenOf(em: EntityManager, key: ClassKey): Promise<ChildView[]> {
  const children = await em.find(Child, { ...key }, { orderBy: { nickname: 'asc' } });
  const last: { child_id: string; last: Date }[] = await em.execute(
    'select child_id, max(shown_at) as last from response where school_id = ? and class_id = ? group by child_id',
    [key.schoolId, key.classId],
  );
  const lastById = new Map(last.map((row) => [row.child_id, new Date(row.last).toISOString()]));
  return children.map(({ id, nickname }) => ({ id, nickname, lastAskedAt: lastById.get(id) ?? null }));
}

/** The class itself and its settings. */
export function classRoutes(): Hono<Env> {
  return new Hono<Env>()
    .get('/', async (c) => {
      const key = { schoolId: c.var.schoolId, classId: c.var.classId };
      const found = await c.var.em.findOneOrFail(SchoolClass, { schoolId: key.schoolId, id: key.classId });
      const carpet = await c.var.em.findOne(Setting, { ...key, name: 'carpet' });
      const stored = carpetSettings.safeParse(carpet?.value);
      const view: ClassView = {
        id: found.id,
        name: found.name,
        children: await childrenOf(c.var.em, key),
        carpet: stored.success ? stored.data : DEFAULT_CARPET,
      };
      return c.json(view);
    })
    .put('/carpet', jsonBody(carpetSettings), async (c) => {
      const row = { schoolId: c.var.schoolId, classId: c.var.classId, name: 'carpet', value: c.req.valid('json') };
      await c.var.em.upsert(Setting, row);
      return c.body(null, 204);
    });
}
