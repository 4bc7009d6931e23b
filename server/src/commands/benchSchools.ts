import { toRow, type SittingRow } from '@vane/contract';
import type { MikroORM } from '@mikro-orm/postgresql';
import { v7 } from 'uuid';
import { giveClass } from '../adults/rights';
import { hashOf, newToken } from '../adults/tokens';
import { addChildren } from '../classes/children';
import { Adult, Child, School, SchoolClass, SignIn } from '../db/entities';
import { openDatabase } from '../db/orm';
import { Judging } from '../judging/judging';
import { addToRecord } from '../record/store';
import { judgeHere } from '../threads/judgeThreads';
import { classOf } from './benchClass';

/** Part `capacity` of the bench: many schools with a past, and a sign-in to each. */
interface BenchSchool {
  readonly cookie: string;
  readonly path: string;
  readonly children: readonly string[];
}
/** Classes that differ; each school has one of them, under ids of its own. */
const KINDS = 8;
const CHILDREN = 24;
const HOUR_MS = 3_600_000;
const SCHOOLS = 200;
/** Weeks that each class was asked. */
const WEEKS = 1;

/** Loads schools one after the other, so that memory holds one at a time. */
async function loadSchools(
  orm: MikroORM,
  count: number,
  weeks: number,
  now: Date,
): Promise<{ schools: BenchSchool[]; responses: number }> {
  const kinds = Array.from({ length: KINDS }, (_, kind) => classOf(100 + kind, CHILDREN, weeks));
  const schools: BenchSchool[] = [];
  let responses = 0;
  for (let i = 0; i < count; i++) {
    const { sittings, responses: answers } = kinds[i % KINDS]!;
    const em = orm.em.fork();
    const [schoolId, classId, adultId, token] = [v7(), v7(), v7(), newToken()];
    const key = { schoolId, classId };
    await em.insert(School, { id: schoolId, name: `school ${i}`, createdAt: now });
    const email = `keeper-${i}@saltmarsh.example`;
    const own = { schoolId, id: adultId, email, name: 'Harbour keeper', role: 'lead' as const, passwordHash: '' };
    await em.insert(Adult, { ...own, createdAt: now, careReadAt: now });
    const expiresAt = new Date(now.getTime() + HOUR_MS);
    await em.insert(SignIn, { tokenHash: hashOf(token), schoolId, adultId, createdAt: now, activeAt: now, expiresAt });
    await em.insert(SchoolClass, { schoolId, id: classId, name: 'Curlew', createdAt: now });
    await giveClass(em, key, adultId);
    await addChildren(em, key, [...new Set(sittings.map((s) => s.child))], now);
    const ids = new Map((await em.find(Child, key)).map((c) => [c.nickname, c.id]));
    await addToRecord(
      em,
      {
        key,
        sittings: sittings.map((s): SittingRow => ({
          id: s.id,
          routine: 'sums',
          started_at: new Date(s.startedAt).toISOString(),
          answer_mode: s.answerMode,
          settings: null,
        })),
        responses: answers.map((r) => ({ ...toRow(r), child: ids.get(r.child) ?? '' })),
      },
      now,
    );
    await new Judging({ orm, judge: judgeHere, now: () => now }).refresh(key);
    responses += answers.length;
    schools.push({
      cookie: `__Host-vane_sign_in=${token}`,
      path: `/api/classes/${classId}`,
      children: [...ids.values()],
    });
  }
  await orm.em.fork().execute('analyze');
  return { schools, responses };
}

/** Bytes of the database, with its indexes. */
async function databaseBytes(orm: MikroORM): Promise<number> {
  const [size] = await orm.em
    .fork()
    .execute<{ bytes: string }[]>('select pg_database_size(current_database()) as bytes');
  return Number(size?.bytes ?? 0);
}

/** @param url of an empty database */
export async function capacityFigures(url: string): Promise<object> {
  const orm = await openDatabase(url);
  const before = await databaseBytes(orm);
  const began = performance.now();
  const loaded = await loadSchools(orm, SCHOOLS, WEEKS, new Date());
  const seconds = (performance.now() - began) / 1000;
  const bytes = (await databaseBytes(orm)) - before;
  await orm.close();
  return { ...loaded, seconds, bytes };
}
