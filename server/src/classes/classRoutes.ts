import { carpetSettings, DEFAULT_CARPET, type CarpetSettings, type ChildView, type ClassView } from '@vane/contract';
import { DAY_MS, grouped, MEASURES_LAST_DAYS, STUCK_DAYS, type AnswerMode, type MeasuresLately } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { Deps } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { Child, Judgement, SchoolClass, Setting } from '../db/entities';
import { classOrChild, type Which } from '../db/keys';
import type { ClassKey } from '../db/keys';
import { arrange, arrangementsOf } from './arrangements';
import { supportReadBy } from './support';

/** The children of a class by nickname, or one of them, with the time each was last asked, and what was measured and judged of it last. */
export async function childrenOf(em: EntityManager, key: ClassKey, now: Date, childId?: string): Promise<ChildView[]> {
  const one = childId === undefined ? {} : { childId };
  const whose = childId === undefined ? '' : 'and id = ?';
  const values = [key.schoolId, key.classId, ...(childId === undefined ? [] : [childId])];
  const children = await em.find(
    Child,
    { ...key, ...(childId === undefined ? { archivedAt: null } : { id: childId }) },
    { orderBy: { nickname: 'asc' } },
  );
  // The newest answer of each stands at the end of an index: a year's record need not be read for it.
  const last: { id: string; last: Date | null }[] = await em.execute(
    `select id, (select max(r.shown_at) from response r where r.school_id = c.school_id and r.child_id = c.id and r.void = '') as last
     from child c where school_id = ? and class_id = ? ${whose}`,
    values,
  );
  const lastById = new Map(last.map((row) => [row.id, row.last === null ? null : new Date(row.last).toISOString()]));
  const measures = await measuresOf(em, { ...key, ...one }, now);
  const judgements = await em.find(
    Judgement,
    { ...key, ...one },
    { fields: ['childId', 'estimate', 'workingNumber'], disableIdentityMap: true },
  );
  const judged = new Map(judgements.map((j) => [j.childId, j]));
  const used = await routinesWith(em, { ...key, ...one }, now);
  return children.map(({ id, nickname, supports }) => ({
    id,
    nickname,
    support: supports,
    lastAskedAt: lastById.get(id) ?? null,
    measures: measures.get(id) ?? { copies: {}, counts: 0 },
    times: judged.get(id)?.estimate.times ?? null,
    workingNumber: judged.get(id)?.workingNumber ?? null,
    halfLifeDays: judged.get(id)?.estimate.halfLifeDays ?? null,
    routinesUsed: (used.get(id) ?? []).map(({ routine }) => routine),
  }));
}

/** By child: sound copies by answer mode, and counts, of the last weeks. */
async function measuresOf(em: EntityManager, which: Which, now: Date): Promise<Map<string, MeasuresLately>> {
  const since = new Date(now.getTime() - MEASURES_LAST_DAYS * DAY_MS);
  const { where, values } = classOrChild(which, 'r');
  const rows: { child_id: string; kind: string; answer_mode: AnswerMode; n: string }[] = await em.execute(
    `select child_id, kind, answer_mode, count(*) as n from response r
     where ${where} and kind in ('match', 'count') and void = '' and aid = 'none' and response_ms is not null and shown_at >= ?
     group by child_id, kind, answer_mode`,
    [...values, since],
  );
  const measures = new Map<string, { copies: Partial<Record<AnswerMode, number>>; counts: number }>();
  for (const { child_id, kind, answer_mode, n } of rows) {
    const own = measures.get(child_id) ?? { copies: {}, counts: 0 };
    if (kind === 'match') own.copies[answer_mode] = Number(n);
    else own.counts += Number(n);
    measures.set(child_id, own);
  }
  return measures;
}

/** By child: the routines used lately, void sessions left out. */
async function routinesWith(em: EntityManager, which: Which, now: Date) {
  const { where, values } = classOrChild(which, 'r');
  const rows: { child_id: string; routine: string }[] = await em.execute(
    `select distinct r.child_id, s.routine from response r join sitting s on s.school_id = r.school_id and s.id = r.sitting_id
     where ${where} and r.void = '' and r.shown_at >= ?`,
    [...values, new Date(now.getTime() - STUCK_DAYS * DAY_MS)],
  );
  return grouped(rows, ({ child_id }) => child_id);
}

/** How a class has chosen to run its carpet, words and all; the usual way where nothing, or nothing that can be read, is stored. */
export async function carpetOf(em: EntityManager, key: ClassKey): Promise<CarpetSettings> {
  const stored = carpetSettings.safeParse((await em.findOne(Setting, { ...key, name: 'carpet' }))?.value);
  return stored.success ? stored.data : DEFAULT_CARPET;
}

const LATELY_MS = 35 * DAY_MS;
/** Routines used lately, the last one first. */
async function routinesUsed(em: EntityManager, { schoolId, classId }: ClassKey, now: Date): Promise<string[]> {
  const found: { routine: string }[] = await em.execute(
    'select routine from sitting where school_id = ? and class_id = ? and started_at > ? group by routine order by max(started_at) desc',
    [schoolId, classId, new Date(now.getTime() - LATELY_MS)],
  );
  return found.map(({ routine }) => routine);
}

/** The class itself and its settings. */
export function classRoutes(deps: Deps): ContractRoutes {
  return new ContractRoutes()
    .on('GET /classes/:classId', async (c) => {
      const key = c.var.classKey;
      const found = await c.var.em.findOneOrFail(SchoolClass, { schoolId: key.schoolId, id: key.classId });
      await supportReadBy(c.var.em, key, c.var.adult, deps.now());
      const view: ClassView = {
        id: found.id,
        name: found.name,
        children: await childrenOf(c.var.em, key, deps.now()),
        away: (await c.var.em.find(Child, { ...key, archivedAt: { $ne: null } }, { orderBy: { nickname: 'asc' } })).map(
          ({ id, nickname }) => ({
            id,
            nickname,
          }),
        ),
        carpet: await carpetOf(c.var.em, key),
        routinesUsed: await routinesUsed(c.var.em, key, deps.now()),
        arranged: await arrangementsOf(c.var.em, key),
      };
      return view;
    })
    .on('PUT /classes/:classId/day-plan', (c, { body }) => arrange(c.var.em, c.var.classKey, 'day', body, deps.now()))
    .on('PUT /classes/:classId/week-settings', (c, { body }) =>
      arrange(c.var.em, c.var.classKey, 'week', body, deps.now()),
    )
    .on('PUT /classes/:classId/carpet', async (c, { body }) => {
      const row = { ...c.var.classKey, name: 'carpet', value: body };
      await c.var.em.upsert(Setting, row);
    });
}
