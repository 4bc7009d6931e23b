import { keptDay, keptWeek, type Arrangements } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import { Setting } from '../db/entities';
import type { ClassKey } from '../db/keys';

/** Under which name each stands among the class's settings. */
const NAMES = { day: 'day-plan', week: 'week-settings' } as const;

/** What the class has arranged for the day and the week; what a later Vane wrote otherwise is as if it were not there. */
export async function arrangementsOf(em: EntityManager, key: ClassKey): Promise<Arrangements> {
  const found = await em.find(Setting, { ...key, name: { $in: Object.values(NAMES) } });
  const of = (name: string): unknown => found.find((one) => one.name === name)?.value;
  return {
    day: keptDay.safeParse(of(NAMES.day)).data ?? null,
    week: keptWeek.safeParse(of(NAMES.week)).data ?? null,
  };
}

/** Keeps what was arranged, unless something later is kept: in one statement, since two devices may send at once. A device whose clock is ahead says nothing of what is later: nobody has arranged anything after now. */
export async function arrange<What extends keyof typeof NAMES>(
  em: EntityManager,
  { schoolId, classId }: ClassKey,
  what: What,
  wish: NonNullable<Arrangements[What]>,
  now: Date,
): Promise<void> {
  const value = { ...wish, changedAt: Math.min(wish.changedAt, now.getTime()) };
  await em.execute(
    `insert into setting (school_id, class_id, name, value) values (?, ?, ?, ?::jsonb)
     on conflict (school_id, class_id, name) do update set value = excluded.value
     where coalesce((setting.value ->> 'changedAt')::float8, 0) < ? or (setting.value ->> 'changedAt')::float8 > ?`,
    [schoolId, classId, NAMES[what], JSON.stringify(value), value.changedAt, now.getTime()],
  );
}

/** Takes a child that is erased or goes to another class out of both, in every class of the school. */
export async function arrangeWithout(em: EntityManager, schoolId: string, childId: string): Promise<void> {
  await em.execute(
    `delete from setting where school_id = ? and name = '${NAMES.day}' and position(? in value::text) > 0`,
    [schoolId, childId],
  );
  // Of what an earlier Vane kept, all who were away on its one day: it is over.
  await em.execute(
    `update setting set value = jsonb_set(value, '{settings,away}', case jsonb_typeof(value #> '{settings,away}')
       when 'array' then jsonb_path_query_array(value #> '{settings,away}', '$[*] \\? (@.child != $child)', jsonb_build_object('child', ?::text))
       else '[]' end)
     where school_id = ? and name = '${NAMES.week}' and position(? in value::text) > 0`,
    [childId, schoolId, childId],
  );
}
