import { setCookie } from 'hono/cookie';
import type { Limits } from '../adults/limits';
import type { Shard } from '../db/shards';
import { RequestProblem } from '../problems/problem';
import type { Deps } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { inviteLead, limitSchool, openSchool, schoolsHere, SchoolTrouble } from '../school/openSchool';
import { SERVICE_COOKIE, SERVICE_PATH, serviceKeyUntil } from './serviceKeys';

/** What cannot be done with a school, as the page says it. */
const told = async <T>(act: Promise<T>): Promise<T> => {
  try {
    return await act;
  } catch (error) {
    if (error instanceof SchoolTrouble) throw new RequestProblem(error.code);
    throw error;
  }
};

/** The page of whoever runs Vane: the schools that are here, one more, and what each may have. */
export function serviceRoutes({ shards, now, publicUrl, secureCookie }: Deps, limits: Limits): ContractRoutes {
  const linkOf = (token: string) => ({ link: `${publicUrl}/join/${token}` });
  const shardNamed = (name: string): Shard => {
    const found = shards.all.find((shard) => shard.name === name);
    if (!found) throw new RequestProblem('not-found');
    return found;
  };
  return new ContractRoutes()
    .on('POST /service/open', async (c, { body: { token } }) => {
      await limits.count('link', c.var.address);
      const expires = await serviceKeyUntil(c.var.em, token, now());
      if (expires === null) throw new RequestProblem('service-link-over');
      await limits.giveBack('link', c.var.address);
      setCookie(c, SERVICE_COOKIE, token, {
        httpOnly: true,
        sameSite: 'Strict',
        path: SERVICE_PATH,
        secure: secureCookie,
        expires,
      });
    })
    .on('GET /service/schools', async () => ({
      schools: (await schoolsHere(shards)).map(({ movingAt, ...school }) => ({ ...school, moving: movingAt !== null })),
      shards: shards.all.map(({ name }) => name),
    }))
    .on('POST /service/schools', async (_, { body: { shard, ...wish } }) =>
      linkOf((await told(openSchool(shards, now(), wish, shardNamed(shard)))).token),
    )
    .on('PUT /service/schools/:id', async (_, { id, body }) => {
      await told(limitSchool(shards, now(), id, body));
    })
    .on('POST /service/schools/:id/invites', async (_, { id, body }) =>
      linkOf(await told(inviteLead(shards, now(), id, body))),
    );
}
