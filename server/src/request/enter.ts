import type { Context } from 'hono';
import { School } from '../db/entities';
import type { Shard } from '../db/shards';
import { RequestProblem } from '../problems/problem';
import type { Env } from './context';

/** From here on a request is about a school, and works in the shard where that lives. @throws RequestProblem that the school is just being moved */
export function enter(c: Context<Env>, shard: Shard, moving: boolean): void {
  if (moving) throw new RequestProblem('school-moving');
  c.set('shard', shard);
  c.set('em', shard.orm.em.fork());
}

/** The same where it is not known yet whether it moves. */
export async function enterSchool(c: Context<Env>, shard: Shard, schoolId: string): Promise<void> {
  const school = await shard.orm.em.fork().findOneOrFail(School, { id: schoolId }, { fields: ['movingAt'] });
  enter(c, shard, Boolean(school.movingAt));
}
