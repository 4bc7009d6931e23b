import { toRow, type RecordRow, type SittingRow } from '@vane/contract';
import { codeOfAdult, seeded, simulateClass, type FactKind, type Response, type RoutineId } from '@vane/core';
import type { EntityManager } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { passwordHash } from '../adults/passwords';
import { addChildren } from '../classes/children';
import { giveClass } from '../adults/rights';
import { Adult, Child, School, SchoolClass } from '../db/entities';
import { addToRecord } from '../record/store';
import { DEMO_ADULT, DEMO_ADULT_ID, DEMO_CLASSES, DEMO_SCHOOL, DEMO_SIGN_IN, type DemoClass } from './names';
import { anySchool, DEMO_SCHOOL_ID } from '../db/demoSchool';

/** Version 7 ids for the demo's past, from their time and a seeded source, so that they sort as if they had been recorded then. */
function demoIds(seed: number): (atMs: number) => string {
  const random = seeded(seed);
  return (msecs) => v7({ msecs, random: Uint8Array.from({ length: 16 }, () => Math.floor(256 * random())) });
}

/** Takes the demo away, with everything that belongs to it and to nothing else. */
export async function removeDemo(em: EntityManager): Promise<void> {
  await em.nativeDelete(School, { id: DEMO_SCHOOL_ID });
}

/** Loads the harbour demo into a database without any school, and never beside one: two classes of invented children, with sittings up to now; `mostWeeks` for less of them. Tells whether it was loaded. */
export async function loadDemo(em: EntityManager, now: Date, mostWeeks = Infinity): Promise<boolean> {
  if (await anySchool(em)) return false;
  const password = await passwordHash(DEMO_SIGN_IN.password);
  await em.transactional(async (tx) => {
    const key = { schoolId: DEMO_SCHOOL_ID };
    await tx.insert(School, { id: DEMO_SCHOOL_ID, name: DEMO_SCHOOL, createdAt: now });
    const { email } = DEMO_SIGN_IN;
    await tx.insert(Adult, {
      ...key,
      id: DEMO_ADULT_ID,
      email,
      name: DEMO_ADULT,
      role: 'lead',
      passwordHash: password,
      createdAt: now,
    });
    for (const one of DEMO_CLASSES) await loadClass(tx, { ...one, weeks: Math.min(one.weeks, mostWeeks) }, now);
  });
  return true;
}

/** The routine that asks most of what was asked in a sitting. */
function routineOfMost(responses: readonly Response[]): RoutineId {
  const count = (kind: FactKind): number => responses.filter((r) => r.kind === kind).length;
  const kinds = Object.keys(ROUTINE_FOR) as (keyof typeof ROUTINE_FOR)[];
  return ROUTINE_FOR[kinds.reduce((most, kind) => (count(kind) > count(most) ? kind : most))];
}
const ROUTINE_FOR = {
  show: 'flash-and-say',
  add: 'sums',
  subtract: 'take-away',
  missing: 'missing-part',
  bond: 'part-whole',
} as const satisfies Partial<Record<FactKind, RoutineId>>;

async function loadClass(tx: EntityManager, one: DemoClass, now: Date): Promise<void> {
  const key = { schoolId: DEMO_SCHOOL_ID, classId: one.id };
  const simulated = simulateClass({
    seed: one.seed,
    names: one.children,
    weeks: one.weeks,
    until: now.getTime(),
    makeId: demoIds(one.seed),
  });
  await tx.insert(SchoolClass, { schoolId: DEMO_SCHOOL_ID, id: one.id, name: one.name, createdAt: now });
  await giveClass(tx, key, DEMO_ADULT_ID);
  await addChildren(tx, key, one.children, now);
  const ids = new Map((await tx.find(Child, key)).map((child) => [child.nickname, child.id]));
  const bySitting = new Map<string, Response[]>();
  for (const s of simulated.sittings) bySitting.set(s.id, []);
  for (const r of simulated.responses) bySitting.get(r.sitting)?.push(r);
  const sittings = simulated.sittings.map((s): SittingRow => ({
    id: s.id,
    routine: routineOfMost(bySitting.get(s.id) ?? []),
    started_at: new Date(s.startedAt).toISOString(),
    answer_mode: s.answerMode,
    settings: null,
  }));
  const rows = simulated.responses.map((r): RecordRow => ({
    ...toRow(r),
    child: ids.get(r.child) ?? r.child,
    marked_by: codeOfAdult(DEMO_ADULT_ID),
  }));
  await addToRecord(tx, { key, sittings, responses: rows }, now);
}
