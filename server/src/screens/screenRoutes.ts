import type { OpenedScreen } from '@vane/contract';
import type { EntityManager } from '@mikro-orm/postgresql';
import type { Context, MiddlewareHandler } from 'hono';
import { getCookie, setCookie } from 'hono/cookie';
import { streamSSE } from 'hono/streaming';
import { once } from 'node:events';
import { v7 } from 'uuid';
import type { Limits } from '../adults/limits';
import { hashOf, newCode, newToken } from '../adults/tokens';
import type { Deps, Env } from '../request/context';
import { ContractRoutes } from '../request/contractRoutes';
import { qrFor } from '../request/forOthers';
import { Screen } from '../db/entities';
import { RequestProblem } from '../problems/problem';
import { type Live } from './live';
import { notice, type Side } from '../db/notices';
import { logged } from '../problems/logged';

const COOKIE = 'vane_screen';
const CODE_LASTS_MS = 10 * 60_000;
export const SCREEN_LASTS_MS = 24 * 3_600_000;
const KEEP_ALIVE_MS = 15_000;

const plain = (code: string): string => code.toUpperCase().replace(/[^A-Z0-9]/g, '');

const OTHER: Record<Side, Side> = { control: 'stage', stage: 'control' };

/** A screen, and the SQL condition on `screen s` that its follower must still meet (class or pairing). */
interface Followed {
  readonly schoolId: string;
  readonly id: string;
  readonly while: string;
  readonly values: readonly unknown[];
}

/** Streams the other side's state, now and on every change, until the browser disconnects, the screen ends, or the follower loses the right. */
function follow(c: Context<Env>, deps: Deps, live: Live, which: Followed, side: Side): Response {
  return streamSSE(c, async (stream) => {
    const over = new AbortController();
    stream.onAbort(() => over.abort());
    let sent = -1;
    let work = Promise.resolve();
    const send = async (): Promise<void> => {
      const [row]: { seq: number; state: object | null }[] = await deps.orm.em
        .fork()
        .execute(
          `select ${side}_seq::float8 as seq, ${side} as state from screen s where s.school_id = ? and s.id = ? and ${which.while}`,
          [which.schoolId, which.id, ...which.values],
        );
      if (row === undefined) return stream.writeSSE({ event: 'ended', data: '' }).then(() => over.abort());
      const { seq, state } = row;
      if (state === null || seq <= sent) return;
      sent = seq;
      await stream.writeSSE({ event: 'state', data: JSON.stringify({ seq, state }) });
    };
    const beat = async (): Promise<void> => {
      await send();
      if (!over.signal.aborted) await stream.writeSSE({ event: 'still-here', data: '' });
    };
    /** One after the other; what fails ends the stream, and the browser comes back by itself. */
    const then = (act: () => Promise<void>): void => {
      work = work
        .then(() => (over.signal.aborted ? undefined : act()))
        .catch((error: unknown) => {
          deps.log.error({ error: logged(error) }, 'a screen could not be followed');
          over.abort();
        });
    };
    const end = await live.on(which.id, (change) => {
      if (change === 'stopping') over.abort();
      else if (change !== OTHER[side]) then(send);
    });
    const beats = setInterval(() => then(beat), KEEP_ALIVE_MS);
    then(send);
    if (!over.signal.aborted) await once(over.signal, 'abort');
    clearInterval(beats);
    end();
  });
}

/**
 * Stores a side's state if it is newer, and notifies the other side in the same statement. The commit is asynchronous: a notifying commit serialises all others, and a state lost in a power cut is replaced by the next one.
 */
async function keep(
  em: EntityManager,
  { schoolId, id, classId }: { schoolId: string; id: string; classId?: string },
  side: Side,
  seq: number,
  state: object,
): Promise<void> {
  const told: unknown[] = await em.execute(
    `with kept as (update screen set ${side} = ?::jsonb, ${side}_seq = ?
       where school_id = ? and id = ? and class_id = coalesce(?, class_id) and ${side}_seq < ? returning 1)
     select set_config('synchronous_commit', 'off', true), pg_notify(?, ?) from kept`,
    [JSON.stringify(state), seq, schoolId, id, classId ?? null, seq, ...notice(id, side)],
  );
  const own = { schoolId, id, ...(classId === undefined ? {} : { classId }) };
  if (told.length === 0 && (await em.count(Screen, own)) === 0) throw new RequestProblem('not-found');
}

/** The address that a device opens, and the same as a picture to be photographed; null where no other device can reach this Vane. */
async function joinOf(publicUrl: string, code: string): Promise<OpenedScreen['join']> {
  const address = `${new URL(publicUrl).origin}/board`;
  const qr = await qrFor(publicUrl, `${address}?code=${code}`);
  return qr === null ? null : { address, qr };
}

/** The adult's side: opens a screen, writes its state, and follows its events. */
export function controlRoutes(deps: Deps, live: Live): ContractRoutes {
  return new ContractRoutes()
    .on('POST /classes/:classId/screens', async (c) => {
      const { em, classKey } = c.var;
      const now = deps.now();
      const [id, code] = [v7(), newCode()];
      const until = new Date(now.getTime() + CODE_LASTS_MS);
      await em.insert(Screen, {
        ...classKey,
        id,
        codeHash: hashOf(code),
        tokenHash: null,
        madeAt: now,
        codeUntil: until,
        controlSeq: 0,
        stageSeq: 0,
      });
      const opened: OpenedScreen = { id, code, until: until.toISOString(), join: await joinOf(deps.publicUrl, code) };
      return opened;
    })
    .on('PUT /classes/:classId/screens/:id', async (c, { id, body: { seq, state } }) => {
      await keep(c.var.em, { ...c.var.classKey, id }, 'control', seq, state);
    })
    .on('GET /classes/:classId/screens/:id/events', (c, { id }) => {
      const { schoolId, classId } = c.var.classKey;
      // Of this class, for as long as this sign-in lasts.
      const valid = 's.class_id = ? and exists (select 1 from sign_in i where i.token_hash = ? and i.expires_at > ?)';
      const values = [classId, c.var.signIn, deps.now()];
      return follow(c, deps, live, { schoolId, id, while: valid, values }, OTHER.control);
    })
    .on('DELETE /classes/:classId/screens/:id', async (c, { id }) => {
      if ((await c.var.em.nativeDelete(Screen, { ...c.var.classKey, id })) === 0) throw new RequestProblem('not-found');
      await c.var.em.execute('select pg_notify(?, ?)', notice(id, 'ended'));
    });
}

/** Lets only a paired device through. */
export const paired =
  (deps: Deps): MiddlewareHandler<Env> =>
  async (c, next) => {
    const token = getCookie(c, COOKIE);
    const since = new Date(deps.now().getTime() - SCREEN_LASTS_MS);
    const screen = token
      ? await c.var.em.findOne(
          Screen,
          { tokenHash: hashOf(token), madeAt: { $gt: since } },
          { fields: ['schoolId', 'id'] },
        )
      : null;
    if (!screen) throw new RequestProblem('not-paired');
    c.set('screen', { schoolId: screen.schoolId, id: screen.id, tokenHash: hashOf(token ?? '') });
    return next();
  };

/** The stage's side: a code opens it once, its token is good for this sitting's screen and nothing else. */
export function stageRoutes(deps: Deps, live: Live, limits: Limits): ContractRoutes {
  return new ContractRoutes()
    .on('POST /board/pair', async (c, { body }) => {
      const now = deps.now();
      await limits.count('pair', c.var.address);
      const token = newToken();
      // In one step: of two who type the same code, one comes too late.
      const opened: unknown[] = await c.var.em.execute(
        'update screen set token_hash = ?, code_hash = null where code_hash = ? and code_until > ? returning id',
        [hashOf(token), hashOf(plain(body.code)), now],
      );
      if (opened.length === 0) throw new RequestProblem('wrong-code');
      await limits.giveBack('pair', c.var.address);
      setCookie(c, COOKIE, token, {
        httpOnly: true,
        sameSite: 'Strict',
        path: '/api/board',
        secure: deps.secureCookie,
        maxAge: SCREEN_LASTS_MS / 1000,
      });
    })
    .on('PUT /board/stage', async (c, { body: { seq, state } }) => {
      await keep(c.var.em, c.var.screen, 'stage', seq, state);
    })
    .on('GET /board/stage', async (c) => {
      const { stageSeq } = await c.var.em.findOneOrFail(Screen, c.var.screen);
      return { seq: stageSeq };
    })
    .on('GET /board/events', (c) => {
      const { schoolId, id, tokenHash } = c.var.screen;
      const since = new Date(deps.now().getTime() - SCREEN_LASTS_MS);
      const paired = { while: 's.token_hash = ? and s.made_at > ?', values: [tokenHash, since] };
      return follow(c, deps, live, { schoolId, id, ...paired }, OTHER.stage);
    });
}
